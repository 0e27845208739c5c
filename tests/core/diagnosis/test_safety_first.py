"""What goes before money never puts anybody at risk: on every kind of machine, whatever else the
customer says."""

from dataclasses import replace

import pytest
from tests.core.job.test_rules import KINDS
from tests.engine import model_of

from bottega.core.diagnosis.evidence import Evidence, denied, said
from bottega.core.diagnosis.infer import infer
from bottega.core.diagnosis.plan import plan
from bottega.core.diagnosis.prior import prior
from bottega.core.diagnosis.repairplan import ShopPrices
from bottega.core.diagnosis.safety_first import unsafe_to_plug_in
from bottega.core.machine.reach import Reaching
from bottega.core.machine.state import MachineState

PRICES = ShopPrices(rate_per_min=0.9, refer=450, prove_at=0.85, part_factor=1.15)
UNSAFE = ("says_trips", "says_smell")


def first_of(shelf, machine, complaints, age=9):
    model, tables = model_of(machine), shelf.tables
    found = [said(f"s{n}", machine.complaints[c], 0) for n, c in enumerate(complaints)]
    evidence = Evidence(tuple(found))
    belief = infer(model, prior(model, age, tables.engine), evidence)
    reaching = Reaching(machine, tables)
    plugged = MachineState(power="on")
    return plan(
        belief,
        evidence,
        plugged,
        reaching,
        prices=PRICES,
        engine=tables.engine,
        available=machine.checks,
    ).steps[0]


@pytest.mark.parametrize("kind", KINDS)
def test_safety_first_never_wants_a_machine_plugged_in_that_trips_or_smells_burnt(shelf, kind):
    """Each complaint beside it on some of the kinds."""
    machine = shelf.machine(kind)
    others = sorted(machine.complaints)[KINDS.index(kind) % 3 :: 3]
    told = [(u,) for u in UNSAFE] + [(u, other) for u in UNSAFE for other in others]
    for complaints in told:
        step = first_of(shelf, machine, complaints)
        assert not (step.safety and step.check.needs.power == "on"), (complaints, step.check.id)


def test_no_safety_step_costs_more_than_it_protects(shelf, f7):
    """Of a harm that counts for next to nothing, nothing is checked first."""
    engine = shelf.tables.engine.model_copy(update={"harm_eur": 0.01})
    light = replace(shelf.tables, engine=engine)
    assert first_of(shelf, f7, ("says_trips",)).safety

    class Other:
        tables = light

    assert not first_of(Other, f7, ("says_trips",)).safety


def test_what_was_found_sound_after_the_repair_may_be_plugged_in_again(f7):
    complaint = f7.complaints["says_trips"]
    trips, holds = said("a", complaint, 0), denied("b", complaint, 1)
    assert unsafe_to_plug_in(f7, Evidence((trips,)))
    assert not unsafe_to_plug_in(f7, Evidence((trips, holds)))
    assert not unsafe_to_plug_in(f7, Evidence((said("c", f7.complaints["says_hums"], 0),)))
