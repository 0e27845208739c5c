"""The next step: the check that is worth most after what it costs to reach and do."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import NamedTuple

import numpy as np

from bottega.core.diagnosis.answers_ahead import Outlook
from bottega.core.diagnosis.beam import Beam, beam_of, branch
from bottega.core.diagnosis.evidence import Evidence
from bottega.core.diagnosis.infer import Belief
from bottega.core.diagnosis.model import DiagnosisModel, Floats, Ints
from bottega.core.diagnosis.pricing import Ends, Priced, priced
from bottega.core.diagnosis.repairplan import NOTHING_WRONG, ShopPrices
from bottega.core.diagnosis.safety_first import safety_first
from bottega.core.diagnosis.setting import Setting
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


class Step(NamedTuple):
    """One check that could come next. Money in the library's euro, minutes include reaching."""

    check: Check
    reach: Reach
    minutes: float
    cost: float
    worth: float
    """By how much the plan is for making it; by this the steps are ordered, and go on or end."""
    saving: float
    """What the job costs more on average if it is never made."""
    safety: bool
    worth_it: bool
    """Whether it is for safety, proves a part, or is worth more than it costs by an amount worth
    the talk."""
    proves: str | None = None
    """The fault it proves, when the shop proves first and nothing else is worth checking."""
    outcomes: tuple[OutcomePreview, ...] = ()
    """What it may answer; empty until ``foretold`` works that out."""
    parts_faults: tuple[str, ...] = ()
    """The fault whose probability moves most, and the one that moves most the other way; as
    ``outcomes``."""


@dataclass(frozen=True)
class Plan:
    """The steps in order of their worth, and the expected cost as things stand, in the library's
    euro: of what there is to do, checks with it."""

    steps: tuple[Step, ...]
    expected_cost: float
    ends: Ends
    enough: bool = False
    """Whether so many checks were made that going on is no longer the way."""

    @property
    def next(self) -> Step | None:
        """Return the step that pays most, or None when nothing left is worth checking."""
        return next((step for step in self.steps if step.worth_it), None)

    def cost_without(self, step: Step) -> float:
        """Return what the job is expected to cost from here without a step, in euro."""
        return self.expected_cost + max(step.saving, 0.0)

    def cost_with(self, step: Step) -> float:
        """Return what the job is expected to cost from here with a step, in euro."""
        return self.cost_without(step) - step.saving


PLAUSIBLE = 0.25
"""Below this a leading fault is not worth proving for its own sake."""
TIE_DIGITS = 6
"""Savings that differ by less than a millionth of a euro are equal; ties go by the id of the
check."""
ALIKE_DIGITS = 12
"""Chances that differ by less are the same; faults of the same chance stand in the library's order,
whatever sums were made in which order."""
LEAST_MOVE = 0.04
"""A check that moves the leading fault by less than this on average does not prove it."""
ALL = 0.999999
"""The share of the belief that counts as all of it."""
MOVED = 0.005
"""A check moves a fault when its probability changes by more than this on average."""


def plan(
    belief: Belief,
    evidence: Evidence,
    state: MachineState,
    reaching: Reaching,
    *,
    prices: ShopPrices,
    engine: EngineTable,
    available: Iterable[str],
) -> Plan:
    """Return the checks in ``available`` ordered by worth. A plausible dangerous fault goes before
    cost."""
    job = Setting(belief, evidence, state, reaching, prices, engine)
    checks = [belief.model.machine.checks[name] for name in available]
    found = priced(job, checks)
    enough = evidence.checks >= engine.most_checks
    ends = _not_handed_over(found.ends, evidence, belief)
    if not checks:
        return Plan((), found.ends.cost, ends, enough)
    order = _order(job, found, checks)
    steps = _steps(found, checks, order, enough=enough)
    return Plan(tuple(steps), found.expected, ends, enough)


@dataclass(frozen=True)
class _Order:
    """The places of the checks in the order they come in. A check is worth making where it saves
    more than ``least`` euro. The first one is made for ``safety``, or ``proves`` the named fault,
    whatever it saves."""

    ranked: list[int]
    least: float
    safety: bool = False
    proves: str | None = None


