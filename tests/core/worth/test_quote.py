"""The quote by hand."""

import re
from dataclasses import replace

import pytest
from tests.core.job.log import Log

from bottega.core.job.events import TookOff
from bottega.core.job.fold import stood_of
from bottega.core.machine.state import MachineState
from bottega.core.shop import ShopSettings
from bottega.core.strip.plan import plan
from bottega.core.worth.quote import cheapest_repairs, repair_quote, visit_band

SHOP = ShopSettings(rate_per_hour=60, visit_fee=40, tax_rate=0.2, part_markup=0.1)


STOOD = MachineState(power="off", water="out")


def test_a_pump_quoted_by_hand(shelf, f7):
    """Minutes at 1 a minute by the plan, from the closed machine: taps 0.5; opened by taking off
    base cover, filter and pump, tipped and stood up again; the fitting; back; a leak watch. 44 with
    a tenth on top; visit 40; a fifth of tax."""
    repair, strip = f7.repairs["drain_pump.part"], shelf.tables.strip
    got = repair_quote(f7, (repair,), STOOD, shelf.tables, shop=SHOP)
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
    assert got.lines[2].amount == pytest.approx(48.4)
    assert got.total == pytest.approx((40 + got.minutes + 48.4) * 1.2, abs=0.01)


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
        assert repair_quote(machine, (repair,), STOOD, tables, shop=SHOP).minutes == round(whole)


def test_what_was_opened_to_look_makes_no_repair_cheaper(f7):
    """The quote goes by how the machine stood when the job was taken on."""
    log = Log(f7, power="off", water="out")
    before = stood_of(log.job)
    log.do(TookOff(operation="top"))
    assert stood_of(log.job) == before


def test_another_currency(shelf, f7):
    dollars = replace(SHOP, currency="USD", per_eur=1.1, mains_v=120, mains_hz=60, units="us")
    got = repair_quote(f7, (f7.repairs["drain_pump.part"],), STOOD, shelf.tables, shop=dollars)
    assert got.lines[2].amount == pytest.approx(44 * 1.1 * 1.1, abs=0.01)


def test_the_band_of_the_visit_is_ordered_and_holds_the_likely_repair(shelf, f7, belief):
    low, high = visit_band(cheapest_repairs(belief, STOOD, shelf.tables, SHOP), SHOP)
    pump = repair_quote(f7, (f7.repairs["drain_pump.part"],), STOOD, shelf.tables, shop=SHOP).total
    assert 48 <= low <= pump <= high


@pytest.mark.parametrize("kind", ["FB", "FD", "TS", "TG", "SL"])
def test_whoever_reads_a_quote_can_reckon_it_again(shelf, kind):
    """Labour from the minutes it names, the part from its price and the markup, the total from the
    lines."""
    machine = shelf.machine(kind)
    for repair in machine.repairs.values():
        got = repair_quote(machine, (repair,), STOOD, shelf.tables, shop=SHOP)
        minutes = int(re.fullmatch(r"Labour, (\d+) min", got.lines[1].text).group(1))
        assert got.lines[1].amount == pytest.approx(minutes * SHOP.rate_per_hour / 60, abs=0.005)
        if repair.price_eur:
            assert got.lines[2].amount == pytest.approx(repair.price_eur * 1.1, abs=0.005)
        net = sum(line.amount for line in got.lines)
        assert got.total == pytest.approx(net * 1.2, abs=0.01)
