"""The exact optimum of a small machine by dynamic programming, and what following the plan costs on
the same machine.

One fault or none is there, repairs are sure, and every check is done at most once; what can be
reached, what was answered and what was tried in vain make the state. A shop that proves first is
held to it: nothing is repaired while the leading part is not proved and a check tells of it.
Source: Bellman 1957; the problem as in Heckerman et al. 1995.
"""

from dataclasses import dataclass
from itertools import combinations

import numpy as np

from bottega.benchmark.policies import Way, as_planned
from bottega.benchmark.reduced import AGE_YEARS, Puzzle
from bottega.core.diagnosis.beam import beam_of
from bottega.core.diagnosis.evidence import Evidence, Finding, answered, told_of
from bottega.core.diagnosis.infer import Belief
from bottega.core.diagnosis.model import DiagnosisModel, Flags, Floats, Ints, compile_model
from bottega.core.diagnosis.plan import LEAST_MOVE, PLAUSIBLE
from bottega.core.diagnosis.prior import prior
from bottega.core.diagnosis.repairplan import NOTHING_WRONG, compile_actions
from bottega.core.diagnosis.setting import Setting
from bottega.core.library.machine_type import Check
from bottega.core.library.records import Needs
from bottega.core.library.tables import Tables
from bottega.core.machine.reach import Reaching
from bottega.core.machine.state import MachineState


@dataclass(frozen=True)
class _Board:
    """A puzzle as arrays: S machine states, C checks, A actions, the sets 0..F (none or one
    fault)."""

    model: DiagnosisModel
    reaching: Reaching
    checks: list[Check]
    actions: tuple[str, ...]
    action_cost: Floats
    action_wrong: Floats
    """(A, F+1) money lost besides when an action was not what was wanted."""
    ends: Floats
    """(A, F+1) 1 where an action ends the set."""
    states: list[MachineState]
    check_way: tuple[Floats, Ints]
    """Money of reaching and doing a check from a state, and the state arrived in, each (C, S)."""
    action_way: tuple[Floats, Ints]
    by_part: dict[str, bool]
    """Whether nothing but a part ends a fault."""
    joint: Floats
    """P(set, answers), one axis a check with its outcomes and "not done" last, then the sets."""


def exact_cost(puzzle: Puzzle, tables: Tables) -> float:
    """Return the least expected cost in money that any plan of checks and repairs can reach."""
    board = _board(puzzle, tables)
    count, every = len(board.actions), range(len(board.checks))
    regions = [
        done for n in reversed(range(len(board.checks) + 1)) for done in combinations(every, n)
    ]
    values: dict[int, Floats] = {}
    for tried in sorted(range(2**count), key=lambda mask: -mask.bit_count()):
        gone = [a for a in range(count) if tried >> a & 1]
        left = 1 - board.ends[gone].max(axis=0, initial=0.0)
        mass = board.joint @ left
        best = np.repeat((mass * puzzle.prices.refer)[..., None], len(board.states), axis=-1)
        for a in range(count):
            if a not in gone:
                money, there = board.action_way[0][a], board.action_way[1][a]
                further = values[tried | 1 << a][..., there] if mass.any() else 0.0
                vain = board.joint @ (left * (1 - board.ends[a]) * board.action_wrong[a])
                tried_next = mass[..., None] * (board.action_cost[a] + money) + vain[..., None]
                best = np.minimum(best, tried_next + further)
        best[_not_proved(board, board.joint * left, puzzle.prices.prove_at)] = np.inf
        for done in regions:
            _with_checks(board, best, mass, done)
        values[tried] = best
    start = tuple(len(check.outcomes) for check in board.checks)
    return float(values[0][(*start, 0)] / board.joint[start].sum())


