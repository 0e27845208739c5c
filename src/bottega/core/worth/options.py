"""The choices side by side: repairs, sets of repairs, refer, replace, nothing wrong."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace

import numpy as np

from bottega.core.diagnosis.infer import Belief
from bottega.core.diagnosis.repairplan import NOTHING_WRONG
from bottega.core.job.events import Choice
from bottega.core.library.machine_type import RepairOption
from bottega.core.library.tables import Tables
from bottega.core.machine.state import MachineState
from bottega.core.shop import ShopSettings
from bottega.core.wording import lower_first
from bottega.core.worth.quote import LEAST_SHOWN, BillLine, Quote, quote, repair_quote
from bottega.core.worth.together import cheapest_set

LEAST_ENDED = 0.03
"""A repair that ends it less often than that is no choice; chosen, one in thirty."""
HONEST = 0.3
"""From this chance on that the machine is sound, saying so is among the choices; chosen."""
KIND_WORDS = {"part": "New part.", "refer": "For somebody licensed."}


@dataclass(frozen=True)
class Option:
    """One way to decide. ``repairs`` are made together, ``ends`` is the chance in 0..1 that they
    end the complaint, and ``enough`` the share of cases in which they put everything right and
    nothing cheaper does: those of all options add to at most one."""

    choice: Choice
    repairs: tuple[RepairOption, ...]
    title: str
    quote: Quote
    ends: float
    note: str
    enough: float = 0.0
    proved: bool = True
    """Whether it stands at the shop's mark of proof or buys nothing: it may be decided without a
    reason."""

    @property
    def key(self) -> str:
        """Return what names it among the choices: its repairs, joined by commas, or the choice."""
        return ",".join(repair.id for repair in self.repairs) or self.choice

    @property
    def free(self) -> bool:
        """Return whether it is a cure with what is there: nothing is bought, nobody is called."""
        return bool(self.repairs) and all(repair.is_free for repair in self.repairs)


def options(
    belief: Belief,
    stood: MachineState,
    tables: Tables,
    shop: ShopSettings,
    *,
    order: Sequence[str],
    most: int = 4,
    keeps_failing: bool = False,
) -> list[Option]:
    """Return the choices, what leads first.

    ``order`` is the plan's, which what is offered keeps to: repairs by their ids, and
    NOTHING_WRONG; empty when referring is cheapest. What it does not name comes after it by the
    chance of ending the complaint. Two rules come before the order. Of two things that both stand
    proved the cheapest set that ends both leads. While nothing stands proved, cures without a part
    come before every new part. ``keeps_failing`` tells that it failed in two runs since the last
    repair.
    """
    found = _repairs(belief, stood, tables, shop)
    places = {name: place for place, name in enumerate(order)}
    found.sort(key=lambda o: (places.get(o.key, len(places)), -round(o.ends, 2), o.quote.total))
    found = _by_rule(found, most)
    visit = quote([], 0, shop)
    fee = "The visit fee is charged all the same."
    found.append(Option("refer", (), "Hand it to another firm", visit, 0.0, fee))
    price = round(shop.money(belief.model.machine.new_price_eur), 2)
    new = quote([BillLine("A new machine of this kind, about", price)], 0, shop)
    guess = "Price of a new one is a guess."
    found.append(Option("replace", (), "Replace the machine", new, 1.0, guess))
    if belief.sound > HONEST or tuple(order[:1]) == (NOTHING_WRONG,):
        note = "With the evidence written down, this is an honest result."
        if keeps_failing:
            note = "It failed in two runs: whoever says so has to say that, too."
        sound = "Nothing wrong with the machine"
        found.append(Option("nothing_wrong", (), sound, visit, belief.healthy, note))
    leads = "refer" if not order else "nothing_wrong" if order[0] == NOTHING_WRONG else "repair"
    return sorted(found, key=lambda option: option.choice != leads)


def _repairs(
    belief: Belief, stood: MachineState, tables: Tables, shop: ShopSettings
) -> list[Option]:
    """Return every repair that may end it, and the cheapest set of repairs that is enough for the
    share the shop wants, where no single one is."""
    machine, chances = belief.model.machine, belief.fault_now()
    worth_it: list[tuple[tuple[RepairOption, ...], Quote, float]] = []
    for repair in machine.repairs.values():
        if sum(chances[fault] for fault, _ in repair.covers) <= LEAST_ENDED:
            continue
        ends = belief.any_of(dict(repair.covers))
        if ends > LEAST_ENDED:
            priced = repair_quote(machine, (repair,), stood, tables, shop=shop)
            worth_it.append(((repair,), priced, ends))
    single = [(own[0], priced) for own, priced, _ in worth_it if own[0].do != "advise"]
    several = cheapest_set(
        belief,
        single,
        shop.prove_at,
        lambda repairs: repair_quote(machine, repairs, stood, tables, shop=shop),
    )
    if several is not None:
        covers = [dict(repair.covers) for repair in several.repairs]
        ends = float(belief.now @ belief.ended_by(*covers))
        worth_it.append((several.repairs, several.quote, ends))
    proved = {r.id for r, _ in single if needed(belief, r) >= shop.prove_at}
    return _shared_out(belief, worth_it, proved)


def needed(belief: Belief, repair: RepairOption) -> float:
    """Return the chance that a repair is needed: one of its faults is there. Of a part that is
    bought only those count that no cure with what is there ends."""
    machine = belief.model.machine
    own = [fault for fault, _ in repair.covers]
    if repair.buys:
        own = [fault for fault in own if not any(one.is_free for one in machine.repairs_of(fault))]
    return belief.any_of(dict.fromkeys(own, 1.0))


def _by_rule(found: Sequence[Option], most: int) -> list[Option]:
    """Return the repairs with what leads by rule in front: a set of which each is proved; else,
    while the first is not, the cures without a part. A set of what is not proved comes after the
    single ones."""
    sets = [o for o in found if len(o.repairs) > 1]
    single = [o for o in found if len(o.repairs) == 1][:most]
    if sets and sets[0].proved:
        return [*sets, *single]
    bought = [o for o in single if not o.free]
    part_leads = bool(single) and single[0].proved and not single[0].free
    if bought and not part_leads:
        why = "Before a new part, since nothing has to be bought for it."
        free = [replace(o, note=f"{o.note} {why}") for o in single if o.free]
        single = [*free, *bought]
    return [*single, *sets]


def _shared_out(
    belief: Belief,
    repairs: Iterable[tuple[tuple[RepairOption, ...], Quote, float]],
    proved: set[str],
) -> list[Option]:
    """Return the choice of each repair and set of repairs, from its quote and the chance that it
    ends the complaint. Every set of faults counts for the cheapest that ends all of it."""
    taken, found = np.zeros(len(belief.now), dtype=bool), []
    for own, priced, ends in sorted(repairs, key=lambda one: (one[1].total, one[0][0].id)):
        whole = belief.ended_by(*(dict(repair.covers) for repair in own))
        enough, too = (float(belief.now @ (whole * cases)) for cases in (~taken, taken))
        taken |= whole > 0
        stands = all(repair.id in proved or not repair.buys for repair in own)
        title = " and ".join((own[0].name, *(lower_first(repair.name) for repair in own[1:])))
        note = _note(own, enough, too)
        found.append(Option("repair", own, title, priced, ends, note, enough, stands))
    return found


def _note(repairs: Sequence[RepairOption], enough: float, too: float) -> str:
    """Return what kind of work it is, and in what share of cases it is ``enough``, and in what
    further share it and something cheaper."""
    kind = "Together, on one visit."
    if len(repairs) == 1:
        kind = KIND_WORDS.get(repairs[0].do, "No part.")
    if max(enough, too) < LEAST_SHOWN:
        return f"{kind} Hardly ever enough by itself here."
    if enough < LEAST_SHOWN:
        return f"{kind} Where it is enough, in {too:.0%} of cases, something cheaper is, too."
    said = f"{kind} Enough in {enough:.0%} of cases like this one"
    if too < LEAST_SHOWN:
        return f"{said}."
    return f"{said}; in another {too:.0%} something cheaper is, too."
