"""The quote by hand, and the choices beside each other."""

import re
from dataclasses import replace

import pytest
from tests.core.job.log import Log

from bottega.core.diagnosis.evidence import Evidence, answered, said
from bottega.core.diagnosis.infer import infer
from bottega.core.diagnosis.model import compile_model
from bottega.core.diagnosis.prior import prior
from bottega.core.job.events import TookOff
from bottega.core.job.fold import stood_of
from bottega.core.machine.state import MachineState
from bottega.core.shop import ShopSettings
from bottega.core.strip.plan import plan
from bottega.core.worth.quote import cheapest_repairs, options, repair_quote, visit_band

SHOP = ShopSettings(rate_per_hour=60, visit_fee=40, tax_rate=0.2, part_markup=0.1)


@pytest.fixture
def belief(shelf, f7):
    model = compile_model(f7)
    told = (
        said("a", f7.complaints["says_water_stays"], 0),
        answered("b", f7.checks["turn_rotor"], "free", 0),
    )
    return infer(model, prior(model, 7, shelf.tables.engine), Evidence(told))


STOOD = MachineState(power="off", water="out")


def test_a_pump_quoted_by_hand(shelf, f7):
    """Minutes at 1 a minute by the plan, from the closed machine: taps 0.5; opened by taking off
    base cover, filter and pump, tipped and stood up again; the fitting; back; a leak watch. 47 with
    a tenth on top; visit 40; a fifth of tax."""
    repair, strip = f7.repairs["drain_pump.part"], shelf.tables.strip
    got = repair_quote(f7, repair, STOOD, shelf.tables, SHOP)
    taken_off = ("filter_flap", "filter_cap", "base_cover", "pump_out")
    records = [f7.operations[name] for name in taken_off]
    off = sum(record.minutes for record in records)
    back = sum(record.back_minutes or record.minutes for record in records)
    tools = [record.tool for record in records if record.tool != "none"]
    assert strip.tool_minutes * 2 * len(set(tools)) > 0
    by_hand = 0.5 + off + back + repair.minutes + strip.proofs["leak_watch"]
    tips = shelf.tables.changes["posture"]["tipped"].minutes
    stands = shelf.tables.changes["posture"]["upright"].minutes
    least, most = by_hand + tips + stands, by_hand + 2 * (tips + stands) + 8 * strip.tool_minutes
    assert least <= got.minutes <= most
    assert got.lines[1].amount == got.minutes
    assert got.lines[2].amount == pytest.approx(51.7)
    assert got.total == pytest.approx((40 + got.minutes + 51.7) * 1.2, abs=0.01)


@pytest.mark.parametrize("kind", ["FB", "FD", "FI", "SL", "TD", "TG", "TS", "WD"])
def test_the_labour_of_every_repair_is_the_plans_to_the_minute(shelf, kind):
    """There and back by the strip-down planner, the fitting, and the proofs owed by what was open
    and by the part itself, reckoned here anew."""
    machine, tables = shelf.machine(kind), shelf.tables
    for repair in machine.repairs.values():
        best = plan(machine, tables, STOOD, repair.way).best
        owed = {proof for name in best.operations for proof in machine.operations[name].owes}
        owed |= set(machine.components[repair.component].owes)
        proofs = sum(tables.strip.proofs[name] for name in owed)
        whole = best.minutes + repair.minutes + proofs
        assert repair_quote(machine, repair, STOOD, tables, SHOP).minutes == round(whole)


def test_what_was_opened_to_look_makes_no_repair_cheaper(f7):
    """The quote goes by how the machine stood when the job was taken on."""
    log = Log(f7, power="off", water="out")
    before = stood_of(log.job)
    log.do(TookOff(operation="top"))
    assert stood_of(log.job) == before


def test_another_currency(shelf, f7):
    dollars = replace(SHOP, currency="USD", per_eur=1.1, mains_v=120, mains_hz=60, units="us")
    got = repair_quote(f7, f7.repairs["drain_pump.part"], STOOD, shelf.tables, dollars)
    assert got.lines[2].amount == pytest.approx(47 * 1.1 * 1.1, abs=0.01)


def test_the_choices_hold_repair_refer_and_replace(shelf, f7, belief):
    found = options(belief, STOOD, shelf.tables, SHOP, ("drain_pump.part",))
    assert found[0].repair.id == "drain_pump.part"
    assert found[0].ends > 0.9
    assert {o.choice for o in found} >= {"repair", "refer", "replace"}
    assert next(o for o in found if o.choice == "refer").quote.total == pytest.approx(48)


@pytest.mark.parametrize(
    ("order", "leads"),
    [
        ((), "refer"),
        (("nothing_wrong", "drain_pump.part"), "nothing_wrong"),
        (("filter_blocked.clean", "drain_pump.part"), "filter_blocked.clean"),
        (("drain_pump.part", "filter_blocked.clean"), "drain_pump.part"),
    ],
)
def test_what_is_offered_keeps_to_the_order_of_the_plan(shelf, f7, order, leads):
    told = [said("c", f7.complaints["says_water_stays"], 0)]
    model = compile_model(f7)
    vague = infer(model, prior(model, 7, shelf.tables.engine), Evidence(tuple(told)))
    found = options(vague, STOOD, shelf.tables, SHOP, order)
    assert leads == (found[0].repair.id if found[0].repair else found[0].choice)


