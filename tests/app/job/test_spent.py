"""What a job has come to so far, reckoned by hand and held against its quote."""

import pytest
from tests.app.steps import note, prove_the_pump, take_out

from bottega.app.decide.decision import choices
from bottega.app.job.answer import diagnose
from bottega.app.job.spent import spent_on


def test_what_is_done_counts_and_a_part_is_charged_as_quoted(workshop, houseboat):
    """54 an hour is 0.90 a minute; what goes back takes what it took to come off, or what it says
    of itself."""
    answer = prove_the_pump(workshop, houseboat)
    quoted = choices(workshop, answer)[0].quote.lines[-1].amount
    take_out(workshop, houseboat, "drain_pump.part")
    answer = diagnose(workshop, houseboat)
    before, machine = spent_on(answer, workshop.settings), answer.machine
    assert before.money == pytest.approx(0.9 * before.minutes)
    fitted = note(workshop, houseboat, kind="repaired", repair="drain_pump.part")
    spent = spent_on(fitted, workshop.settings)
    minutes = machine.repairs["drain_pump.part"].minutes
    assert spent.minutes == pytest.approx(before.minutes + minutes)
    assert spent.money == pytest.approx(before.money + 0.9 * minutes + quoted)
    closed = note(workshop, houseboat, kind="put_back", operation="pump_out")
    back = spent_on(closed, workshop.settings)
    assert back.minutes == pytest.approx(spent.minutes + machine.operations["pump_out"].minutes)


def test_what_is_taken_back_is_not_spent(workshop, houseboat):
    answer = prove_the_pump(workshop, houseboat)
    before = spent_on(answer, workshop.settings)
    last = answer.job.events[-1]
    undone = note(workshop, houseboat, kind="withdrawn", event=last.id)
    minutes = answer.machine.checks["turn_rotor"].minutes
    assert spent_on(undone, workshop.settings).minutes == pytest.approx(before.minutes - minutes)
