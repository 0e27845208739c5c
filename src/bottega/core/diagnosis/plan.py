"""The next step: the check whose expected saving is largest for what it costs to reach and do."""

from collections.abc import Iterable
from dataclasses import dataclass, replace

import numpy as np

from bottega.core.diagnosis.evidence import Evidence, state_likelihoods
from bottega.core.diagnosis.infer import Belief
from bottega.core.diagnosis.model import DiagnosisModel, Floats, Ints
from bottega.core.diagnosis.repairplan import Actions, Prices, compile_actions, expected_cost
from bottega.core.job.state import MachineState, Reach, Reaching
from bottega.core.library.machine_type import Check
from bottega.core.library.tables import EngineTable


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
    """Whether it is for safety, proves a part, or saves more than it costs by an amount worth the talk."""
    proves: str | None = None
    """The fault it proves, when the shop proves first and nothing else is worth checking."""


@dataclass(frozen=True)
class Plan:
    """The steps in order of what they save, and the expected cost of repair as things stand."""

    steps: tuple[Step, ...]
    expected_cost: float

    @property
    def next(self) -> Step | None:
        """Return the step that pays most, or None when nothing left is worth checking."""
        return next((step for step in self.steps if step.worth_it), None)


@dataclass(frozen=True)
class _Beam:
    rows: Ints
    belief: Floats
    sets: Ints
    members: Floats


PLAUSIBLE = 0.25
"""Below this a leading fault is not worth proving for its own sake."""
TELLS = 0.04
"""A check that moves the leading fault by less than this on average does not prove it."""
PREVIEWS = 12
"""How many steps get their outcome previews."""


def plan(
    belief: Belief,
    evidence: Evidence,
    state: MachineState,
    reaching: Reaching,
    prices: Prices,
    engine: EngineTable,
    available: Iterable[str],
) -> Plan:
    """Return the checks in ``available`` ordered by expected saving, those with outcome previews first.

    Saving = expected cost of repair now, less the cost of reaching and doing the check, less the outcome-weighted
    expected cost after it (one-step look-ahead). A plausible dangerous fault goes before cost.
    """
    model = belief.model
    actions = compile_actions(model, prices, engine, _reached(model, state, reaching))
    beam = _beam(belief, engine)
    base = float(expected_cost(actions, prices, beam.belief[None], beam.sets, beam.members, actions.item_cost[None])[0])
    checks = [model.machine.checks[name] for name in available]
    if not checks:
        return Plan((), base)
    chances, after, owner = _look_ahead(model, beam, checks, _present_states(model, evidence))
    ways = [reaching.reach(state, check.needs) for check in checks]
    left = np.array([_item_cost_after(actions, way) for way in ways])[owner]
    costs = expected_cost(actions, prices, after, beam.sets, beam.members, left)
    expected = np.bincount(owner, weights=chances * costs, minlength=len(checks))
    urgent = _urgent(model, beam, chances, after, owner, len(checks), engine)
    steps = []
    for c, check in enumerate(checks):
        minutes = check.minutes + ways[c].minutes
        cost = (minutes + engine.note_minutes) * prices.rate_per_min
        own = np.flatnonzero(owner == c)
        steps.append((c, own, minutes, cost, base - cost - float(expected[c])))
    dangerous = max(range(len(checks)), key=lambda c: urgent[c] / steps[c][3]) if urgent.max() > 0 else -1
    steps.sort(key=lambda item: (item[0] != dangerous, -item[4], item[0]))
    ranked = [
        _step(
            model,
            beam,
            checks[c],
            ways[c],
            minutes,
            cost,
            saving,
            chances[own],
            after[own],
            n < PREVIEWS,
            c == dangerous,
            engine.least_saving_eur,
        )
        for n, (c, own, minutes, cost, saving) in enumerate(steps)
    ]
    if prices.prove_at > 0 and not any(step.worth_it for step in ranked):
        ranked = _proving_first(model, beam, prices.prove_at, ranked, chances, after, owner, checks)
    return Plan(tuple(ranked), base)


def _proving_first(
    model: DiagnosisModel,
    beam: _Beam,
    prove_at: float,
    ranked: list[Step],
    chances: Floats,
    after: Floats,
    owner: Ints,
    checks: list[Check],
) -> list[Step]:
    """Return the steps with the check in front that tells most per cost about a leading part not proved yet, if any."""
    faults = beam.belief @ beam.members
    leading = int(np.argmax(faults))
    name, now = model.fault_ids[leading], float(faults[leading])
    if not PLAUSIBLE < now < prove_at or any(r.do != "part" for r in model.machine.repairs_of(name)):
        return ranked
    moved = chances * np.abs(after @ beam.members[:, leading] - now)
    told = dict(
        zip((c.id for c in checks), np.bincount(owner, weights=moved, minlength=len(checks)).tolist(), strict=True)
    )
    best = max(ranked, key=lambda step: told[step.check.id] / step.cost)
    if told[best.check.id] < TELLS:
        return ranked
    own = np.flatnonzero(owner == next(c for c, check in enumerate(checks) if check.id == best.check.id))
    shown = _step(
        model,
        beam,
        best.check,
        best.reach,
        best.minutes,
        best.cost,
        best.saving,
        chances[own],
        after[own],
        True,
        False,
        0,
    )
    return [replace(shown, worth_it=True, proves=name), *(step for step in ranked if step is not best)]


