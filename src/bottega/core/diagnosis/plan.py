"""The next step: the check whose expected saving is largest for what it costs to reach and do."""

from collections.abc import Iterable
from dataclasses import dataclass

import numpy as np

from bottega.core.diagnosis.evidence import Evidence
from bottega.core.diagnosis.findout import cures_of, price_of_a_bit
from bottega.core.diagnosis.infer import Belief
from bottega.core.diagnosis.lookahead import (
    Beam,
    Branches,
    beam_of,
    branch,
)
from bottega.core.diagnosis.model import DiagnosisModel, Floats
from bottega.core.diagnosis.outlook import Outlook
from bottega.core.diagnosis.repairplan import Prices, compile_actions, walk
from bottega.core.diagnosis.safety_first import safety_first
from bottega.core.library.machine_type import Check
from bottega.core.library.tables import EngineTable
from bottega.core.machine.reach import Reach, Reaching
from bottega.core.machine.state import MachineState


@dataclass(frozen=True)
class OutcomePreview:
    """One answer to a step: its chance, and the likeliest faults after it (fault, probability)."""

    outcome: str
    label: str
    chance: float
    after: tuple[tuple[str, float], ...]


@dataclass(frozen=True)
class Step:
    """One check that could come next. Money in the library's euro, minutes include reaching."""

    check: Check
    reach: Reach
    minutes: float
    cost: float
    saving: float
    outcomes: tuple[OutcomePreview, ...]
    parts_faults: tuple[str, ...]
    """The faults whose probability moves most, most moved first."""
    safety: bool
    worth_it: bool
    """Whether it is for safety, proves a part, or saves more than it costs by an amount worth the
    talk."""
    proves: str | None = None
    """The fault it proves, when the shop proves first and nothing else is worth checking."""


@dataclass(frozen=True)
class Ends:
    """What to do if nothing more is checked, and what that costs on average: the repairs to try one
    after the other; none when referring is cheapest."""

    repairs: tuple[str, ...]
    cost: float


@dataclass(frozen=True)
class Plan:
    """The steps in order of what they save, and the expected cost as things stand, in the library's
    euro: of the best there is to do, checks with it."""

    steps: tuple[Step, ...]
    expected_cost: float
    ends: Ends
    enough: bool = False
    """Whether so many checks were made that going on is no longer the way."""

    @property
    def next(self) -> Step | None:
        """Return the step that pays most, or None when nothing left is worth checking."""
        return next((step for step in self.steps if step.worth_it), None)


PLAUSIBLE = 0.25
"""Below this a leading fault is not worth proving for its own sake."""
TIE_DIGITS = 6
"""Savings that differ by less than a millionth of a euro are equal; ties go by the id of the
check."""
TELLS = 0.04
"""A check that moves the leading fault by less than this on average does not prove it."""
PREVIEWS = 10
"""How many steps get their outcome previews."""
ALL = 0.999999
"""The share of the belief that counts as all of it."""
MOVED = 0.005
"""A check moves a fault when its probability changes by more than this on average."""


