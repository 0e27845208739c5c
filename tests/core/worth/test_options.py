"""The choices beside each other: their order, their shares, sets of repairs."""

import re
from itertools import combinations
from math import prod

import pytest
from tests.engine import model_of

from bottega.core.diagnosis.evidence import Evidence, answered, said
from bottega.core.diagnosis.infer import infer
from bottega.core.diagnosis.prior import prior
from bottega.core.machine.state import MachineState
from bottega.core.shop import ShopSettings
from bottega.core.worth.options import options
from bottega.core.worth.quote import repair_quote

SHOP = ShopSettings(rate_per_hour=60, visit_fee=40, tax_rate=0.2, part_markup=0.1)
STOOD = MachineState(power="off", water="out")


def test_the_choices_hold_repair_refer_and_replace(shelf, f7, belief):
    found = options(belief, STOOD, shelf.tables, SHOP, order=("drain_pump.part",))
    assert found[0].key == "drain_pump.part"
    assert found[0].ends > 0.9
    assert {o.choice for o in found} >= {"repair", "refer", "replace"}
    assert next(o for o in found if o.choice == "refer").quote.total == pytest.approx(48)


@pytest.mark.parametrize(
    ("order", "leads"),
    [
        ((), "refer"),
        (("nothing_wrong", "drain_pump.part"), "nothing_wrong"),
        (("filter_blocked.clean", "drain_pump.part"), "filter_blocked.clean"),
        (("drain_pump.part", "filter_blocked.clean"), "filter_blocked.clean"),
    ],
)
def test_what_is_offered_keeps_to_the_order_of_the_plan(shelf, f7, order, leads):
    told = [said("c", f7.complaints["says_water_stays"], 0)]
    model = model_of(f7)
    vague = infer(model, prior(model, 7, shelf.tables.engine), Evidence(tuple(told)))
    found = options(vague, STOOD, shelf.tables, SHOP, order=order)
    assert leads == (found[0].key)


def test_no_choice_ends_it_more_often_than_always(shelf):
    """Worn bearings and the leaking seal they brought about: one repair for both, and two faults
    whose chances add up to far over one."""
    machine = shelf.machine("FB", "nembrio-f7")
    model = model_of(machine)
    told = (
        answered("a", machine.checks["turn_drum"], "rumbles", 0),
        answered("b", machine.checks["look_relief"], "streaks", 0),
    )
    found = infer(model, prior(model, 9, shelf.tables.engine), Evidence(told))
    both = next(r for r in machine.repairs.values() if len(r.covers) > 1 and "bearings" in r.id)
    chances = found.fault_now()
    assert sum(chances[fault] for fault, _ in both.covers) > 1.2
    choices = options(found, STOOD, shelf.tables, SHOP, order=(both.id,))
    assert choices[0].repairs == (both,)
    assert 0.7 < choices[0].ends <= max(success for _, success in both.covers)
    for option in choices:
        assert 0 <= option.ends <= 1
        assert all(int(share) <= 100 for share in re.findall(r"(\d+)%", option.note))


def _covered(option):
    return {fault for repair in option.repairs for fault, _ in repair.covers}


def _works(option, case):
    """Return the chance that the repairs of an option end a case: of each fault the better repair
    counts, and each repair works or does not by itself."""
    worst = {}
    for fault in case:
        best = max(option.repairs, key=lambda repair: repair.ends(fault))
        worst[best.id] = min(worst.get(best.id, 1.0), best.ends(fault))
    return prod(worst.values())


@pytest.mark.parametrize("kind", ["FB", "FD", "FI", "SL", "TD", "TG", "TS", "WD"])
def test_every_case_counts_for_the_cheapest_that_ends_it(shelf, kind):
    """Counted case by case in plain Python; what is told of all choices adds to at most one."""
    machine = shelf.machine(kind)
    model = model_of(machine)
    told = [said("c", next(iter(machine.complaints.values())), 0)]
    belief = infer(model, prior(model, 8, shelf.tables.engine), Evidence(tuple(told)))
    choices = options(belief, STOOD, shelf.tables, SHOP, order=(), most=99)
    repairs = sorted((o for o in choices if o.repairs), key=lambda o: (o.quote.total, o.key))
    shares = dict.fromkeys((o.key for o in repairs), 0.0)
    for row, chance in zip(model.sets, belief.now, strict=True):
        case = {model.fault_ids[f] for f in row if f >= 0}
        first = next((o for o in repairs if case and case <= _covered(o)), None)
        if first is not None:
            shares[first.key] += chance * _works(first, case)
    assert sum(o.enough for o in choices) <= 1
    assert {o.key: o.enough for o in repairs} == pytest.approx(shares, abs=1e-9)
    assert not any(" 0%" in o.note for o in choices)
    listed = options(belief, STOOD, shelf.tables, SHOP, order=())
    first = [re.search(r"Enough in (\d+)%", o.note) for o in listed]
    assert sum(int(share.group(1)) for share in first if share) <= 101


