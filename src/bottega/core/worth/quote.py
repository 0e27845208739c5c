"""The quote: visit, labour, parts, tax; the cheapest repair of every fault; and the band of prices
that a visit may come to."""

from collections.abc import Sequence
from dataclasses import dataclass

from bottega.core.diagnosis.infer import Belief
from bottega.core.library.machine_type import MachineType, RepairOption
from bottega.core.library.tables import Tables
from bottega.core.machine.state import MachineState
from bottega.core.shop import ShopSettings
from bottega.core.wording import upper_first
from bottega.core.worth.labour import labour_of

LEAST_SHOWN = 0.005
"""A share that rounds to nought in whole per cents is not told."""
HARDLY = 0.002
"""A fault less likely than that is left out of what a visit may come to; chosen."""


@dataclass(frozen=True)
class BillLine:
    """One line: what it is, and money before tax in the shop's currency."""

    text: str
    amount: float


@dataclass(frozen=True)
class Quote:
    """Lines before tax, the tax, and the total, in the shop's currency. ``minutes`` is the labour
    in it."""

    lines: tuple[BillLine, ...]
    tax: float
    total: float
    minutes: float


@dataclass(frozen=True)
class Cure:
    """The cheapest ``repair`` of a ``fault``, the chance that the fault is there, and the total of
    its quote in the shop's currency."""

    fault: str
    chance: float
    repair: RepairOption
    total: float


def quote(lines: list[BillLine], minutes: float, shop: ShopSettings) -> Quote:
    """Return the quote of these lines with the visit fee in front and the shop's tax on
    everything."""
    full = (BillLine("Visit and looking for the fault", shop.visit_fee), *lines)
    net = sum(line.amount for line in full)
    tax = round(net * shop.tax_rate, 2)
    return Quote(full, tax, round(net + tax, 2), minutes)


def repair_quote(
    machine: MachineType,
    repairs: Sequence[RepairOption],
    stood: MachineState,
    tables: Tables,
    *,
    shop: ShopSettings,
) -> Quote:
    """Return the quote of repairs made together, from how the machine stood when it was taken on:
    labour by the plan (there, fitting, back, proofs), and the parts with their markup."""
    minutes = labour_of(machine, tables, repairs, stood, pace=tuple(shop.pace)).minutes
    lines = [BillLine(f"Labour, {minutes} min", round(minutes * shop.rate_per_hour / 60, 2))]
    for repair in repairs:
        if repair.price_eur:
            part = machine.parts.get(repair.component)
            name = part.name if repair.do == "part" and part else "Small parts"
            lines.append(BillLine(upper_first(name), shop.charged(repair.price_eur)))
    return quote(lines, minutes, shop)


def cheapest_repairs(
    belief: Belief, stood: MachineState, tables: Tables, shop: ShopSettings
) -> list[Cure]:
    """Return the cheapest repair of every fault that is likelier than hardly, from how the machine
    stood when it was taken on."""
    machine, totals = belief.model.machine, dict[str, float]()
    for repair in machine.repairs.values():
        totals[repair.id] = repair_quote(machine, (repair,), stood, tables, shop=shop).total
    found = []
    for fault, chance in belief.fault_now().items():
        repairs = machine.repairs_of(fault) if chance > HARDLY else []
        if repairs:
            best = min(repairs, key=lambda repair: totals[repair.id])
            found.append(Cure(fault, chance, best, totals[best.id]))
    return found


def visit_band(
    cures: Sequence[Cure], shop: ShopSettings, share: float = 0.8
) -> tuple[float, float]:
    """Return the price band (low, high) that holds the middle ``share`` of what the visit may come
    to, each fault repaired in its cheapest way."""
    priced = [(cure.total, cure.chance) for cure in cures]
    priced.sort()
    total = sum(chance for _, chance in priced) or 1.0
    tail, run, low, high = (1 - share) / 2, 0.0, None, None
    for price, chance in priced:
        run += chance / total
        if low is None and run >= tail:
            low = price
        if high is None and run >= 1 - tail:
            high = price
    fee = quote([], 0, shop).total
    return (low or fee, high or low or fee)
