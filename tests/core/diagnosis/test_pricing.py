"""The price of checks: laws that hold whatever the model, and one step worked out by its
definition."""

from dataclasses import replace

import numpy as np
import pytest
from tests.engine import model_of

from bottega.benchmark.reduced import random_machine
from bottega.core.diagnosis.evidence import Evidence
from bottega.core.diagnosis.infer import infer
from bottega.core.diagnosis.pricing import priced
from bottega.core.diagnosis.prior import prior
from bottega.core.diagnosis.repairplan import ShopPrices
from bottega.core.diagnosis.setting import Setting
from bottega.core.library.machine_type import Outcome
from bottega.core.machine.reach import Reaching
from bottega.core.machine.state import MachineState

PRICES = ShopPrices(rate_per_min=0.9, refer=360, prove_at=0.0)
ONE_DEEP = {"two_deep_among": 0, "looked_into": 99}
"""One move is looked at, and every check is followed to the end."""


def setting(shelf, machine, **engine):
    model, table = model_of(machine), shelf.tables.engine.model_copy(update=engine)
    before = prior(model, 7, table)
    belief = infer(model, before, Evidence())
    reaching = Reaching(machine, shelf.tables)
    return Setting(belief, Evidence(), MachineState(), reaching, PRICES, table)


@pytest.mark.parametrize("seed", range(6))
def test_a_check_that_tells_nothing_is_worth_its_cost_and_no_more(shelf, seed):
    """Its outcomes are as likely in every state."""
    machine = random_machine(seed, faults=5, effects=4, openings=1)
    first = next(iter(machine.checks.values()))
    even = tuple(
        Outcome(o.id, o.label, (1 / len(first.outcomes),) * len(o.chances)) for o in first.outcomes
    )
    blind = replace(machine, checks={**machine.checks, first.id: replace(first, outcomes=even)})
    found = priced(setting(shelf, blind, **ONE_DEEP), list(blind.checks.values()))
    assert found.worth[0] == pytest.approx(-found.cost[0])


@pytest.mark.parametrize("seed", range(6))
def test_the_order_the_checks_are_asked_in_changes_nothing(shelf, seed):
    machine = random_machine(seed, faults=5, effects=4, openings=1)
    job, checks = setting(shelf, machine), list(machine.checks.values())
    there, back = priced(job, checks), priced(job, checks[::-1])
    assert there.worth == pytest.approx(back.worth[::-1], rel=1e-9)
    assert there.saving == pytest.approx(back.saving[::-1], rel=1e-9)
    assert there.expected == pytest.approx(back.expected, rel=1e-9)


@pytest.mark.parametrize("seed", range(6))
def test_a_minute_more_costs_a_minute_more(shelf, seed):
    """The same check at a higher price is worth exactly the difference less, where one move is
    looked at."""
    machine = random_machine(seed, faults=5, effects=4)
    first = next(iter(machine.checks.values()))
    longer = replace(first, minutes=first.minutes + 3)
    dear = replace(machine, checks={**machine.checks, first.id: longer})
    cheap = priced(setting(shelf, machine, **ONE_DEEP), list(machine.checks.values()))
    more = priced(setting(shelf, dear, **ONE_DEEP), list(dear.checks.values()))
    assert more.cost[0] - cheap.cost[0] == pytest.approx(3 * PRICES.rate_per_min)
    assert more.minutes[0] - cheap.minutes[0] == pytest.approx(3)
    assert more.worth[0] < cheap.worth[0]


@pytest.mark.parametrize("seed", range(6))
def test_no_check_saves_more_than_the_job_costs(shelf, seed):
    machine = random_machine(seed, faults=6, effects=5)
    found = priced(setting(shelf, machine), list(machine.checks.values()))
    assert (found.worth <= found.ends.cost + 1e-9).all()
    assert np.isfinite(found.worth).all()
    assert found.expected <= min(found.ends.cost, PRICES.refer) + 1e-9