def plan(
    belief: Belief,
    evidence: Evidence,
    state: MachineState,
    reaching: Reaching,
    prices: Prices,
    engine: EngineTable,
    available: Iterable[str],
) -> Plan:
    """Return the checks in ``available`` ordered by expected saving, those with outcome previews
    first.

    Saving = expected cost now, less the cost of reaching and doing the check, less the
    outcome-weighted expected cost after it. What a belief costs is the least of three ways: repair
    at once, find out first at what a bit costs here, refer. A plausible dangerous fault goes before
    cost.
    """
    model = belief.model
    beam = beam_of(model, belief.now, engine.beam_mass, engine.beam_size)
    actions = compile_actions(model, prices, engine, state, reaching, beam)
    checks = [model.machine.checks[name] for name in available]
    ways = reaching.ways(state, (check.needs for check in checks))
    outlook = Outlook(model, beam.rows, beam.belief, evidence, state)
    branches = branch(beam.belief, *outlook.chances(checks))
    left = actions.left_after([((), state), *((way.reach.items, way.there) for way in ways)])
    rows = np.vstack([beam.belief, branches.after])
    open_ways = left[np.append(0, branches.owner + 1)]
    walked = walk(actions, rows, beam, open_ways, prices.proves_first)
    trying = walked.cost(prices.refer)
    ends = Ends(walked.repairs(0, actions, prices.refer), float(trying[0]))
    enough = evidence.checks >= engine.most_checks
    if not checks:
        return Plan((), ends.cost, ends, enough)
    minutes = np.array(
        [check.minutes + way.reach.minutes for check, way in zip(checks, ways, strict=True)]
    )
    cost = (minutes + engine.note_minutes) * prices.rate_per_min
    cures = cures_of(actions, beam, left[0])
    bits = cures.bits(rows)
    gained = bits[0] - branches.mean(bits[1:], len(checks))
    price = price_of_a_bit(gained, cost, engine)
    finding = cures.cost(actions, rows, open_ways) + (bits * price if price else np.inf)
    ahead = np.minimum(trying, finding)
    base, saving = float(ahead[0]), ahead[0] - cost - branches.mean(ahead[1:], len(checks))
    dangerous = safety_first(model, beam, branches, checks, cost, evidence, engine)
    ranked = sorted(
        range(len(checks)),
        key=lambda c: (c != dangerous, -round(float(saving[c]), TIE_DIGITS), checks[c].id),
    )
    proving = None
    if prices.prove_at > 0 and dangerous is None and saving[ranked[0]] <= engine.least_saving_eur:
        live = np.array(
            [engine.live_factor if check.who == "qualified" else 1.0 for check in checks]
        )
        proving = _proving_first(model, beam, branches, cost * live, prices.prove_at)
        if proving is not None:
            ranked = [proving[0], *(c for c in ranked if c != proving[0])]
    first = [checks[c] for c in ranked[:PREVIEWS]]
    shown = previews(belief, evidence, state, first, engine.preview_sets)
    figures = zip(
        minutes[ranked].tolist(), cost[ranked].tolist(), saving[ranked].tolist(), strict=True
    )
    steps = []
    for n, (c, (taken, money, saves)) in enumerate(zip(ranked, figures, strict=True)):
        told, moved = shown[n] if n < PREVIEWS else ((), ())
        safety, proves = c == dangerous, proving[1] if proving and n == 0 else None
        pays = saves > engine.least_saving_eur or proves is not None
        worth_it = safety or (pays and not enough)
        steps.append(
            Step(
                checks[c], ways[c].reach, taken, money, saves, told, moved, safety, worth_it, proves
            )
        )
    return Plan(tuple(steps), base, ends, enough)


def _proving_first(
    model: DiagnosisModel, beam: Beam, branches: Branches, cost: Floats, prove_at: float
) -> tuple[int, str] | None:
    """Return the check that tells most per ``cost`` about a leading part not proved yet, and the
    fault; None if none does."""
    faults = beam.belief @ beam.members
    leading = int(np.argmax(faults))
    name, now = model.fault_ids[leading], float(faults[leading])
    if not PLAUSIBLE < now < prove_at or any(
        r.do != "part" for r in model.machine.repairs_of(name)
    ):
        return None
    told = branches.mean(np.abs(branches.after @ beam.members[:, leading] - now), len(cost))
    best = int(np.argmax(told / cost))
    return (best, name) if told[best] >= TELLS else None


def previews(
    belief: Belief, evidence: Evidence, state: MachineState, checks: list[Check], sets: int
) -> list[tuple[tuple[OutcomePreview, ...], tuple[str, ...]]]:
    """Return, per check, every outcome with the ranking after it, and the faults it moves most;
    over ``sets`` sets."""
    model = belief.model
    beam = beam_of(model, belief.now, ALL, sets)
    outlook = Outlook(model, beam.rows, beam.belief, evidence, state)
    chances, owner = outlook.chances(checks)
    branches = branch(beam.belief, chances, owner)
    before, after = beam.belief @ beam.members, branches.after @ beam.members
    shown = []
    for c, check in enumerate(checks):
        own = np.flatnonzero(owner == c)
        told = tuple(
            OutcomePreview(o.id, o.label, float(branches.chance[r]), _top(model, after[r]))
            for r, o in zip(own, check.outcomes, strict=True)
        )
        moved = branches.chance[own] @ np.abs(after[own] - before)
        most = np.argsort(-moved, kind="stable")[:2]
        shown.append((told, tuple(model.fault_ids[f] for f in most if moved[f] > MOVED)))
    return shown


def _top(model: DiagnosisModel, chances: Floats, count: int = 3) -> tuple[tuple[str, float], ...]:
    order = np.argsort(-chances, kind="stable")[:count]
    return tuple((model.fault_ids[i], float(chances[i])) for i in order)