def _reached(model: DiagnosisModel, state: MachineState, reaching: Reaching) -> dict[str, dict[tuple[str, str], float]]:
    return {
        repair.id: {(step.what, step.to): step.minutes for step in reaching.reach(state, repair.needs).steps}
        for repair in model.machine.repairs.values()
    }


def _item_cost_after(actions: Actions, way: Reach) -> Floats:
    """Return what reaching still costs once a check's way has been gone; plug and charge may have to be done again."""
    stays = {item for item in way.items if item[0] not in ("power", "charge")}
    return np.where([item in stays for item in actions.items], 0.0, actions.item_cost)


def _beam(belief: Belief, engine: EngineTable) -> _Beam:
    """Return the likeliest sets that hold nearly all of the belief, renormalised."""
    model = belief.model
    order = np.argsort(-belief.now, kind="stable")[: engine.beam_size]
    mass = np.cumsum(belief.now[order])
    keep = order[: int(np.searchsorted(mass, engine.beam_mass)) + 1]
    chosen = belief.now[keep]
    return _Beam(keep, chosen / chosen.sum(), model.sets[keep], model.members[keep])


def _present_states(model: DiagnosisModel, evidence: Evidence) -> dict[int, Floats]:
    """Return, per effect seen since a repair last touched it, the likelihood over its states (K,)."""
    since: dict[int, int] = {}
    for removal in evidence.removals:
        touched = model.touches[[model.fault_index(fault) for fault in removal.faults]].any(axis=0)
        for e in np.flatnonzero(touched):
            since[int(e)] = max(since.get(int(e), 0), removal.after_epoch + 1)
    present: dict[int, Floats] = {}
    for (effect, epoch), row in state_likelihoods(model, evidence.findings).items():
        index = model.effect_index(effect)
        if epoch >= since.get(index, 0):
            present[index] = present.get(index, np.ones_like(row)) * row
    return present


def _look_ahead(
    model: DiagnosisModel, beam: _Beam, checks: list[Check], present: dict[int, Floats]
) -> tuple[Floats, Floats, Ints]:
    """Return per outcome of every check: its chance (R,), the belief after it (R, N), and the check's number (R,)."""
    rows: list[Floats] = []
    owner: list[int] = []
    for c, check in enumerate(checks):
        e = model.effect_index(check.effect)
        states = model.states[e, beam.rows]
        if e in present:
            states = states * present[e]
            states = states / states.sum(axis=1, keepdims=True)
        answers = model.answers[check.id]
        rows.append(((states[:, : answers.shape[1]] @ answers.T) * beam.belief[:, None]).T)
        owner += [c] * len(answers)
    joint = np.concatenate(rows)
    chances = joint.sum(axis=1)
    after = joint / np.maximum(chances, 1e-300)[:, None]
    return chances, after, np.array(owner, dtype=np.intp)


def _urgent(
    model: DiagnosisModel, beam: _Beam, chances: Floats, after: Floats, owner: Ints, count: int, engine: EngineTable
) -> Floats:
    """Return per check how much it tells about plausible dangerous faults (variance of their chance); zeros if none."""
    faults = model.machine.faults
    own = [i for i, name in enumerate(model.fault_ids) if faults[name].severity == "dangerous"]
    hit = beam.members[:, own].any(axis=1) if own else np.zeros(len(beam.rows), dtype=bool)
    now = float(beam.belief[hit].sum())
    told = np.bincount(owner, weights=chances * (after[:, hit].sum(axis=1) - now) ** 2, minlength=count)
    plausible = engine.dangerous_above < now < 1 - engine.dangerous_above
    return np.where(told > 0.1 * now * (1 - now), told, 0.0) if plausible else np.zeros(count)


def _step(
    model: DiagnosisModel,
    beam: _Beam,
    check: Check,
    way: Reach,
    minutes: float,
    cost: float,
    saving: float,
    chances: Floats,
    after: Floats,
    with_preview: bool,
    safety: bool,
    least_saving: float,
) -> Step:
    outcomes: tuple[OutcomePreview, ...] = ()
    moved: tuple[str, ...] = ()
    if with_preview:
        faults = after @ beam.members
        outcomes = tuple(
            OutcomePreview(o.id, o.label, float(chances[i]), _top(model, faults[i]))
            for i, o in enumerate(check.outcomes)
        )
        before = beam.belief @ beam.members
        spread = (chances[:, None] * np.abs(faults - before)).sum(axis=0)
        moved = tuple(model.fault_ids[i] for i in np.argsort(-spread, kind="stable")[:2] if spread[i] > 0.005)
    return Step(check, way, minutes, cost, saving, outcomes, moved, safety, safety or saving > least_saving)


def _top(model: DiagnosisModel, chances: Floats, count: int = 3) -> tuple[tuple[str, float], ...]:
    order = np.argsort(-chances, kind="stable")[:count]
    return tuple((model.fault_ids[i], float(chances[i])) for i in order)
