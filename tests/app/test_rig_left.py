"""A machine on the rig stands as hands left it, whether it is in memory or comes out of the
database."""

from random import Random

import pytest
from sqlalchemy import text
from tests.app.test_rig_hands import KINDS, hand

from bottega.app.errors import AppError
from bottega.app.rig.acts import act
from bottega.app.rig.fetch import stand
from bottega.app.rig.left import UNREADABLE, left_of
from bottega.rig.programmes import programmes_of
from bottega.store.rigs import RigTicket


def drawn(workshop, kind="FB"):
    workshop.rigs.keep(RigTicket("one", kind, None, "seed", {}))
    return stand(workshop, "one")


@pytest.mark.parametrize("kind", KINDS)
def test_what_hands_did_is_there_when_the_machine_comes_back(workshop, kind):
    at, rng, done = drawn(workshop, kind), Random(f"left:{kind}"), 0
    while done < 25:
        try:
            hand(workshop, at, rng)
            done += 1
        except AppError:
            continue
        act(workshop, "one", "stop", "", seen=at.acts)
    workshop.stands.clear()
    back = stand(workshop, "one")
    at.catch_up(back.wall)
    assert back is not at
    assert back.acts == at.acts > 25
    assert left_of(back) == left_of(at)
    back.machine.wait(60.0)
    at.machine.wait(60.0)
    assert back.machine.now == at.machine.now


def test_a_programme_that_ran_has_stopped_and_its_water_is_still_there(workshop):
    at = drawn(workshop)
    act(workshop, "one", "start", next(iter(programmes_of(at.machine_type))), seen=0)
    act(workshop, "one", "wait", "90", seen=at.acts)
    litres, running = at.machine.warmth.litres, at.running
    assert litres > 1
    assert running
    workshop.stands.clear()
    back = stand(workshop, "one")
    assert back.machine.warmth.litres == pytest.approx(litres, abs=0.5)
    assert not back.running
    assert running in back.told[0]
    assert "stopped" in back.told[0]


def test_what_was_left_and_cannot_be_read_is_said(workshop):
    at = drawn(workshop)
    act(workshop, "one", "pour", "", seen=0)
    with workshop.rigs._database.writing() as session:
        session.execute(text("UPDATE rigs SET left = '{\"hands\": 7'"))
    workshop.stands.clear()
    back = stand(workshop, "one")
    assert UNREADABLE in back.told[0]
    assert back.machine.warmth.litres == 0
    act(workshop, "one", "pour", "", seen=back.acts)
    assert at.acts == 1
    assert back.acts == 2
