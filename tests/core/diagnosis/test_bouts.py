"""Which occasion an entry belongs to."""

from dataclasses import replace
from datetime import UTC, datetime, timedelta

import pytest

from bottega.core.diagnosis.bouts import Bouts
from bottega.core.diagnosis.evidence import told_to_us
from bottega.core.job.events import (
    Checked,
    Complained,
    Event,
    Noted,
    Proved,
    Repaired,
    StateChanged,
)
from bottega.core.job.job import Entry

START = datetime(2031, 5, 14, 9, 0, tzinfo=UTC)
PAUSE_MIN = 45
LOOKED = Checked(check="turn_rotor", outcome="free")


def entry(body, minutes):
    at = START + timedelta(minutes=minutes)
    event = Event(id=f"event-{minutes:06d}", at=at, author="Tomo", body=body)
    return Entry(event, epoch=0, withdrawn=False, since_clear=False)


def occasions(*told):
    bouts = Bouts(PAUSE_MIN)
    return [bouts.of(entry(body, minutes)).number for body, minutes in told]


def test_what_follows_within_the_pause_is_one_occasion():
    assert len(set(occasions((LOOKED, 0), (LOOKED, PAUSE_MIN), (LOOKED, 2 * PAUSE_MIN)))) == 1


def test_after_a_pause_the_machine_has_cooled_and_stood():
    first, second = occasions((LOOKED, 0), (LOOKED, PAUSE_MIN + 1))
    assert second == first + 1


def test_the_time_between_call_and_visit_is_no_pause():
    call = Complained(text="hums", said=())
    assert len(set(occasions((call, 0), (LOOKED, 3000)))) == 1


@pytest.mark.parametrize(
    "body",
    [
        StateChanged(what="power", to="on"),
        Repaired(repair="drain_pump.part"),
        Proved(proof="run", went="badly"),
    ],
)
def test_the_power_on_a_repair_and_a_run_each_begin_one(body):
    first, own, after = occasions((LOOKED, 0), (body, 1), (LOOKED, 2))
    assert first < own == after


@pytest.mark.parametrize("body", [StateChanged(what="power", to="off"), Noted(text="x")])
def test_pulling_the_plug_and_a_note_begin_none(body):
    assert len(set(occasions((LOOKED, 0), (body, 1), (LOOKED, 2)))) == 1


def test_a_check_that_provokes_has_an_occasion_to_itself(f7):
    provoking = next(check for check in f7.checks.values() if check.provokes)
    plain, bouts = f7.checks["turn_rotor"], Bouts(PAUSE_MIN)
    before, own, after = (bouts.check(c, 0) for c in (plain, provoking, plain))
    assert len({before.number, own.number, after.number}) == 3
    assert own.provokes == provoking.provokes


def test_a_question_is_about_the_time_the_customer_tells_of(f7):
    asked = replace(f7.checks["turn_rotor"], who="customer")
    assert Bouts(PAUSE_MIN).check(asked, 2) == told_to_us(2)