def _order(job: Setting, found: Priced, checks: list[Check]) -> _Order:
    model, engine = job.belief.model, job.engine
    least = _least_saving(job, found)
    dangerous = _first_for_safety(found, checks, job.evidence, model, engine=engine)
    asked = max(least, engine.asked_saving_eur)
    here = job.evidence.checks > 0
    ranked = _ranked(found, checks, dangerous, by_id=_by_id(model, checks), asked=asked, here=here)
    pays = found.worth[ranked[0]] > least or (here and _asking_pays(found, checks, least))
    if dangerous is not None or pays or not job.prices.proves_first:
        return _Order(ranked, least, safety=dangerous is not None)
    proving = _proving_first(
        model, found, checks, job.prices.prove_at, live_factor=engine.live_factor
    )
    if proving is None:
        return _Order(ranked, least)
    place, fault = proving
    return _Order([place, *(c for c in ranked if c != place)], least, proves=fault)


def _least_saving(job: Setting, found: Priced) -> float:
    """Return how much a check has to save to be made, in euro: more where the repair is sure."""
    prices, engine = job.prices, job.engine
    mark = prices.prove_at if prices.proves_first else engine.sure_at
    return engine.sure_saving_eur if found.ends.sure >= mark else engine.least_saving_eur


def _steps(found: Priced, checks: list[Check], order: _Order, *, enough: bool) -> list[Step]:
    """Return the steps in order; none is worth it after ``enough`` checks, but for safety."""
    ranked = order.ranked
    worth = found.worth[ranked]
    worthy = (worth > order.least) & (not enough)
    figures = zip(
        ranked,
        found.minutes[ranked].tolist(),
        found.cost[ranked].tolist(),
        worth.tolist(),
        found.saving[ranked].tolist(),
        worthy.tolist(),
        strict=True,
    )
    steps = [
        Step(checks[c], found.ways[c].reach, minutes, cost, worth, saving, False, pays)
        for c, minutes, cost, worth, saving, pays in figures
    ]
    if order.safety:
        steps[0] = steps[0]._replace(safety=True, worth_it=True)
    elif order.proves is not None:
        steps[0] = steps[0]._replace(worth_it=not enough, proves=order.proves)
    return steps


def _not_handed_over(ends: Ends, evidence: Evidence, belief: Belief) -> Ends:
    """Return what to do without handing the machine over as sound, where it was seen to fail in two
    runs since the last repair: whatever is believed of it, nobody would."""
    if NOTHING_WRONG not in ends.repairs or not evidence.keeps_failing:
        return ends
    left = tuple(name for name in ends.repairs if name != NOTHING_WRONG)
    repairs = belief.model.machine.repairs
    sure = belief.any_of(dict(repairs[left[0]].covers)) if left else 0.0
    return Ends(left, ends.cost, sure)


def _asking_pays(found: Priced, checks: list[Check], least: float) -> bool:
    """Return whether some question to the customer saves more than ``least`` euro."""
    question = np.array([check.who == "customer" for check in checks])
    return bool((found.worth[question] > least).any())


def _by_id(model: DiagnosisModel, checks: list[Check]) -> Ints:
    """Return the place of each check in the alphabet of their ids."""
    return model.checks.by_id[model.checks.places(checks)]


def _ranked(
    found: Priced,
    checks: list[Check],
    first: int | None,
    *,
    by_id: Ints,
    asked: float,
    here: bool,
) -> list[int]:
    """Return the places of the checks in order: the check that goes ``first`` for safety; then, on
    the phone, questions to the customer that are worth more than ``asked``, since a question needs
    no machine; then the checks followed to the end of the job, by their worth. Who is ``here``, at
    the machine, has hands and a meter there, and comes to questions last. Equal checks go by their
    ids."""
    late = np.ones(len(checks))
    late[[] if first is None else first] = 0.0
    question = np.array([check.who == "customer" for check in checks])
    turn = question if here else ~(question & (found.worth > asked))
    worth = np.round(found.worth, TIE_DIGITS)
    ranked: list[int] = np.lexsort((by_id, -worth, -found.looked, turn, late)).tolist()
    return ranked


def _first_for_safety(
    found: Priced,
    checks: list[Check],
    evidence: Evidence,
    model: DiagnosisModel,
    *,
    engine: EngineTable,
) -> int | None:
    """Return the place in ``checks`` of the one that goes first for safety, None when none does."""
    telling = found.telling
    if not len(telling):
        return None
    own = [checks[c] for c in telling]
    first = safety_first(
        model,
        found.beam,
        found.branches,
        own,
        cost=found.cost[telling],
        evidence=evidence,
        engine=engine,
    )
    return None if first is None else int(telling[first])


