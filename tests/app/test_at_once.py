"""Two write at once: nothing acknowledged is lost, and what was overtaken is said with both
values."""

from concurrent.futures import ThreadPoolExecutor
from dataclasses import replace

import pytest

from bottega.app.errors import Stale
from bottega.app.library.sheets import add_fastener, add_note, add_value, save, text_of
from bottega.app.shop.gear import drop_instrument, keep_instrument, marks
from bottega.app.shop.settings import add_member, as_typed, change_settings
from bottega.app.workshop import open_workshop

F7 = "nembrio-f7"
VALUE = {"key": "pump_coil_ohm", "low": "150", "high": "210", "unit": "ohm", "grade": "measured"}


@pytest.fixture
def shop(tmp_path):
    """A workshop on disk, so that writers really stand in line."""
    made = open_workshop(tmp_path)
    yield made
    made.close()


def at_once(tasks):
    """Do all of them at once and return what each raised, None where it went well."""

    def done(task):
        try:
            task()
        except Stale as error:
            return error
        return None

    with ThreadPoolExecutor(8) as pool:
        return list(pool.map(done, tasks))


def test_forty_instruments_written_at_once_are_all_there(shop):
    def keep(n):
        return lambda: keep_instrument(shop, {"name": f"Meter {n}"}, ["resistance"], {})

    assert at_once([keep(n) for n in range(40)]) == [None] * 40
    assert {one.name for one in shop.settings.gear} == {f"Meter {n}" for n in range(40)}


def test_each_setting_of_a_form_stands_whoever_changed_another_meanwhile(shop):
    was = as_typed(shop, shop.settings)
    own = {"rate_per_hour": "61", "visit_fee": "40", "mains_v": "120", "units": "us"}
    tasks = [
        lambda key=key, text=text: change_settings(shop, {**was, key: text}, was)
        for key, text in own.items()
    ]
    assert at_once(tasks) == [None] * len(own)
    now = as_typed(shop, shop.settings)
    assert {key: now[key] for key in own} == own


def test_of_many_who_change_one_setting_all_but_one_are_told_both_values(shop):
    was = as_typed(shop, shop.settings)
    tasks = [
        lambda n=n: change_settings(shop, {**was, "rate_per_hour": f"{60 + n}"}, was)
        for n in range(10)
    ]
    found = at_once(tasks)
    kept = as_typed(shop, shop.settings)["rate_per_hour"]
    assert found.count(None) == 1
    assert found[int(kept) - 60] is None
    told = [str(error) for error in found if error]
    assert all(f"somebody else has put '{kept}'" in words for words in told)
    assert len({words.split("you typed")[1] for words in told}) == 9


def test_the_same_once_more_is_no_quarrel(shop):
    was = as_typed(shop, shop.settings)
    typed = {**was, "rate_per_hour": "70"}
    assert at_once([lambda: change_settings(shop, typed, was)] * 2) == [None, None]
    meter = {"name": "Meter"}
    assert at_once([lambda: keep_instrument(shop, meter, ["power"], {})] * 2) == [None, None]


def test_an_instrument_somebody_wrote_anew_is_neither_overwritten_nor_struck_out_unseen(shop):
    keep_instrument(shop, {"name": "Meter"}, ["power"])
    seen = marks(shop.settings.gear)
    keep_instrument(shop, {"name": "Meter", "accuracy": "2"}, ["current"], seen)
    with pytest.raises(Stale, match=r"current; 2.000%.*You wrote: power; 5.000%"):
        keep_instrument(shop, {"name": "Meter", "accuracy": "5"}, ["power"], seen)
    with pytest.raises(Stale, match=r"You wrote: nothing"):
        drop_instrument(shop, "Meter", seen)
    drop_instrument(shop, "Meter", marks(shop.settings.gear))
    assert shop.settings.gear == ()


def test_a_role_somebody_else_gave_is_said(shop):
    add_member(shop, "Ida", "trainee", "")
    with pytest.raises(Stale, match=r"Ida is 'trainee' since somebody else wrote it.*'owner'"):
        add_member(shop, "Ida", "owner", "")
    assert add_member(shop, "Ida", "owner", "trainee").role == "owner"
    assert add_member(shop, "Ida", "owner", "trainee").role == "owner"


def test_four_and_twenty_notes_on_one_sheet_are_all_in_it(shop, tmp_path):
    tasks = [lambda n=n: add_note(shop, F7, f"note {n}", "Tomo") for n in range(24)]
    assert at_once(tasks) == [None] * 24
    again = open_workshop(tmp_path)
    assert {f"note {n}" for n in range(24)} <= set(again.shelf.sheets[F7].notes)
    again.close()


def test_a_value_somebody_else_wrote_since_is_said_with_both(shop):
    seen = str(shop.sheets.seq(F7))
    add_value(shop, F7, {**VALUE, "seen": seen}, "Ida")
    with pytest.raises(Stale, match=r"somebody else has put .*150.*you wrote .*16"):
        add_value(shop, F7, {**VALUE, "low": "160", "seen": seen}, "Tomo")
    before = shop.sheets.seq(F7)
    add_value(shop, F7, {**VALUE, "seen": seen, "source": "noted by Ida"}, "Tomo")
    assert shop.sheets.seq(F7) == before
    assert shop.shelf.machine("FB", F7).values["pump_coil_ohm"].low == 150


def test_another_value_than_what_was_written_since_goes_in_beside_it(shop):
    seen = str(shop.sheets.seq(F7))
    add_value(shop, F7, {**VALUE, "seen": seen}, "Ida")
    fastener = {"operation": "top", "kind": "screw", "count": "3", "seen": seen}
    add_fastener(shop, F7, fastener, "Tomo")
    machine = shop.shelf.machine("FB", F7)
    assert machine.values["pump_coil_ohm"].low == 150
    assert machine.operations["top"].fasteners[0].count == 3


def test_a_note_sent_twice_is_one_note(shop):
    for _ in range(2):
        add_note(shop, F7, "behind the flap", "Ida")
    assert shop.shelf.sheets[F7].notes.count("behind the flap") == 1


def test_whoever_writes_a_sheet_as_a_whole_is_told_what_was_put_in_since(shop):
    text, seen = text_of(shop, F7), shop.sheets.seq(F7)
    add_note(shop, F7, "behind the flap", "Ida")
    with pytest.raises(Stale, match="behind the flap"):
        save(shop, text + "\n# mine\n", "Tomo", F7, seen=seen)


def test_what_a_change_raises_changes_nothing(shop):
    shop.change_settings(lambda kept: replace(kept, name="Faro"))

    def breaks(_):
        raise Stale("no")

    with pytest.raises(Stale):
        shop.change_settings(breaks)
    assert shop.settings.name == "Faro"
