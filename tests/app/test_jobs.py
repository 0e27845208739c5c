"""The use cases: record, read, import, decide; refused is refused whole."""

import json

import pytest
from tests.conftest import Clock, new_id

from bottega.app.bench import bench, next_ferry, search
from bottega.app.deciding import choices, decision, not_known
from bottega.app.demo import fill
from bottega.app.diagnosing import diagnose
from bottega.app.errors import AppError, BadValue, NotFound, Refused, Stale
from bottega.app.exchange import export_job, import_job
from bottega.app.ledger import ledger
from bottega.app.measuring import take_reading
from bottega.app.panel import read_panel
from bottega.app.recording import parse_body, record, undo
from bottega.app.reporting import report_of
from bottega.app.settling import change_settings
from bottega.app.taking import loading, open_job
from bottega.app.workshop import open_workshop
from bottega.core.job.events import Checked, Noted, StateChanged

WHO = "Ilaria Venn"


def note(workshop, number, **raw):
    return record(workshop, number, parse_body(raw), WHO, new_id())


def prove_the_pump(workshop, number):
    note(workshop, number, kind="state_changed", what="water", to="out")
    note(workshop, number, kind="took_off", operation="filter_flap")
    note(workshop, number, kind="took_off", operation="filter_cap")
    answer = diagnose(workshop, number)
    record(
        workshop, number, take_reading(workshop, answer.job, answer.machine, "measure_pump_coil", "184"), WHO, new_id()
    )
    return note(workshop, number, kind="checked", check="turn_rotor", outcome="free")


def test_the_houseboat_ends_at_the_pump(workshop, houseboat):
    answer = prove_the_pump(workshop, houseboat)
    assert answer.ranking[0][0] == "rotor_slips"
    assert answer.ranking[0][1] > 0.95
    assert choices(workshop, answer)[0].repair.id == "drain_pump.part"
    row = next(r for r in ledger(answer) if "coil" in r.what)
    assert "184 ohm, in band (165 to 205, sheet)" in row.detail
    assert any("rotor" in r.what and r.decibans > 10 for r in ledger(answer))


def test_an_event_sent_twice_is_stored_once(workshop, houseboat):
    before = diagnose(workshop, houseboat).seq
    same = new_id()
    for _ in range(3):
        answer = record(workshop, houseboat, Noted(text="wet shoes"), WHO, same, seen=before)
    assert answer.seq == before + 1


def test_a_job_opened_twice_is_one_job(workshop):
    same = new_id()
    opened = {"sheet": "nembrio-f7", "age_years": 3, "place": "Quay"}
    assert (
        open_job(workshop, opened, "dead", [], WHO, same).number
        == open_job(workshop, opened, "dead", [], WHO, same).number
    )


def test_a_stale_form_changes_nothing(workshop, houseboat):
    seen = diagnose(workshop, houseboat).seq
    note(workshop, houseboat, kind="noted", text="somebody else was here")
    with pytest.raises(Stale, match="one thing has been noted"):
        record(workshop, houseboat, Noted(text="late"), WHO, new_id(), seen=seen)
    assert diagnose(workshop, houseboat).seq == seen + 1


@pytest.mark.parametrize(
    ("raw", "error"),
    [
        ({"kind": "checked", "check": "turn_rotor", "outcome": "free"}, Refused),
        ({"kind": "checked", "check": "nothing", "outcome": "free"}, Refused),
        ({"kind": "exploded"}, BadValue),
        ({}, BadValue),
        ({"kind": "noted", "text": ""}, BadValue),
        ({"kind": "noted", "text": "x" * 3000}, BadValue),
        ({"kind": "noted", "text": "x", "extra": 1}, BadValue),
        ({"kind": "state_changed", "what": "charge", "to": "none", "measured_v": -4}, BadValue),
        ({"kind": "handed_over"}, Refused),
    ],
)
def test_what_is_refused_leaves_the_job_unchanged(workshop, houseboat, raw, error):
    before = diagnose(workshop, houseboat).seq
    with pytest.raises(error) as caught:
        note(workshop, houseboat, **raw)
    assert 400 <= caught.value.status < 500
    assert diagnose(workshop, houseboat).seq == before


def test_a_verdict_from_outside_is_judged_again(workshop, houseboat):
    prove_the_pump(workshop, houseboat)
    answer = diagnose(workshop, houseboat)
    honest = take_reading(workshop, answer.job, answer.machine, "measure_pump_coil", "OL")
    forged = honest.model_copy(update={"outcome": "in band"})
    record(workshop, houseboat, forged, WHO, new_id())
    assert diagnose(workshop, houseboat).job.checked()[-1][1].outcome == "open"


