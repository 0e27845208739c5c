"""Jobs out and in: the same screens in an empty shop, and what is broken is refused whole."""

import json

import pytest
from tests.app.steps import prove_the_pump
from tests.conftest import Clock

from bottega.app.bench.sheets import bench
from bottega.app.errors import AppError, Refused
from bottega.app.job.file import export_job, import_job
from bottega.app.job.ledger import ledger
from bottega.app.job.record import new_event
from bottega.app.job.standing import breaking_of, unsafe_of
from bottega.app.workshop import open_workshop
from bottega.benchmark import hostile
from bottega.core.job.events import Noted


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
        (lambda raw: b"[" * 100_000, "brackets within each other"),
        (lambda raw: b'{"events": [' + b"1," * 900_000 + b"1]}", "expected at most 200000"),
        (lambda raw: b" " * 2_000_001, "at most"),
        (lambda raw: spoiled(raw, lambda d: d.update(version=9)), "Update it first"),
        (lambda raw: spoiled(raw, lambda d: d.update(events=[])), "broken at events"),
        (
            lambda raw: spoiled(raw, lambda d: d["events"][1]["body"].update(kind="danced")),
            "broken at event 2",
        ),
        (lambda raw: spoiled(raw, lambda d: d["events"].pop(0)), "not a whole job|opened"),
        (lambda raw: spoiled(raw, lambda d: d["events"].append(d["events"][0])), "same id"),
        (
            lambda raw: spoiled(raw, lambda d: d["events"][1]["body"].update(said=["says_ghost"])),
            "could not have happened",
        ),
        (
            lambda raw: spoiled(raw, lambda d: d["events"][0]["body"].update(sheet="ghost")),
            "not in the library",
        ),
    ],
)
def test_a_broken_export_is_refused_whole(workshop, houseboat, spoil, words):
    raw = export_job(workshop, houseboat).model_dump_json().encode()
    other = open_workshop(None, Clock())
    with pytest.raises(AppError, match=words):
        import_job(other, spoil(raw))
    assert other.log.numbers() == []
    other.close()


@pytest.fixture(scope="module")
def whole(shop):
    return json.loads(export_job(shop, "0412").model_dump_json())


BROKEN = [name for name in hostile.SPOILT if name != "unknown weights"]


@pytest.mark.parametrize("name", [*BROKEN, "cut", "deep", "not text", "nothing"])
def test_a_hostile_file_is_refused_and_takes_nothing_down(workshop, houseboat, whole, name):
    raw = dict(hostile.job_files(whole))[name]
    before = workshop.log.numbers()
    if name in ("infinite weights", "weights that are no numbers"):
        assert "weights" in raw.decode()
    with pytest.raises(AppError) as caught:
        import_job(workshop, raw)
    assert caught.value.status < 500
    assert workshop.log.numbers() == before
    assert [sheet.number for sheet in bench(workshop)] == before


def test_weights_of_outcomes_that_are_none_are_not_believed(workshop, houseboat, whole):
    """A reading is judged here anew, whatever its file says it means."""
    answer = import_job(workshop, dict(hostile.job_files(whole))["unknown weights"])
    for _, body in answer.job.checked():
        if body.reading is not None:
            known = {outcome.id for outcome in answer.machine.checks[body.check].outcomes}
            assert set(body.reading.weights) <= known


def test_a_reading_from_outside_is_judged_here(workshop, whole):
    events = [*whole["events"][:1]]
    body = hostile._reading(low=0.0, high=1e6, weights={"in band": 1.0}, amount=9e5)
    for place, step in enumerate(
        (
            {"kind": "state_changed", "what": "power", "to": "off"},
            {"kind": "state_changed", "what": "water", "to": "out"},
            {"kind": "took_off", "operation": "filter_flap"},
            {"kind": "took_off", "operation": "filter_cap"},
            body,
        )
    ):
        extra = {"id": f"forged-{place:04d}", "version": 1, "body": step}
        events.append({**whole["events"][0], **extra})
    answer = import_job(workshop, json.dumps({**whole, "events": events}).encode())
    reading = answer.job.checked()[-1][1]
    assert reading.outcome == "open"
    assert reading.reading.high == 205


def test_a_job_of_many_events_goes_out_and_in(workshop, houseboat):
    for n in range(700):
        event = new_event(workshop, Noted(text=f"note {n}"), "Pia", f"many-{n:06d}")
        workshop.log.append(houseboat, event, n + 2)
    raw = export_job(workshop, houseboat).model_dump_json().encode()
    other = open_workshop(None, Clock())
    assert import_job(other, raw).seq == 702
    other.close()


def with_event(raw, **body):
    """Return a job's file with one event more, just after its last."""
    data = json.loads(raw)
    last = data["events"][-1]
    data["events"].append({**last, "id": "an-event-from-elsewhere", "body": body})
    return json.dumps(data).encode()


@pytest.mark.parametrize(
    "body",
    [
        {"kind": "decided", "choice": "repair", "repair": "belt.part", "also": ["moon.part"]},
        {"kind": "decided", "choice": "repair", "also": ["belt.part"]},
        {"kind": "decided", "choice": "repair", "repair": "belt.part", "also": ["x"] * 9},
        {"kind": "checked", "check": "turn_rotor", "outcome": "free", "leaves": {"power": "off"}},
        {"kind": "checked", "check": "turn_rotor", "outcome": "free", "leaves": {"water": "moon"}},
        {"kind": "repaired", "repair": "drain_pump.part", "compared": "perhaps"},
    ],
)
def test_an_event_from_elsewhere_that_cannot_be_is_refused_by_its_line(
    workshop, houseboat, whole, body
):
    before = workshop.log.numbers()
    with pytest.raises(AppError, match=r"vent|broken"):
        import_job(workshop, with_event(json.dumps(whole), **body))
    assert workshop.log.numbers() == before


def test_what_was_done_against_the_rules_elsewhere_is_taken_and_marked(workshop, whole):
    """It is a report: nobody undoes it by refusing to read it."""
    plugged = {"kind": "state_changed", "what": "power", "to": "on"}
    off = {"kind": "took_off", "operation": "filter_cap"}
    data = with_event(json.dumps(whole), **off)
    raw = json.loads(data)
    raw["events"].append({**raw["events"][-1], "id": "and-another-one", "body": plugged})
    answer = import_job(workshop, json.dumps(raw).encode())
    assert "filter_cap" in answer.job.state.off
    assert [one.row for one in unsafe_of(workshop, answer)]
    assert breaking_of(workshop, answer)