def test_the_band_of_the_visit_is_ordered_and_holds_the_likely_repair(shelf, f7, belief):
    low, high = visit_band(cheapest_repairs(belief, STOOD, shelf.tables, SHOP), SHOP)
    pump = repair_quote(f7, f7.repairs["drain_pump.part"], STOOD, shelf.tables, SHOP).total
    assert 48 <= low <= pump <= high


def test_no_choice_ends_it_more_often_than_always(shelf):
    """Worn bearings and the leaking seal they brought about: one repair for both, and two faults
    whose chances add up to far over one."""
    machine = shelf.machine("FB", "nembrio-f7")
    model = compile_model(machine)
    told = (
        answered("a", machine.checks["turn_drum"], "rumbles", 0),
        answered("b", machine.checks["look_relief"], "streaks", 0),
    )
    found = infer(model, prior(model, 9, shelf.tables.engine), Evidence(told))
    both = next(r for r in machine.repairs.values() if len(r.covers) > 1 and "bearings" in r.id)
    chances = found.fault_now()
    assert sum(chances[fault] for fault, _ in both.covers) > 1.2
    choices = options(found, STOOD, shelf.tables, SHOP, (both.id,))
    assert choices[0].repair is both
    assert 0.7 < choices[0].ends <= max(success for _, success in both.covers)
    for option in choices:
        assert 0 <= option.ends <= 1
        assert all(int(share) <= 100 for share in re.findall(r"(\d+)%", option.note))


@pytest.mark.parametrize("kind", ["FB", "FD", "FI", "SL", "TD", "TG", "TS", "WD"])
def test_every_case_counts_for_the_cheapest_that_ends_it(shelf, kind):
    """Counted case by case in plain Python; what is told of all choices adds to at most one."""
    machine = shelf.machine(kind)
    model = compile_model(machine)
    told = [said("c", next(iter(machine.complaints.values())), 0)]
    belief = infer(model, prior(model, 8, shelf.tables.engine), Evidence(tuple(told)))
    choices = options(belief, STOOD, shelf.tables, SHOP, (), most=99)
    repairs = sorted((o for o in choices if o.repair), key=lambda o: (o.quote.total, o.repair.id))
    shares = dict.fromkeys((o.repair.id for o in repairs), 0.0)
    for row, chance in zip(model.sets, belief.now, strict=True):
        case = {model.fault_ids[f] for f in row if f >= 0}
        first = next(
            (o.repair for o in repairs if case and case <= set(dict(o.repair.covers))), None
        )
        if first is not None:
            shares[first.id] += chance * min(dict(first.covers)[fault] for fault in case)
    assert sum(o.enough for o in choices) <= 1
    assert {o.repair.id: o.enough for o in repairs} == pytest.approx(shares, abs=1e-9)
    assert not any(" 0%" in o.note for o in choices)
    listed = options(belief, STOOD, shelf.tables, SHOP, ())
    first = [re.search(r"Enough in (\d+)%", o.note) for o in listed]
    assert sum(int(share.group(1)) for share in first if share) <= 101


def test_a_dear_repair_says_where_something_cheaper_is_enough(shelf, f7):
    """A new pump ends a blocked one, too, which is cleared for less."""
    told = (said("c", f7.complaints["says_water_stays"], 0),)
    model = compile_model(f7)
    belief = infer(model, prior(model, 7, shelf.tables.engine), Evidence(told))
    pump, clear = (
        next(o for o in options(belief, STOOD, shelf.tables, SHOP, (), 9) if o.title == title)
        for title in ("Fit a new drain pump", "Take the object out of the pump")
    )
    too = int(re.search(r"another (\d+)% something cheaper", pump.note).group(1))
    assert too == pytest.approx(100 * clear.enough, abs=2)
    assert pump.ends > pump.enough + clear.enough / 2


@pytest.mark.parametrize("kind", ["FB", "FD", "TS", "TG", "SL"])
def test_whoever_reads_a_quote_can_reckon_it_again(shelf, kind):
    """Labour from the minutes it names, the part from its price and the markup, the total from the
    lines."""
    machine = shelf.machine(kind)
    for repair in machine.repairs.values():
        got = repair_quote(machine, repair, STOOD, shelf.tables, SHOP)
        minutes = int(re.fullmatch(r"Labour, (\d+) min", got.lines[1].text).group(1))
        assert got.lines[1].amount == pytest.approx(minutes * SHOP.rate_per_hour / 60, abs=0.005)
        if repair.price_eur:
            assert got.lines[2].amount == pytest.approx(repair.price_eur * 1.1, abs=0.005)
        net = sum(line.amount for line in got.lines)
        assert got.total == pytest.approx(net * 1.2, abs=0.01)