@pytest.mark.parametrize("typed", ["", "abc", "12 V", "-1", "1e99"])
def test_a_reading_that_cannot_be_is_refused(workshop, houseboat, typed):
    answer = diagnose(workshop, houseboat)
    with pytest.raises(BadValue) as caught:
        take_reading(workshop, answer.job, answer.machine, "measure_pump_coil", typed)
    assert caught.value.field == "reading"
    with pytest.raises(BadValue, match="outcomes, not by a reading"):
        take_reading(workshop, answer.job, answer.machine, "turn_rotor", "3")


def test_flashes_typed_for_two_lamps(f7):
    two = {"amber_0": "3", "white_0": "2", "amber_1": "6", "white_1": "1", "result": "codes"}
    assert read_panel(f7, two).codes == ("3-2", "6-1")
    assert read_panel(f7, {"result": "none"}).result == "none"
    for fields, words in [
        ({"result": "codes"}, "No count"),
        ({"result": "codes", "amber_0": "3"}, "white flashes"),
        ({"result": "codes", "amber_0": "3", "white_0": "1"}, "One step away: .*3-2"),
        ({"result": "codes", "amber_0": "x", "white_0": "1"}, "whole number"),
        ({"result": "none", "amber_0": "3", "white_0": "2"}, "Empty them"),
        ({"result": "maybe"}, "expected codes, none or unreadable"),
    ]:
        with pytest.raises(BadValue, match=words):
            read_panel(f7, fields)


def test_undo_takes_back_the_newest_and_stops_at_the_opening(workshop, houseboat):
    note(workshop, houseboat, kind="noted", text="one")
    answer = undo(workshop, houseboat, WHO, new_id())
    assert [r.withdrawn for r in ledger(answer)] == [False, False, True, False]
    undo(workshop, houseboat, WHO, new_id())
    with pytest.raises(Refused, match="nothing to withdraw"):
        undo(workshop, houseboat, WHO, new_id())


def test_export_then_import_into_an_empty_shop_gives_the_same(workshop, houseboat):
    before = prove_the_pump(workshop, houseboat)
    raw = export_job(workshop, houseboat).model_dump_json().encode()
    other = open_workshop(None, Clock())
    after = import_job(other, raw)
    assert after.number == before.number
    assert dict(after.ranking) == pytest.approx(dict(before.ranking))
    assert ledger(after) == ledger(before)
    with pytest.raises(Refused, match="here already"):
        import_job(other, raw)
    other.close()


def spoiled(raw, change):
    data = json.loads(raw)
    change(data)
    return json.dumps(data).encode()


