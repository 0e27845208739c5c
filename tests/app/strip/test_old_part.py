"""The part that came out is asked for until somebody has looked at it."""

from tests.app.steps import note, prove_the_pump, take_out

from bottega.app.job.answer import diagnose
from bottega.app.strip.old_part import looks_at, old_part_of


def test_the_part_that_came_out_is_looked_at_once(workshop, houseboat):
    prove_the_pump(workshop, houseboat)
    assert old_part_of(diagnose(workshop, houseboat)) is None
    take_out(workshop, houseboat, "drain_pump.part")
    note(workshop, houseboat, kind="repaired", repair="drain_pump.part")
    answer = diagnose(workshop, houseboat)
    old = old_part_of(answer)
    assert old is not None
    assert old.name == answer.machine.components["drain_pump"].name
    assert old.check.in_hand == "drain_pump"
    outcome = old.check.outcomes[0].id
    note(
        workshop,
        houseboat,
        kind="checked",
        check=old.check.id,
        outcome=outcome,
        old_part_of=old.repaired,
    )
    assert old_part_of(diagnose(workshop, houseboat)) is None


def test_a_part_nobody_can_look_at_has_no_check(f7):
    assert looks_at(f7, "no_such_part") is None
    assert all(looks_at(f7, c.in_hand) for c in f7.checks.values() if c.in_hand)
