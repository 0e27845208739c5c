"""Completeness is a rule: what the kind of a thing demands is there, or a reason why it is not."""

from dataclasses import replace
from random import Random

import pytest
from tests.core.job.test_rules import KINDS

from bottega.core.library.kinds import excuses_of, missing_of


def without(check, component, demand):
    """A check that no longer asks this of that component."""
    asks = ((c, tuple(d for d in ds if (c, d) != (component, demand))) for c, ds in check.asks)
    return replace(check, asks=tuple(asks))


@pytest.mark.parametrize("kind", KINDS)
def test_what_a_kind_demands_is_missed_when_no_check_asks_it_any_more(shelf, kind):
    machine, kinds = shelf.machine(kind), shelf.tables.kinds
    assert list(missing_of(machine, kinds)) == []
    asked = {(c, d) for check in machine.checks.values() for c, ds in check.asks for d in ds}
    for component, demand in Random(kind).sample(sorted(asked), 15):
        left = {name: without(check, component, demand) for name, check in machine.checks.items()}
        missing = list(missing_of(replace(machine, checks=left), kinds))
        assert (component, demand) in {(lack.component, lack.demand) for lack in missing}


@pytest.mark.parametrize("kind", KINDS)
def test_what_is_excused_says_why_and_is_missed_without_that(shelf, kind):
    machine, kinds = shelf.machine(kind), shelf.tables.kinds
    excused = excuses_of(machine, kinds)
    assert excused
    assert all(len(reason.split()) > 1 for _, _, reason in excused)
    bare = {name: c.model_copy(update={"excused": {}}) for name, c in machine.components.items()}
    missing = list(missing_of(replace(machine, components=bare, excused={}), kinds))
    assert 0 < len(missing) <= len(excused)