@pytest.mark.parametrize(
    ("spoil", "words"),
    [
        (lambda raw: raw[: len(raw) // 2], "cut or is not JSON"),
        (lambda raw: b"\xff\x00", "cut or is not JSON"),
        (lambda raw: b"[1, 2]", "not a job"),
        (lambda raw: b"[" * 100_000, "cut or is not JSON"),
        (lambda raw: b" " * 2_000_001, "at most"),
        (lambda raw: spoiled(raw, lambda d: d.update(version=9)), "Update it first"),
        (lambda raw: spoiled(raw, lambda d: d.update(events=[])), "broken at events"),
        (lambda raw: spoiled(raw, lambda d: d["events"][1]["body"].update(kind="danced")), "broken at events.1"),
        (lambda raw: spoiled(raw, lambda d: d["events"].pop(0)), "not a whole job|opened"),
        (lambda raw: spoiled(raw, lambda d: d["events"].append(d["events"][0])), "same id"),
        (
            lambda raw: spoiled(raw, lambda d: d["events"][1]["body"].update(said=["says_ghost"])),
            "could not have happened",
        ),
        (lambda raw: spoiled(raw, lambda d: d["events"][0]["body"].update(sheet="ghost")), "not in the library"),
    ],
)
def test_a_broken_export_is_refused_whole(workshop, houseboat, spoil, words):
    raw = export_job(workshop, houseboat).model_dump_json().encode()
    other = open_workshop(None, Clock())
    with pytest.raises(AppError, match=words):
        import_job(other, spoil(raw))
    assert other.log.numbers() == []
    other.close()


def test_the_quote_of_the_decision_is_kept_with_it(workshop, houseboat):
    answer = prove_the_pump(workshop, houseboat)
    decided = decision(workshop, answer, "repair", "drain_pump.part", "proved")
    assert decided.total == pytest.approx(sum(line.amount for line in decided.lines), abs=0.011)
    with pytest.raises(BadValue, match="expected one that is offered"):
        decision(workshop, answer, "repair", "belt.part", "")


def test_settings_switch_to_dollars_and_120_volts(workshop, houseboat):
    before = decision(workshop, prove_the_pump(workshop, houseboat), "repair", "drain_pump.part", "")
    settings = change_settings(
        workshop, {"currency": "usd", "per_eur": "1.2", "mains_v": "120", "mains_hz": "60", "units": "us"}
    )
    assert (settings.currency, settings.units) == ("USD", "us")
    after = decision(workshop, diagnose(workshop, houseboat), "repair", "drain_pump.part", "")
    assert after.currency == "USD"
    assert after.total > before.total
    for typed, words in [
        ({"mains_v": "12000"}, "expected 90 to 260"),
        ({"currency": "zzz"}, "three letters"),
        ({"units": "cubits"}, "metric"),
        ({"ferry_days": "Someday"}, "such as Tue"),
        ({"colour": "red"}, "one of the shop"),
    ]:
        with pytest.raises(BadValue, match=words):
            change_settings(workshop, typed)
    assert workshop.settings == settings


def test_what_to_load_for_the_houseboat(workshop, houseboat):
    load = loading(workshop, diagnose(workshop, houseboat))
    assert load.parts[0][:2] == ("drain pump", "NB-4410-2")
    assert "flat tray and cloth" in load.tools
    assert load.band[0] < load.band[1]


def test_a_report_says_what_was_shown_and_what_was_not(workshop, houseboat):
    early = report_of(diagnose(workshop, houseboat))
    assert any("not ruled out" in line for line in early.unknown)
    report = report_of(prove_the_pump(workshop, houseboat))
    assert "rotor slips" in report.verdict
    assert report.reasons[0][0] == "Turn the pump rotor by hand: turns freely, no steps"
    assert report.readings[0].shown == "184 ohm"
    assert not_known(report.answer)


@pytest.mark.parametrize(
    "opened",
    [
        {"sheet": "ghost", "age_years": 1, "place": "x"},
        {"archetype": "ZZ", "age_years": 1, "place": "x"},
        {"sheet": "nembrio-f7", "age_years": 900, "place": "x"},
        {"sheet": "nembrio-f7", "age_years": None, "place": "x"},
        {"sheet": "nembrio-f7", "age_years": 3, "place": ""},
        {"archetype": "FB", "age_years": 3, "place": "x", "plate": {"volts": 5000}},
    ],
)
def test_a_call_that_cannot_be_taken_opens_nothing(workshop, opened):
    with pytest.raises(BadValue):
        open_job(workshop, opened, "dead", [], WHO, new_id())
    assert workshop.log.numbers() == []


def test_an_unknown_job_is_not_found(workshop):
    with pytest.raises(NotFound, match="9999"):
        diagnose(workshop, "9999")


def test_the_demo_shop_fills_once_and_keeps_what_changed(workshop):
    assert fill(workshop)
    sheets = {sheet.number: sheet for sheet in bench(workshop)}
    assert len({sheet.station for sheet in sheets.values()}) >= 4
    assert sheets["0412"].place == "Houseboat Ondina"
    assert {sheet.lane for sheet in sheets.values()} >= {"person", "part", "customer", "closed"}
    record(workshop, "0412", StateChanged(what="water", to="out"), WHO, new_id())
    seq = diagnose(workshop, "0412").seq
    assert not fill(workshop)
    assert diagnose(workshop, "0412").seq == seq
    assert [sheet.number for sheet in search(list(sheets.values()), "ondina f7")] == ["0412"]


def test_the_bench_is_rebuilt_from_the_log(workshop, houseboat):
    bench(workshop)
    record(workshop, houseboat, Checked(check="turn_drum", outcome="rumbles"), WHO, new_id())
    fresh = bench(workshop)[0]
    assert workshop.log.summaries()[houseboat].seq == diagnose(workshop, houseboat).seq
    assert fresh.headline


def test_the_next_ferry():
    from datetime import date

    assert next_ferry(date(2031, 5, 14), (1, 4)) == date(2031, 5, 16)
    assert next_ferry(date(2031, 5, 16), (1, 4)) == date(2031, 5, 20)
    assert next_ferry(date(2031, 5, 16), ()) is None
