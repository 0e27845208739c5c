"""The quote: visit, labour, part, tax; and what the choices come to side by side."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from bottega.core.diagnosis.infer import Belief
from bottega.core.diagnosis.repairplan import NOTHING_WRONG
from bottega.core.job.events import Choice
from bottega.core.library.machine_type import MachineType, RepairOption
from bottega.core.library.tables import Tables
from bottega.core.machine.state import MachineState
from bottega.core.shop import ShopSettings
from bottega.core.worth.labour import labour_of

LEAST_SHOWN = 0.005
"""A share that rounds to nought in whole per cents is not told."""
HARDLY = 0.002
"""A fault less likely than that is left out of what a visit may come to; chosen."""
TELLING = 0.03
"""A repair that ends it less often than that is no choice; chosen, one in thirty."""


@dataclass(frozen=True)
class Line:
    """One line: what it is, and money before tax in the shop's currency."""

    text: str
    amount: float


@dataclass(frozen=True)
class Quote:
    """Lines before tax, the tax, and the total, in the shop's currency. ``minutes`` is the labour
    in it."""

    lines: tuple[Line, ...]
    tax: float
    total: float
    minutes: float


@dataclass(frozen=True)
class Option:
    """One way to decide. ``ends`` is the chance in 0..1 that it ends the complaint, and ``enough``
    the share of cases in which it alone puts everything right and nothing cheaper does: those of
    all options add to at most one."""

    choice: Choice
    repair: RepairOption | None
    title: str
    quote: Quote
    ends: float
    note: str
    enough: float = 0.0


@dataclass(frozen=True)
class Cure:
    """The cheapest ``repair`` of a ``fault``, the chance that the fault is there, and the total of
    its quote in the shop's currency."""

    fault: str
    chance: float
    repair: RepairOption
    total: float


def quote(lines: list[Line], minutes: float, shop: ShopSettings) -> Quote:
    """Return the quote of these lines with the visit fee in front and the shop's tax on
    everything."""
    full = (Line("Visit and looking for the fault", shop.visit_fee), *lines)
    net = sum(line.amount for line in full)
    tax = round(net * shop.tax_rate, 2)
    return Quote(full, tax, round(net + tax, 2), minutes)


def repair_quote(
    machine: MachineType,
    repair: RepairOption,
    stood: MachineState,
    tables: Tables,
    shop: ShopSettings,
) -> Quote:
    """Return the quote of a repair from how the machine stood when it was taken on: labour by the
    plan (there, fitting, back, proofs), and the part with its markup."""
    minutes = labour_of(machine, tables, repair, stood, tuple(shop.pace)).minutes
    lines = [Line(f"Labour, {minutes} min", round(minutes * shop.rate_per_hour / 60, 2))]
    if repair.price_eur:
        part = machine.parts.get(repair.component)
        name = part.name if repair.do == "part" and part else "Small parts"
        lines.append(Line(name.capitalize(), shop.charged(repair.price_eur)))
    return quote(lines, minutes, shop)


def options(
    belief: Belief,
    stood: MachineState,
    tables: Tables,
    shop: ShopSettings,
    order: Sequence[str],
    most: int = 4,
    keeps_failing: bool = False,
) -> list[Option]:
    """Return the choices: repairs, refer, replace, nothing wrong.

    ``order`` is the plan's, which what is offered keeps to: repairs by their ids, and
    NOTHING_WRONG; empty when referring is cheapest. What it does not name comes after it by the
    chance of ending the complaint. ``keeps_failing`` tells that it failed in two runs since the
    last repair.
    """
    machine, chances = belief.model.machine, belief.fault_now()
    worth_it = []
    for repair in machine.repairs.values():
        if sum(chances[fault] for fault, _ in repair.covers) <= TELLING:
            continue
        ends = belief.any_of(dict(repair.covers))
        if ends > TELLING:
            priced = repair_quote(machine, repair, stood, tables, shop)
            worth_it.append((repair, priced, ends))
    found = _shared_out(belief, worth_it)
    places = {name: place for place, name in enumerate(order)}
    found.sort(
        key=lambda o: (
            places.get(o.repair.id if o.repair else "", len(places)),
            -round(o.ends, 2),
            o.quote.total,
        )
    )
    found = found[:most]
    visit = quote([], 0, shop)
    found.append(
        Option(
            "refer",
            None,
            "Hand it to another firm",
            visit,
            0.0,
            "The visit fee is charged all the same.",
        )
    )
    new = Line("A new machine of this kind, about", round(shop.money(machine.new_price_eur), 2))
    found.append(
        Option(
            "replace",
            None,
            "Replace the machine",
            quote([new], 0, shop),
            1.0,
            "Price of a new one is a guess.",
        )
    )
    if belief.healthy + _use_only(belief) > 0.3 or order[:1] == (NOTHING_WRONG,):
        note = "With the evidence written down, this is an honest result."
        if keeps_failing:
            note = "It failed in two runs: whoever says so has to say that, too."
        found.append(
            Option(
                "nothing_wrong", None, "Nothing wrong with the machine", visit, belief.healthy, note
            )
        )
    leads = "refer" if not order else "nothing_wrong" if order[0] == NOTHING_WRONG else "repair"
    return sorted(found, key=lambda option: option.choice != leads)


def cheapest_repairs(
    belief: Belief, stood: MachineState, tables: Tables, shop: ShopSettings
) -> list[Cure]:
    """Return the cheapest repair of every fault that is likelier than hardly, from how the machine
    stood when it was taken on."""
    machine, totals = belief.model.machine, dict[str, float]()
    for repair in machine.repairs.values():
        totals[repair.id] = repair_quote(machine, repair, stood, tables, shop).total
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


def _use_only(belief: Belief) -> float:
    machine = belief.model.machine
    advised = {f for r in machine.repairs.values() if r.do == "advise" for f, _ in r.covers}
    return belief.any_of(dict.fromkeys(advised, 1.0))


def _shared_out(
    belief: Belief, repairs: Sequence[tuple[RepairOption, Quote, float]]
) -> list[Option]:
    """Return the choice of each repair, from its quote and the chance that it ends the complaint.
    Every set of faults counts for the cheapest that ends all of it."""
    taken, found = np.zeros(len(belief.now), dtype=bool), []
    for repair, priced, ends in sorted(repairs, key=lambda one: (one[1].total, one[0].id)):
        whole = belief.ended_by(dict(repair.covers))
        enough, too = (float(belief.now @ (whole * own)) for own in (~taken, taken))
        taken |= whole > 0
        note = _note(repair, enough, too)
        found.append(Option("repair", repair, repair.name, priced, ends, note, enough))
    return found


def _note(repair: RepairOption, enough: float, too: float) -> str:
    """Return what kind of repair it is, and in what share of cases it is ``enough``, and in what
    further share it and something cheaper."""
    kind = {"part": "New part.", "clean": "No part.", "refer": "For somebody licensed."}.get(
        repair.do, "No part."
    )
    if max(enough, too) < LEAST_SHOWN:
        return f"{kind} Hardly ever enough by itself here."
    if enough < LEAST_SHOWN:
        return f"{kind} Where it is enough, in {too:.0%} of cases, something cheaper is, too."
    said = f"{kind} Enough in {enough:.0%} of cases like this one"
    if too < LEAST_SHOWN:
        return f"{said}."
    return f"{said}; in another {too:.0%} something cheaper is, too."
