"""The ways of working that are held against each other: the plan, plain information, a checklist,
and repairs by frequency."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np

from bottega.benchmark.play import Move, Play, Policy
from bottega.core.diagnosis.answers_ahead import Outlook
from bottega.core.diagnosis.beam import beam_of, branch
from bottega.core.diagnosis.model import Floats
from bottega.core.diagnosis.plan import Plan, plan
from bottega.core.diagnosis.repairplan import NOTHING_WRONG
from bottega.core.diagnosis.setting import Setting
from bottega.core.library.machine_type import Check, RepairOption

SURE = 0.85
"""A part is fitted from this chance on by those who do not plan; the shop's default."""
SOUND = 0.85
"""And a machine is handed over from this chance on that nothing is wrong; chosen, the same."""
LEAST_BITS = 0.01
"""Information that is none; chosen."""
AT_ONCE = 16
"""Checks of a list that are weighed together, for the time it takes alone."""
MOST_REPAIRS = 12
"""Repairs on one job after which anybody gives up and refers it; chosen."""
MOST_CHECKS = 20
"""Checks in a row after which those who do not plan fit what is likeliest."""


@dataclass(frozen=True)
class Foretold:
    """What the plan says before a check it makes: what the job costs from here and what the check
    saves, and what was ``paid`` before it; in the library's euro."""

    check: str
    expected: float
    saving: float
    paid: float


Way = Callable[[Setting, Sequence[str]], str | None]
"""A way of working: what comes next, a check of those open or a repair by its id; None to refer."""


def as_planned(job: Setting, available: Sequence[str]) -> str | None:
    """Return what the plan says: its next check, else its first repair, else none."""
    return _begun_with(_planned(job, available))


def without(check: str) -> Policy:
    """Return the plan as it works where this check is never made."""

    def way(job: Setting, available: Sequence[str]) -> str | None:
        return as_planned(job, [name for name in available if name != check])

    return _policy(way, None)


def foretelling(told: list[Foretold]) -> Policy:
    """Return the plan, noting in ``told`` what it says of money before each check it makes ahead of
    the first repair."""

    def policy(play: Play) -> Move:
        said: list[Plan] = []

        def way(job: Setting, available: Sequence[str]) -> str | None:
            said.append(_planned(job, available))
            return _begun_with(said[0])

        move = _policy(way, None)(play)
        step = said[0].next if said and play.repairs == 0 else None
        if step is not None:
            told.append(Foretold(step.check.id, said[0].expected_cost, step.saving, play.cost))
        return move

    return policy


def _planned(job: Setting, available: Sequence[str]) -> Plan:
    return plan(
        job.belief,
        job.evidence,
        job.state,
        job.reaching,
        prices=job.prices,
        engine=job.engine,
        available=available,
    )


def _begun_with(steps: Plan) -> str | None:
    if steps.next is not None:
        return steps.next.check.id
    return next(iter(steps.ends.repairs), None)


def most_bits(job: Setting, available: Sequence[str]) -> str:
    """Return the check that tells most bits a minute, until one repair is sure enough."""
    ended = _end_of(job)
    if ended is not None:
        return ended
    checks = [job.belief.model.machine.checks[name] for name in available]
    bits = _bits(_looking(job), checks) if checks else np.zeros(0)
    if bits.max(initial=0.0) < LEAST_BITS:
        return _likeliest(job)
    ways = job.reaching.ways(job.state, (check.needs for check in checks))
    note = job.engine.note_minutes
    minutes = np.array(
        [c.minutes + w.reach.minutes + note for c, w in zip(checks, ways, strict=True)]
    )
    return checks[int(np.argmax(bits / minutes))].id


def down_the_list(job: Setting, available: Sequence[str]) -> str:
    """Return the cheapest of the checks that tell anything, until one repair is sure enough."""
    ended = _end_of(job)
    if ended is not None:
        return ended
    checks = [job.belief.model.machine.checks[name] for name in available]
    ways = job.reaching.ways(job.state, (check.needs for check in checks))
    minutes = [check.minutes + way.reach.minutes for check, way in zip(checks, ways, strict=True)]
    checks = [checks[c] for c in np.argsort(minutes, kind="stable")]
    outlook = _looking(job)
    for first in range(0, len(checks), AT_ONCE):
        some = checks[first : first + AT_ONCE]
        telling = np.flatnonzero(_bits(outlook, some) > LEAST_BITS)
        if len(telling):
            return some[int(telling[0])].id
    return _likeliest(job)


def by_frequency(job: Setting, available: Sequence[str]) -> str:
    """Return the repair that is likeliest by what was said; check nothing."""
    return NOTHING_WRONG if _believed_sound(job, SOUND) else _likeliest(job)


def _policy(way: Way, most: int | None) -> Policy:
    """Return a way of working as a policy that makes at most so many checks; None for no limit
    but its own."""

    def policy(play: Play) -> Move:
        if play.repairs >= MOST_REPAIRS:
            return Move("refer")
        checks = [check.id for check in play.open_checks()]
        name = way(play.setting, [] if most is not None and play.checks >= most else checks)
        if name is None:
            return Move("refer")
        if name == NOTHING_WRONG:
            return Move("hand over")
        return Move("check" if name in play.world.machine.checks else "repair", name)

    return policy


POLICIES: dict[str, Policy] = {
    "bottega": _policy(as_planned, None),
    "information": _policy(most_bits, MOST_CHECKS),
    "checklist": _policy(down_the_list, MOST_CHECKS),
    "frequency": _policy(by_frequency, 0),
}


def _end_of(job: Setting) -> str | None:
    if _believed_sound(job, SOUND):
        return NOTHING_WRONG
    repair, ends = _best(job)
    return repair.id if ends > SURE else None


def _believed_sound(job: Setting, above: float) -> bool:
    """Return whether a machine is handed over as sound from this chance on; nobody hands over, by
    whatever way of working, what was seen to fail in two runs."""
    return job.belief.healthy > above and not job.evidence.keeps_failing


def _best(job: Setting) -> tuple[RepairOption, float]:
    """Return the repair likeliest to end it, and its chance; of equals the cheaper."""
    chances = job.belief.fault_now()

    def worth(repair: RepairOption) -> tuple[float, float]:
        ends = sum(chances[fault] * sure for fault, sure in repair.covers)
        return round(ends, 3), -(repair.price_eur + repair.minutes * job.prices.rate_per_min)

    best = max(job.belief.model.machine.repairs.values(), key=worth)
    return best, job.belief.any_of(dict(best.covers))


def _likeliest(job: Setting) -> str:
    repair, ends = _best(job)
    return NOTHING_WRONG if _believed_sound(job, ends) else repair.id


def _looking(job: Setting) -> Outlook:
    """Return what is known that bears on the next answers."""
    model, engine = job.belief.model, job.engine
    beam = beam_of(model, job.belief.now, engine.beam_mass, engine.beam_size)
    return Outlook(model, beam.rows, beam.belief, job.evidence, job.state, engine)


def _bits(outlook: Outlook, checks: Sequence[Check]) -> Floats:
    """Return how many bits each check tells on average of what is wrong, (C,)."""
    branches = branch(outlook.belief, *outlook.chances(checks))
    now = _entropy(outlook.belief[None])[0]
    return np.asarray(now - branches.mean(_entropy(branches.after), len(checks)))


def _entropy(beliefs: Floats) -> Floats:
    """Return the entropy in bits of each row (R, N)."""
    logs = np.log2(beliefs, out=np.zeros_like(beliefs), where=beliefs > 0)
    return np.asarray(-(beliefs * logs).sum(axis=1))