def _proving_first(
    model: DiagnosisModel,
    found: Priced,
    checks: list[Check],
    prove_at: float,
    *,
    live_factor: float,
) -> tuple[int, str] | None:
    """Return the check that tells most for its cost about a leading part not proved yet, and the
    fault; None if none does. A live reading counts ``live_factor`` times its cost, and what the
    customer says proves nothing."""
    beam, branches, telling = found.beam, found.branches, found.telling
    faults = beam.belief @ beam.members
    leading = int(np.argmax(faults))
    name, now = model.fault_ids[leading], float(faults[leading])
    if not len(telling) or not PLAUSIBLE < now < prove_at:
        return None
    if any(r.do != "part" for r in model.machine.repairs_of(name)):
        return None
    live = np.array([live_factor if checks[c].who == "qualified" else 1.0 for c in telling])
    seen = np.array([checks[c].who != "customer" for c in telling], dtype=float)
    told = branches.mean(np.abs(branches.after @ beam.members[:, leading] - now), len(telling))
    told *= seen
    best = int(np.argmax(told / (found.cost[telling] * live)))
    return (int(telling[best]), name) if told[best] >= LEAST_MOVE else None


def foretold(
    steps: Sequence[Step],
    belief: Belief,
    evidence: Evidence,
    state: MachineState,
    *,
    engine: EngineTable,
) -> list[Step]:
    """Return the steps with what each may answer, and which faults it parts."""
    checks = [step.check for step in steps]
    shown = previews(belief, evidence, state, checks, engine=engine) if checks else []
    return [
        step._replace(outcomes=told, parts_faults=moved)
        for step, (told, moved) in zip(steps, shown, strict=True)
    ]


def previews(
    belief: Belief,
    evidence: Evidence,
    state: MachineState,
    checks: list[Check],
    *,
    engine: EngineTable,
) -> list[tuple[tuple[OutcomePreview, ...], tuple[str, ...]]]:
    """Return, per check, every outcome with the ranking after it, and the faults it parts; over the
    sets the engine's table gives for it."""
    model = belief.model
    beam = _shown_over(belief, engine)
    outlook = Outlook(model, beam.rows, beam.belief, evidence, state, engine)
    chances, owner = outlook.chances(checks)
    branches = branch(beam.belief, chances, owner)
    before, after = beam.belief @ beam.members, branches.after @ beam.members
    chance, top = branches.chance.tolist(), _top(model, after)
    shown = []
    for c, check in enumerate(checks):
        own = np.flatnonzero(owner == c)
        told = tuple(
            OutcomePreview(o.id, o.label, chance[r], top[r])
            for r, o in zip(own.tolist(), check.outcomes, strict=True)
        )
        shown.append((told, _parted(model, branches.chance[own], after[own] - before)))
    return shown


def _shown_over(belief: Belief, engine: EngineTable) -> Beam:
    """Return the sets previews are shown over: so many, and more where these hold too little."""
    model, now = belief.model, belief.now
    few = beam_of(model, now, ALL, engine.preview_sets)
    if now[few.rows].sum() >= engine.preview_mass:
        return few
    return beam_of(model, now, engine.preview_mass, engine.preview_most)


def _parted(model: DiagnosisModel, chance: Floats, moves: Floats) -> tuple[str, ...]:
    """Return the fault that moves most on average, by how far each answer ``moves`` (R, F) it, and
    the one that moves most the other way; those only that move at all."""
    moved = np.round(chance @ np.abs(moves), ALIKE_DIGITS)
    first = int(np.argmax(moved))
    apart = np.where((chance * moves[:, first]) @ moves < 0, moved, 0.0)
    told = ((first, moved[first]), (second := int(np.argmax(apart)), apart[second]))
    return tuple(model.fault_ids[f] for f, far in told if far > MOVED)


def _top(
    model: DiagnosisModel, chances: Floats, count: int = 3
) -> list[tuple[tuple[str, float], ...]]:
    """Return the likeliest faults of each row (R, F), with their probability."""
    order = np.argsort(-np.round(chances, ALIKE_DIGITS), axis=1, kind="stable")[:, :count]
    best = np.take_along_axis(chances, order, axis=1).tolist()
    return [
        tuple((model.fault_ids[f], p) for f, p in zip(own, values, strict=True))
        for own, values in zip(order.tolist(), best, strict=True)
    ]
