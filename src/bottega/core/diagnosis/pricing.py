"""What each check saves: from the likeliest fault sets, what it would answer, and what the job
would cost from there."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from bottega.core.diagnosis.answers_ahead import Outlook
from bottega.core.diagnosis.beam import Beam, Branches, beam_of, branch
from bottega.core.diagnosis.bit_price import costs_of_bits, cures_of
from bottega.core.diagnosis.model import DiagnosisModel, Floats, Ints
from bottega.core.diagnosis.repairplan import Actions, Walk, compile_actions
from bottega.core.diagnosis.setting import Setting
from bottega.core.diagnosis.two_moves import Costs, Moves, Stands, runs_well
from bottega.core.library.machine_type import Check
from bottega.core.machine.reach import ReachWay
from bottega.core.machine.state import MachineState


@dataclass(frozen=True)
class Ends:
    """What to do if nothing more is checked, and what that costs on average: the repairs to try one
    after the other; none when referring is cheapest. ``sure`` is the chance that the first ends it.
    ``open_end`` tells that what is left after the one repair is to be found out."""

    repairs: tuple[str, ...]
    cost: float
    sure: float
    open_end: bool = False


@dataclass(frozen=True)
class Priced:
    """C checks priced, in the library's euro, minutes include reaching: ``minutes``, ``cost`` and
    ``worth`` (C,), by which they are ordered and made or not. ``telling`` (T,) the places of the
    checks that can tell anything, with their ``branches``, and ``looked`` (C,) True for those whose
    every answer was followed to its end.

    ``expected`` is what the job costs on average as things stand, checks with it, and ``saving``
    (C,) what it costs more where a check is never made. The price of bits that decides is what the
    dearest of them is worth; in the end they are had for less, and what one check does not tell
    others do."""

    beam: Beam
    ways: Sequence[ReachWay]
    minutes: Floats
    cost: Floats
    worth: Floats
    looked: Ints
    expected: float
    saving: Floats
    ends: Ends
    telling: Ints
    branches: Branches


def priced(job: Setting, checks: Sequence[Check]) -> Priced:
    """Return what each of the ``checks`` is worth and what it saves.

    Worth = expected cost now, less the cost of reaching and doing the check, less the
    outcome-weighted expected cost after it. What a belief costs is the least of three ways: repair
    at once, find out first at what a bit costs here, refer. Checks that tell nothing of what is
    believed cost what they cost; of the others those with the most bits for their money are
    followed to the end, the rest is priced by its bits. Where few checks tell anything, those that
    save most and the repairs tried first are followed two moves deep.
    """
    model, engine = job.belief.model, job.engine
    beam = beam_of(model, job.belief.now, engine.beam_mass, engine.beam_size)
    actions = compile_actions(model, job.prices, engine, job.state, job.reaching, beam)
    ways = job.reaching.ways(job.state, (check.needs for check in checks))
    minutes = np.array([c.minutes + w.reach.minutes for c, w in zip(checks, ways, strict=True)])
    cost = (minutes + engine.note_minutes) * job.prices.rate_per_min
    telling = _telling(model, beam, checks, engine.tells_above)
    outlook = Outlook(model, beam.rows, beam.belief, job.evidence, job.state, engine)
    asked = [checks[c] for c in telling]
    chances, owner = outlook.apart(*outlook.chances(asked), asked)
    branches = branch(beam.belief, chances, owner)
    here = actions.left_after([((), job.state)])
    cures = cures_of(actions, beam, here[0])
    bits = cures.bits(np.vstack([beam.belief, branches.after]))
    gained = bits[0] - branches.mean(bits[1:], len(telling))
    prices = costs_of_bits(gained, cost[telling], engine)
    chosen = _most_for_their_money(gained, cost[telling], engine.looked_into)
    followed = branches.only(chosen)
    left = _left(actions, job.state, [ways[c] for c in telling[chosen]])
    stands = Stands(
        np.vstack([beam.belief, followed.after]),
        left[np.append(0, followed.owner + 1)],
        np.append(job.evidence.just_ran, runs_well(followed.owner, [asked[c] for c in chosen])),
    )
    costs = Costs(actions, beam, cures, prices, job.prices.refer)
    walked = costs.walked(stands)
    ahead = costs.least(stands, walked)
    spared = prices.of(bits[:1]) - prices.of(np.maximum(bits[0] - gained, 0.0))
    base, further = float(ahead[0]), cost[telling] + ahead[0] - spared
    further[chosen] = cost[telling[chosen]] + followed.mean(ahead[1:], len(chosen))
    looked = np.zeros(len(checks), dtype=np.intp)
    looked[telling[chosen]] = 1
    moves = Moves(job, costs, asked, chances, owner)
    expected = min(base, float(costs.finding(stands.some(np.array([0])), engine.had_for)[0]))
    share = engine.saved_of
    if 0 < len(telling) <= engine.two_deep_among:
        base, further = _two_deep(moves, stands, walked, gained / cost[telling], further)
        expected, share = min(base, float(further.min())), 1.0
    worth = -cost
    worth[telling] = base - further
    saving = np.where(worth > 0, worth * share, worth)
    ends = _ends(moves, stands, walked)
    return Priced(
        beam, ways, minutes, cost, worth, looked, expected, saving, ends, telling, branches
    )


def _two_deep(
    moves: Moves, stands: Stands, walked: Walk, per_euro: Floats, once: Floats
) -> tuple[float, Floats]:
    """Return what the job costs without a check and with each first, (T,), two moves deep for those
    that cost least ``once`` over; the second move is one of these, or of those that tell most
    ``per_euro`` (T,). The others cost as much more as these on average, and none less than the best
    of them."""
    engine = moves.job.engine
    deep = np.sort(np.argsort(once, kind="stable")[: engine.two_deep])
    second = np.argsort(-per_euro, kind="stable")[: engine.second_checks]
    repairing, twice = moves.worth(stands, walked, deep, np.union1d(deep, second))
    base = min(float(walked.cost(moves.costs.refer)[0]), repairing)
    further = np.maximum(once + (twice - once[deep]).mean(), twice.min())
    further[deep] = twice
    return base, further


def _ends(moves: Moves, stands: Stands, walked: Walk) -> Ends:
    """Return what to do without a further check, as the first of ``stands`` was ``walked``. Before
    a job is referred, the likeliest repair is made if it costs less together with what is to be
    found out after it."""
    actions, refer = moves.costs.actions, moves.costs.refer
    repairs, cost = walked.repairs(0, actions, refer), float(walked.cost(refer)[0])
    if repairs or len(actions.ids) == 1:
        return Ends(repairs, cost, walked.sure(0))
    likeliest = int(np.argmax(walked.chance[0, :-1]))
    begun = moves.begun(stands, walked, likeliest)
    if begun >= cost:
        return Ends((), cost, walked.sure(0))
    sure = float(walked.chance[0, likeliest])
    return Ends((actions.ids[likeliest],), begun, sure, open_end=True)


def _telling(model: DiagnosisModel, beam: Beam, checks: Sequence[Check], above: float) -> Ints:
    """Return the places of the checks that read an effect some fault of enough of the belief
    touches, and of the runs through every function."""
    held = np.append(beam.belief @ beam.members > above, False)
    touched = model.touches[held].any(axis=0)
    own = model.checks.places(checks)
    runs = np.array([check.watches for check in checks], dtype=bool)
    return np.flatnonzero(touched[model.checks.effect[model.checks.span[own]]] | runs)


def _most_for_their_money(gained: Floats, cost: Floats, count: int) -> Ints:
    """Return the places of the checks worth following: the most bits for the money, ascending."""
    if len(gained) <= count:
        return np.arange(len(gained))
    return np.sort(np.argsort(-gained / cost, kind="stable")[:count])


def _left(actions: Actions, state: MachineState, ways: Sequence[ReachWay]) -> Floats:
    return actions.left_after([((), state), *((way.reach.items, way.there) for way in ways)])