def _not_proved(board: _Board, held: Floats, prove_at: float) -> Flags:
    """Return where a shop that proves first repairs nothing and refers nothing yet: the leading
    fault is plausible and not proved, a part is fitted for it, and an open check that is no
    question tells of it. From P(set, answers) ``held``, by answers; nowhere under the other
    school."""
    mass = held.sum(axis=-1)
    chance = held[..., 1:] / np.maximum(mass, 1e-300)[..., None]
    leading = chance.argmax(axis=-1)[..., None]
    now = np.take_along_axis(chance, leading, axis=-1)[..., 0]
    told = np.zeros_like(mass)
    for c, check in enumerate(board.checks):
        if check.who == "customer":
            continue
        here = tuple([slice(None)] * c + [slice(len(check.outcomes), None)])
        there = tuple([slice(None)] * c + [slice(0, len(check.outcomes))])
        own = np.repeat(leading[here], len(check.outcomes), axis=c)
        with_it = np.take_along_axis(held[there][..., 1:], own, axis=-1)[..., 0]
        moved = np.abs(with_it - now[here] * mass[there]).sum(axis=c, keepdims=True)
        told[here] = np.maximum(told[here], moved / np.maximum(mass[here], 1e-300))
    by_part = np.array([board.by_part[fault] for fault in board.model.fault_ids])
    plausible = (now > PLAUSIBLE) & (now < prove_at)
    return np.asarray(plausible & by_part[leading[..., 0]] & (told >= LEAST_MOVE))


def _with_checks(board: _Board, best: Floats, mass: Floats, done: tuple[int, ...]) -> None:
    """Lower ``best`` where exactly the checks ``done`` are answered by the best further check."""
    here = tuple(
        slice(0, len(check.outcomes)) if c in done else slice(len(check.outcomes), None)
        for c, check in enumerate(board.checks)
    )
    for c, check in enumerate(board.checks):
        if c in done:
            continue
        there = (*here[:c], slice(0, len(check.outcomes)), *here[c + 1 :])
        after = best[there].sum(axis=c, keepdims=True)[..., board.check_way[1][c]]
        best[here] = np.minimum(best[here], mass[here][..., None] * board.check_way[0][c] + after)


def followed_cost(puzzle: Puzzle, tables: Tables, way: Way = as_planned) -> float:
    """Return the expected cost in money of doing what one way of working says, checks and repairs,
    until it ends."""
    board = _board(puzzle, tables)
    known: dict[tuple[object, ...], float] = {}

    def worth(answers: tuple[int, ...], tried: frozenset[int], s: int) -> float:
        """Return the cost from here times the chance of coming here."""
        key = (answers, tried, s)
        if key not in known:
            known[key] = value(answers, tried, s)
        return known[key]

    def value(answers: tuple[int, ...], tried: frozenset[int], s: int) -> float:
        """Work out what ``worth`` keeps: one plan, and what follows each of its answers."""
        now = board.joint[answers] * (1 - board.ends[sorted(tried)].max(axis=0, initial=0.0))
        mass = float(now.sum())
        if mass < 1e-12:
            return 0.0
        found, open_checks = list(puzzle.told), []
        for c, check in enumerate(board.checks):
            if answers[c] < len(check.outcomes):
                found.append(answered(f"c{c}", check, check.outcomes[answers[c]].id, 0))
            else:
                open_checks.append(check.id)
        everywhere = np.zeros(len(board.model.sets))
        everywhere[: len(now)] = now / mass
        belief = Belief(board.model, everywhere, everywhere, 0.0)
        job = Setting(
            belief,
            Evidence(tuple(found)),
            board.states[s],
            board.reaching,
            puzzle.prices,
            tables.engine,
        )
        name = way(job, open_checks)
        if name in open_checks:
            c = next(c for c, check in enumerate(board.checks) if check.id == name)
            money, there = board.check_way[0][c, s], int(board.check_way[1][c, s])
            ahead = (
                (*answers[:c], o, *answers[c + 1 :]) for o in range(len(board.checks[c].outcomes))
            )
            return mass * float(money) + sum(worth(after, tried, there) for after in ahead)
        if name is None:
            return mass * puzzle.prices.refer
        a = board.actions.index(name)
        money, there = board.action_way[0][a, s], int(board.action_way[1][a, s])
        vain = float(now @ ((1 - board.ends[a]) * board.action_wrong[a]))
        done = mass * float(board.action_cost[a] + money) + vain
        return done + worth(answers, tried | {a}, there)

    start = tuple(len(check.outcomes) for check in board.checks)
    return worth(start, frozenset(), 0) / float(board.joint[start].sum())


