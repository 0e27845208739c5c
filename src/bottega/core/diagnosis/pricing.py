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
from bottega.core.kept import Same
from bottega.core.library.machine_type import Check
from bottega.core.machine.reach import ReachWay
from bottega.core.machine.state import MachineState


@dataclass(frozen=True)
class Ends:
    """The best way to end the job without a further check: the repairs to try one after the other,
    none where referring is cheapest, and the expected cost of that. ``sure`` is the chance that
    the first repair ends the trouble. ``open_end`` is True where the fault left after the repair
    is still to be found out."""

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
    """Return the worth and the saving of each of the ``checks``. The worth of a check is the
    expected cost of the job now, less the cost of reaching and making the check, less the
    expected cost of the job after its answer. The cost of a belief is the least of three ways
    on: repair at once, find out more at the price of a bit, refer. A check that tells nothing
    about the belief is worth minus its cost. Of the others, those with the most bits for their
    money are followed to the end of the job, and the rest are priced by their bits. Where few
    checks tell anything, the checks that save most and the first repairs are followed two moves
    deep."""
    engine = job.engine
    beam = _beam(job)
    actions = compile_actions(
        job.belief.model, job.prices, engine, job.state, reaching=job.reaching, beam=beam
    )
    reached = _reached(job, checks)
    asked = _asked_once(job, beam, checks)
    own = reached.cost[asked.telling]
    cures = cures_of(actions, beam, actions.left_after([((), job.state)])[0])
    bits = cures.bits(np.vstack([beam.belief, asked.branches.after]))
    gained = bits[0] - asked.branches.mean(bits[1:], len(own))
    prices = costs_of_bits(gained, own, engine)
    costs = Costs(actions, beam, cures, prices, job.prices.refer)
    followed = _followed(
        job, costs, asked, reached, chosen=_most_for_their_money(gained, own, engine.looked_into)
    )
    walked = costs.walked(followed.stands)
    ahead = costs.least(followed.stands, walked)
    spared = prices.of(bits[:1]) - prices.of(np.maximum(bits[0] - gained, 0.0))
    base, further = float(ahead[0]), followed.further(own + ahead[0] - spared, own, ahead[1:])
    moves = Moves(job, costs, asked.checks, asked.chances, asked.owner)
    now = followed.stands.some(np.array([0]))
    expected, share = min(base, float(costs.finding(now, engine.had_for)[0])), engine.saved_of
    if 0 < len(own) <= engine.two_deep_among:
        base, further = _two_deep(moves, followed.stands, walked, gained / own, once=further)
        expected, share = min(base, float(further.min())), 1.0
    worth = -reached.cost
    worth[asked.telling] = base - further
    looked = np.zeros(len(checks), dtype=np.intp)
    looked[asked.telling[followed.chosen]] = 1
    return Priced(
        beam=beam,
        ways=reached.ways,
        minutes=reached.minutes,
        cost=reached.cost,
        worth=worth,
        looked=looked,
        expected=expected,
        saving=np.where(worth > 0, worth * share, worth),
        ends=_ends(moves, followed.stands, walked),
        telling=asked.telling,
        branches=asked.branches,
    )


def _beam(job: Setting) -> Beam:
    belief, engine = job.belief, job.engine
    return belief.once(
        ("beam", Same(engine)),
        lambda: beam_of(belief.model, belief.now, engine.beam_mass, engine.beam_size),
    )


@dataclass(frozen=True)
class _Reached:
    """The ways to C checks from how the machine stands, the minutes they take with the check, (C,),
    and what these cost, (C,)."""

    ways: Sequence[ReachWay]
    minutes: Floats
    cost: Floats


def _reached(job: Setting, checks: Sequence[Check]) -> _Reached:
    ways = job.reaching.ways(job.state, (check.needs for check in checks))
    minutes = np.array([c.minutes + w.reach.minutes for c, w in zip(checks, ways, strict=True)])
    cost = (minutes + job.engine.note_minutes) * job.prices.rate_per_min
    return _Reached(ways, minutes, cost)


@dataclass(frozen=True)
class _Asked:
    """The checks that tell something of what is believed, by their places ``telling`` (T,): their
    outcomes' ``chances`` (R, N) over the beam, whose outcome each is, ``owner`` (R,), and the
    belief after each."""

    telling: Ints
    checks: list[Check]
    chances: Floats
    owner: Ints
    branches: Branches


def _asked_once(job: Setting, beam: Beam, checks: Sequence[Check]) -> _Asked:
    """Return what the checks would answer, kept with the belief: of how the machine stands only the
    plug counts, by which it is another occasion or not."""
    names = tuple(check.id for check in checks)
    key = ("asked", Same(job.engine), job.evidence, job.state.power, names)
    return job.belief.once(key, lambda: _asked(job, beam, checks))


def _asked(job: Setting, beam: Beam, checks: Sequence[Check]) -> _Asked:
    model, engine = job.belief.model, job.engine
    telling = _telling(model, beam, checks, engine.tells_above)
    outlook = Outlook(model, beam.rows, beam.belief, job.evidence, job.state, engine)
    asked = [checks[c] for c in telling]
    chances, owner = outlook.apart(*outlook.chances(asked), asked)
    return _Asked(telling, asked, chances, owner, branch(beam.belief, chances, owner))


@dataclass(frozen=True)
class _Followed:
    """The checks whose every answer is followed to the end of the job: ``chosen`` (n,), by their
    places among the checks asked, their ``branches``, and the stands of the job, the present one
    first and then one for each answer."""

    chosen: Ints
    branches: Branches
    stands: Stands

    def further(self, by_bits: Floats, cost: Floats, ahead: Floats) -> Floats:
        """Return what the job costs with each check that was asked first, (T,): ``by_bits``, and
        where its answers were followed the check's own ``cost`` (T,) and what comes ``ahead`` after
        each answer."""
        further = by_bits
        further[self.chosen] = cost[self.chosen] + self.branches.mean(ahead, len(self.chosen))
        return further


def _followed(
    job: Setting, costs: Costs, asked: _Asked, reached: _Reached, *, chosen: Ints
) -> _Followed:
    branches = asked.branches.only(chosen)
    left = _left(costs.actions, job.state, [reached.ways[c] for c in asked.telling[chosen]])
    ran = runs_well(branches.owner, [asked.checks[c] for c in chosen])
    stands = Stands(
        np.vstack([costs.beam.belief, branches.after]),
        left[np.append(0, branches.owner + 1)],
        np.append(job.evidence.just_ran, ran),
    )
    return _Followed(chosen, branches, stands)


def _two_deep(
    moves: Moves, stands: Stands, walked: Walk, per_euro: Floats, *, once: Floats
) -> tuple[float, Floats]:
    """Return the expected cost of the job without a check, and with each check first, (T,), looking
    two moves deep. The checks that cost least looking ``once`` deep are followed so; their
    second move is another of them or a check that tells most ``per_euro`` (T,). The remaining
    checks are taken to cost as much more as the followed ones do on average, and never less than
    the best of those."""
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
