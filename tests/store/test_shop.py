"""Settings and members: as they were kept, and what a newer version added is left alone."""

import threading
from dataclasses import replace

from sqlalchemy import text
from tests.conftest import Clock

from bottega.app.workshop import open_workshop
from bottega.core.shop import ShopSettings
from bottega.store.database import open_database
from bottega.store.shop import Member, ShopStore


def test_settings_come_back_as_they_were_kept(tmp_path):
    database = open_database(tmp_path)
    store = ShopStore(database)
    assert store.settings() == ShopSettings()
    kept = ShopSettings(name="Faro", currency="USD", mains_v=120, ferry_days=(1, 4))
    store.change_settings(lambda _: kept)
    assert store.settings() == kept
    database.close()


def test_what_a_newer_version_added_does_not_stop_this_one(tmp_path):
    database = open_database(tmp_path)
    store = ShopStore(database)
    store.change_settings(lambda _: ShopSettings(name="Faro"))
    with database.writing() as session:
        newer = "UPDATE settings SET body = json_set(body, '$.moon_phase', 'full')"
        session.execute(text(newer))
    assert store.settings().name == "Faro"
    database.close()


def test_members_are_in_the_order_of_their_names_and_a_role_changes():
    database = open_database(None)
    store = ShopStore(database)
    for name, role in (("Tomo", "technician"), ("Ilaria", "owner"), ("Tomo", "trainee")):
        store.change_member(name, lambda _, role=role: role)
    assert store.members() == [Member("Ilaria", "owner"), Member("Tomo", "trainee")]
    database.close()


def test_whoever_reads_while_others_write_sees_settings_and_never_nothing(tmp_path):
    workshop = open_workshop(tmp_path, Clock())
    found, done = [], threading.Event()

    def read():
        while not done.is_set():
            found.append((workshop.settings, workshop.members))

    readers = [threading.Thread(target=read) for _ in range(4)]
    for thread in readers:
        thread.start()
    for n in range(20):
        workshop.change_settings(lambda kept, n=n: replace(kept, name=f"Faro {n}"))
        workshop.change_member(f"Member {n:02d}", lambda _: "technician")
    done.set()
    for thread in readers:
        thread.join()
    assert all(settings is not None and members is not None for settings, members in found)
    assert workshop.settings.name == "Faro 19"
    assert len(workshop.members) == 20
    workshop.close()