def test_a_dear_repair_says_where_something_cheaper_is_enough(shelf, f7):
    """A new pump ends a blocked one, too, which is cleared for less."""
    told = (said("c", f7.complaints["says_water_stays"], 0),)
    model = model_of(f7)
    belief = infer(model, prior(model, 7, shelf.tables.engine), Evidence(told))
    pump, clear = (
        next(
            o
            for o in options(belief, STOOD, shelf.tables, SHOP, order=(), most=9)
            if o.title == title
        )
        for title in ("Fit a new drain pump", "Take the object out of the pump")
    )
    too = int(re.search(r"another (\d+)% something cheaper", pump.note).group(1))
    assert too == pytest.approx(100 * clear.enough, abs=2)
    assert pump.ends > pump.enough + clear.enough / 2


def _two_things(shelf):
    """A pump that reads open and a belt that is torn, both seen at the part."""
    machine = shelf.machine("FB", "nembrio-f7")
    model = model_of(machine)
    told = (_seen(machine, "pump_coil_open", "a"), _seen(machine, "belt_slipping", "b"))
    belief = infer(model, prior(model, 7, shelf.tables.engine), Evidence(told))
    assert belief.fault_now()["pump_coil_open"] > 0.85 < belief.fault_now()["belt_slipping"]
    return belief


def _seen(machine, fault, event):
    check, outcome = machine.sight_of(fault)
    return answered(event, check, outcome.id, 0)


def test_two_things_that_are_proved_are_decided_on_together(shelf):
    belief = _two_things(shelf)
    found = options(belief, STOOD, shelf.tables, SHOP, order=("drain_pump.part", "belt.part"))
    assert {repair.component for repair in found[0].repairs} == {"drain_pump", "belt"}
    assert found[0].proved
    assert found[0].enough > 0.8
    alone = next(o for o in found if o.key == "belt.part")
    assert alone.enough < 0.1
    assert sum(o.enough for o in found) <= 1


def test_a_set_is_priced_with_one_visit_and_what_is_open_is_not_opened_twice(shelf):
    belief = _two_things(shelf)
    machine = belief.model.machine
    both = next(
        o for o in options(belief, STOOD, shelf.tables, SHOP, order=()) if len(o.repairs) > 1
    )
    parts = sum(SHOP.charged(repair.price_eur) for repair in both.repairs)
    assert [line.text for line in both.quote.lines].count("Visit and looking for the fault") == 1
    assert sum(line.amount for line in both.quote.lines[2:]) == pytest.approx(parts)
    shorter = 0
    for pair in combinations(list(machine.repairs.values())[::4], 2):
        single = sum(
            repair_quote(machine, (repair,), STOOD, shelf.tables, shop=SHOP).minutes
            for repair in pair
        )
        together = repair_quote(machine, pair, STOOD, shelf.tables, shop=SHOP).minutes
        assert together <= single + 1
        shorter += together < single - 5
    assert shorter


def test_while_nothing_is_proved_what_needs_no_part_comes_first_and_says_why(shelf, f7):
    told = (said("c", f7.complaints["says_water_stays"], 0),)
    model = model_of(f7)
    vague = infer(model, prior(model, 7, shelf.tables.engine), Evidence(told))
    found = [
        o
        for o in options(vague, STOOD, shelf.tables, SHOP, order=("drain_pump.part",))
        if o.repairs
    ]
    bought = [not option.free for option in found if len(option.repairs) == 1]
    assert bought == sorted(bought)
    assert {True, False} == set(bought)
    assert all("nothing has to be bought" in o.note for o in found if o.free)


def test_a_part_that_is_proved_leads(shelf, belief):
    found = options(
        belief, STOOD, shelf.tables, SHOP, order=("drain_pump.part", "filter_blocked.clean")
    )
    assert found[0].key == "drain_pump.part"
    assert found[0].proved