def _board(puzzle: Puzzle, tables: Tables) -> _Board:
    machine, engine, rate = puzzle.machine, tables.engine, puzzle.prices.rate_per_min
    model, reaching = compile_model(machine), Reaching(machine, tables)
    sets = len(model.fault_ids) + 1
    checks = list(machine.checks.values())
    uniform = np.full(len(model.sets), 1 / len(model.sets))
    beam = beam_of(model, uniform, 1 - 1e-12, len(model.sets))
    actions = compile_actions(
        model, puzzle.prices, engine, puzzle.start, reaching=reaching, beam=beam
    )
    ends = np.hstack([actions.covers[-1:].T, actions.covers[:-1].T])
    wanted = [
        machine.repairs[name].needs if name != NOTHING_WRONG else Needs() for name in actions.ids
    ]
    states = _reachable(puzzle.start, reaching, [*(check.needs for check in checks), *wanted])
    taken = np.array([check.minutes + engine.note_minutes for check in checks])
    money, there = _ways(states, reaching, [check.needs for check in checks], rate)
    return _Board(
        model=model,
        reaching=reaching,
        checks=checks,
        actions=actions.ids,
        action_cost=actions.cost,
        action_wrong=actions.lost[:, None] + actions.unseen[np.argsort(beam.rows)][:sets],
        ends=(ends > 0).astype(float),
        states=states,
        check_way=(money + taken[:, None] * rate, there),
        action_way=_ways(states, reaching, wanted, rate),
        by_part={
            fault: all(r.do == "part" for r in machine.repairs_of(fault))
            for fault in model.fault_ids
        },
        joint=_joint(model, checks, puzzle.told, prior(model, AGE_YEARS, engine)[:sets]),
    )


def _reachable(start: MachineState, reaching: Reaching, needs: list[Needs]) -> list[MachineState]:
    states = [start]
    for state in states:
        for wanted in needs:
            there = reaching.arrived(state, wanted)
            if there not in states:
                states.append(there)
    return states


def _ways(
    states: list[MachineState], reaching: Reaching, needs: list[Needs], rate: float
) -> tuple[Floats, Ints]:
    money = [[reaching.reach(state, wanted).minutes * rate for state in states] for wanted in needs]
    there = [
        [states.index(reaching.arrived(state, wanted)) for state in states] for wanted in needs
    ]
    return np.array(money), np.array(there, dtype=np.intp)


def _joint(
    model: DiagnosisModel, checks: list[Check], told: tuple[Finding, ...], before: Floats
) -> Floats:
    """Return P(set, answers of the checks, what was told), one axis a check, then the sets 0..F."""
    sets = len(before)
    joint = before.reshape(*(1 for _ in checks), sets)
    heard = {effect: own.within(0, own.last) for effect, own in told_of(model, told).items()}
    for effect in {check.effect for check in checks} | set(heard):
        own = [c for c, check in enumerate(checks) if check.effect == effect]
        shape = [len(check.outcomes) + 1 if c in own else 1 for c, check in enumerate(checks)]
        factor = np.empty((*shape, sets))
        for where in np.ndindex(*shape):
            likelihood = heard.get(effect, np.ones(model.table.shape[1])).copy()
            for c in own:
                if where[c] < len(checks[c].outcomes):
                    chances = checks[c].outcomes[where[c]].chances
                    likelihood[: len(chances)] *= chances
            factor[where] = model.seen_by_all(model.effect_index(effect), likelihood)[:sets]
        joint = joint * factor
    return joint
