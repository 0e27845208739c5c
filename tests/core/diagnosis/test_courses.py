"""Courses: every way in which repairs may have worked on a fault set, held against a walk over
plain sets."""

import pytest
from tests.engine import model_of

from bottega.benchmark.reduced import random_machine
from bottega.core.diagnosis.courses import MOST_REPAIRS, BudgetSpent, courses
from bottega.core.diagnosis.evidence import Removal


def removals(machine, success):
    """Return three repairs in a row, each of two faults."""
    names = sorted(machine.faults)
    pairs = [tuple(names[n : n + 2]) for n in range(3)]
    return tuple(
        Removal(after_epoch=n, faults=frozenset(pair), success=success)
        for n, pair in enumerate(pairs)
    )


def plainly(start, repairs):
    """Return the chance of every story of a set: what is left of it, epoch by epoch."""
    stories = {(start,): 1.0}
    for repair in repairs:
        after = {}
        for story, chance in stories.items():
            cured = story[-1] - repair.faults
            for left, share in ((cured, repair.success), (story[-1], 1 - repair.success)):
                if cured == story[-1]:
                    left, share = cured, 1.0 if left is cured else 0.0
                if share:
                    key = (*story, left)
                    after[key] = after.get(key, 0.0) + chance * share
        stories = after
    return stories


def members(model, row):
    return frozenset(model.fault_ids[f] for f in model.sets[row] if f >= 0)


@pytest.mark.parametrize("success", [0.8, 1.0])
@pytest.mark.parametrize("seed", range(4))
def test_every_story_has_its_chance_and_none_is_told_twice(seed, success):
    machine = random_machine(seed, faults=4)
    model, repairs = model_of(machine), removals(machine, success)
    found = courses(model, repairs)
    told = {}
    for n, origin in enumerate(found.origin):
        story = tuple(members(model, row) for row in found.at[:, n])
        assert story[0] == members(model, origin)
        assert story not in told
        told[story] = float(found.chance[n])
    expected = {}
    for row in range(len(model.sets)):
        expected |= plainly(members(model, row), repairs)
    assert told == pytest.approx(expected)
    assert found.origin[: len(model.sets)].tolist() == list(range(len(model.sets)))


def test_more_repairs_than_one_number_marks_are_refused():
    machine = random_machine(1, faults=4)
    name = min(machine.faults)
    many = tuple(Removal(n, frozenset({name}), 0.9) for n in range(MOST_REPAIRS + 1))
    with pytest.raises(BudgetSpent, match="expected at most 62"):
        courses(model_of(machine), many)
