"""The log: append-only, once per id, in order; what was acknowledged survives a killed process."""

import os
import signal
import subprocess
import sys
from datetime import UTC, datetime

import pytest
from sqlalchemy import text
from sqlalchemy.exc import DatabaseError

from bottega.core.job.events import Event, Noted, Opened
from bottega.core.shop import ShopSettings
from bottega.store.backup import copy_shop
from bottega.store.database import FILE, StoreError, open_database
from bottega.store.log import EventLog, LogMoved, TakenId, UnknownJob
from bottega.store.shop import Member, ShopStore


def event(n, body=None):
    return Event(
        id=f"event-{n:04d}",
        at=datetime(2031, 5, 14, 9, n % 60, tzinfo=UTC),
        author="Tomo",
        body=body or Noted(text=f"note {n}"),
    )


OPEN = Opened(archetype="FB", age_years=5, place="x")


@pytest.fixture
def database():
    made = open_database(None)
    yield made
    made.close()


@pytest.fixture
def log(database):
    made = EventLog(database)
    made.create([event(0, OPEN)], "0401")
    return made


def test_what_is_written_is_read_back_in_order(log):
    for n in range(1, 6):
        assert log.append("0401", event(n), n) == n + 1
    assert log.read("0401") == [event(0, OPEN), *(event(n) for n in range(1, 6))]
    assert log.seq("0401") == 6


def test_the_same_id_is_stored_once(log):
    assert log.append("0401", event(1), 1) == 2
    assert log.append("0401", event(1), 1) == 2
    assert log.append("0401", event(1), 7) == 2
    assert log.seq("0401") == 2


def test_somebody_else_was_faster(log):
    log.append("0401", event(1), 1)
    with pytest.raises(LogMoved) as moved:
        log.append("0401", event(2), 1)
    assert moved.value.seq == 2


def test_an_id_of_another_job_is_refused(log):
    log.create([event(9, OPEN)], "0402")
    with pytest.raises(TakenId):
        log.append("0402", event(0), 1)
    with pytest.raises(TakenId):
        log.create([event(20, OPEN)], "0401")


def test_unknown_jobs_and_numbers(log):
    with pytest.raises(UnknownJob, match="0999"):
        log.read("0999")
    assert log.next_number() == "0402"


@pytest.mark.parametrize("statement", ["UPDATE events SET author = 'x'", "DELETE FROM events"])
def test_the_log_cannot_be_changed(log, database, statement):
    with database.engine.connect() as connection, pytest.raises(DatabaseError, match="append-only"):
        connection.execute(text(statement))


def test_settings_and_members_are_kept(database):
    shop = ShopStore(database)
    assert shop.settings() == ShopSettings()
    changed = ShopSettings(currency="USD", mains_v=120, mains_hz=60, units="us", ferry_days=(1, 4))
    shop.change_settings(lambda _: changed)
    shop.change_member("Pia", lambda _: "trainee")
    shop.change_member("Pia", lambda _: "technician")
    assert shop.settings() == changed
    assert shop.members() == [Member("Pia", "technician")]


def test_a_backup_while_in_use(tmp_path):
    database = open_database(tmp_path / "shop")
    EventLog(database).create([event(0, OPEN)], "0401")
    (tmp_path / "copy").mkdir()
    copy_shop(tmp_path / "shop" / FILE, tmp_path / "copy" / FILE)
    database.close()
    copy = open_database(tmp_path / "copy")
    assert EventLog(copy).numbers() == ["0401"]
    copy.close()


def test_a_folder_that_cannot_be_made(tmp_path):
    (tmp_path / "file").write_text("x")
    with pytest.raises(StoreError, match="expected a folder"):
        open_database(tmp_path / "file" / "shop")


WRITER = """
import sys
from datetime import UTC, datetime
from pathlib import Path
from bottega.core.job.events import Event, Noted, Opened
from bottega.store.database import open_database
from bottega.store.log import EventLog
log = EventLog(open_database(Path(sys.argv[1])))
at = datetime(2031, 5, 14, tzinfo=UTC)
opened = Opened(archetype="FB", age_years=1, place="x")
log.create([Event(id="event-0000", at=at, author="T", body=opened)], "0401")
for n in range(1, 100000):
    log.append("0401", Event(id=f"event-{n:06d}", at=at, author="T", body=Noted(text=str(n))), n)
    print(n, flush=True)
"""


@pytest.mark.parametrize("after", [3, 17])
def test_a_killed_process_loses_nothing_acknowledged(tmp_path, after):
    writer = subprocess.Popen(
        [sys.executable, "-c", WRITER, str(tmp_path)], stdout=subprocess.PIPE, text=True
    )
    acknowledged = 0
    assert writer.stdout is not None
    for line in writer.stdout:
        acknowledged = int(line)
        if acknowledged >= after:
            break
    os.kill(writer.pid, signal.SIGKILL)
    rest = writer.stdout.read().split()
    writer.stdout.close()
    writer.wait()
    acknowledged = max([acknowledged, *(int(n) for n in rest)])
    database = open_database(tmp_path)
    stored = EventLog(database).read("0401")
    database.close()
    assert len(stored) - 1 >= acknowledged
    assert [e.body.text for e in stored[1:]] == [str(n) for n in range(1, len(stored))]
