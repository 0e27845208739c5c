"""Looking two steps ahead: a check that pays only together with another, and a repair that is
better tried first."""

from dataclasses import dataclass

import numpy as np

from bottega.core.diagnosis.lookahead import Beam, Branches, outcome_chances, outcomes_of, updated
from bottega.core.diagnosis.model import DiagnosisModel, Floats, Ints
from bottega.core.diagnosis.repairplan import NOTHING_WRONG, Actions, Prices, walk
from bottega.core.library.machine_type import Check
from bottega.core.library.records import Needs
from bottega.core.library.tables import EngineTable
from bottega.core.machine.reach import Reaching, Way
from bottega.core.machine.state import MachineState


@dataclass(frozen=True)
class Ahead:
    """What the first look ahead worked out, and the second goes on from."""

    model: DiagnosisModel
    beam: Beam
    actions: Actions
    checks: list[Check]
    seen: dict[int, Floats]
    """P(state | set, findings) as ``seen_states`` gives it."""
    outcomes: Ints
    """The model's outcome behind each row of the branches."""
    branches: Branches
    state: MachineState
    reaching: Reaching
    prices: Prices
    engine: EngineTable


@dataclass(frozen=True)
class _Point:
    """Where a second step would start: what is believed there, how the machine stands, what has
    been reached."""

    belief: Floats
    state: MachineState
    gone: tuple[tuple[str, str], ...]
    check: Check | None = None
    answer: int = -1
    """The model's outcome just seen, -1 for none."""


def two_steps(ahead: Ahead, saving: Floats, repairs: tuple[str, ...]) -> tuple[Floats, float]:
    """Return the savings (C,) with one more check behind the most promising ones, and what that is
    worth behind the first of ``repairs``: where it is cheaper to try that first and check only if
    it was not the one.

    ``saving`` (C,) is that of one step. Only ``deep_firsts`` checks are gone into, only
    ``deep_seconds`` considered as the second step, and only the ``deep_sets`` likeliest sets: the
    budget is counted, not timed, so that everybody sees the same answer.
    """
    engine = ahead.engine
    order = np.argsort(-saving, kind="stable").tolist()
    firsts, seconds = order[: engine.deep_firsts], order[: engine.deep_seconds]
    few = slice(0, engine.deep_sets)
    rows = [int(r) for c in firsts for r in np.flatnonzero(ahead.branches.owner == c)]
    rows = [r for r in rows if ahead.branches.chance[r] > engine.deep_least_chance]
    points = [_after_check(ahead, r, few) for r in rows]
    failed = _after_repair(ahead, repairs[0], few) if repairs else None
    gains = _gains(ahead, [*points, *([failed[1]] if failed else [])], seconds, few)
    deeper = saving.copy()
    for r, gain in zip(rows, gains, strict=False):
        deeper[ahead.branches.owner[r]] += ahead.branches.chance[r] * gain
    return deeper, failed[0] * float(gains[-1]) if failed else 0.0


def _after_check(ahead: Ahead, row: int, few: slice) -> _Point:
    first = int(ahead.branches.owner[row])
    check = ahead.checks[first]
    here = ahead.branches.after[row, few]
    gone = ahead.reaching.reach(ahead.state, check.needs).items
    there = ahead.reaching.arrived(ahead.state, check.needs)
    return _Point(here / max(here.sum(), 1e-300), there, gone, check, int(ahead.outcomes[row]))


def _after_repair(ahead: Ahead, repair: str, few: slice) -> tuple[float, _Point] | None:
    """Return the chance that the repair does not end it, and the point where it has been tried in
    vain."""
    covered = ahead.actions.covers[:, ahead.actions.ids.index(repair)]
    sets = ahead.beam.sets
    inside = np.where(sets >= 0, covered[sets], 1.0).min(axis=1)
    solved = np.where(sets[:, 0] < 0, covered[-1], inside)
    left = ahead.beam.belief * (1 - solved)
    here = left[few]
    if here.sum() < ahead.engine.deep_least_chance:
        return None
    needs = Needs() if repair == NOTHING_WRONG else ahead.model.machine.repairs[repair].needs
    gone = ahead.reaching.reach(ahead.state, needs).items
    return float(left.sum()), _Point(
        here / here.sum(), ahead.reaching.arrived(ahead.state, needs), gone
    )


def _gains(ahead: Ahead, points: list[_Point], seconds: list[int], few: slice) -> Floats:
    """Return, per point, what the best further check saves there against repairing at once; never
    below nothing."""
    if not points:
        return np.zeros(0)
    beam = Beam(
        ahead.beam.rows[few], ahead.beam.belief[few], ahead.beam.sets[few], ahead.beam.members[few]
    )
    checks = [ahead.checks[c] for c in seconds]
    seen = {e: states[:, few] for e, states in ahead.seen.items()}
    outcomes, owner = outcomes_of(ahead.model, checks)
    chances = outcome_chances(ahead.model, outcomes, beam.rows, seen)
    option = np.append(0, owner + 1)
    joint, left, money = [], [], np.zeros((len(points), len(checks) + 1))
    for p, point in enumerate(points):
        own = _as_seen(ahead.model, point, outcomes, chances, beam, seen)
        joint += [point.belief[None], own * point.belief]
        ways = ahead.reaching.ways(point.state, (check.needs for check in checks))
        left.append(
            ahead.actions.left_after(
                [(point.gone, point.state), *((_with(point.gone, way), way.there) for way in ways)]
            )[option]
        )
        for n, (check, way) in enumerate(zip(checks, ways, strict=True), start=1):
            minutes = check.minutes + way.reach.minutes + ahead.engine.note_minutes
            money[p, n] = np.inf if check is point.check else minutes * ahead.prices.rate_per_min
    rows = np.vstack(joint)
    chance = rows.sum(axis=1)
    costs = walk(ahead.actions, rows / np.maximum(chance, 1e-300)[:, None], beam, np.vstack(left))
    place = (np.arange(len(points))[:, None] * money.shape[1] + option).ravel()
    money += np.bincount(
        place, weights=chance * costs.cost(ahead.prices.refer), minlength=money.size
    ).reshape(money.shape)
    return np.asarray(money[:, 0] - money.min(axis=1))


def _with(gone: tuple[tuple[str, str], ...], way: Way) -> tuple[tuple[str, str], ...]:
    """Return what has been reached with a way behind it, each once and always in one order: sums
    must not depend on it."""
    return tuple(dict.fromkeys((*gone, *way.reach.items)))


def _as_seen(
    model: DiagnosisModel,
    point: _Point,
    outcomes: Ints,
    chances: Floats,
    beam: Beam,
    seen: dict[int, Floats],
) -> Floats:
    """Return P(outcome | set) at a point, (R, N): checks that read the effect just seen read it as
    it was seen."""
    table = model.checks
    if point.answer < 0:
        return chances
    e = int(table.effect[point.answer])
    same = np.flatnonzero(table.effect[outcomes] == e)
    states = updated(
        seen[e] if e in seen else model.states(e, beam.rows), table.answers[point.answer]
    )
    corrected = chances.copy()
    corrected[same] = table.answers[outcomes[same]] @ states
    return corrected
