"""The ways of working that are held against each other: the plan, plain information, a checklist,
and repairs by frequency."""

import numpy as np

from bottega.benchmark.play import Move, Play, Policy
from bottega.core.diagnosis.infer import Belief
from bottega.core.diagnosis.lookahead import (
    beam_of,
    branch,
)
from bottega.core.diagnosis.model import Floats
from bottega.core.diagnosis.outlook import Outlook
from bottega.core.diagnosis.plan import plan
from bottega.core.diagnosis.repairplan import NOTHING_WRONG
from bottega.core.library.machine_type import RepairOption

SURE = 0.85
"""A part is fitted from this chance on by those who do not plan; the shop's default."""
SOUND = 0.85
"""And a machine is handed over from this chance on that nothing is wrong; chosen, the same."""
LEAST_BITS = 0.01
"""Information that is none; chosen."""
MOST_CHECKS = 20
"""Checks in a row after which those who do not plan fit what is likeliest."""


def bottega(play: Play) -> Move:
    """Do what the plan says: its next check, else its first repair, else end."""
    most = play.engine.most_checks + play.checks_before
    steps = plan(
        play.belief(),
        play.evidence,
        play.state,
        play.reaching,
        play.prices,
        play.engine.model_copy(update={"most_checks": most}),
        [check.id for check in play.open_checks()],
    )
    if steps.next is not None:
        return Move("check", steps.next.check.id)
    repairs = steps.ends.repairs
    if not repairs:
        return Move("refer")
    return Move("hand over") if repairs[0] == NOTHING_WRONG else Move("repair", repairs[0])


def information(play: Play) -> Move:
    """Do the check that tells most bits a minute, until one repair is sure enough."""
    belief = play.belief()
    ended = _end_of(play, belief)
    if ended is not None:
        return ended
    checks = play.open_checks()
    bits = _bits(play, belief)
    if not checks or play.checks >= MOST_CHECKS or bits.max() < LEAST_BITS:
        return _likeliest(play, belief)
    note = play.engine.note_minutes
    minutes = np.array([play.minutes(c.needs, c.minutes + note) for c in checks])
    return Move("check", checks[int(np.argmax(bits / minutes))].id)


def checklist(play: Play) -> Move:
    """Do the checks that tell anything, the cheapest first, until one repair is sure enough."""
    belief = play.belief()
    ended = _end_of(play, belief)
    if ended is not None:
        return ended
    checks, bits = play.open_checks(), _bits(play, belief)
    telling = [check for check, told in zip(checks, bits, strict=True) if told > LEAST_BITS]
    if not telling or play.checks >= MOST_CHECKS:
        return _likeliest(play, belief)
    first = min(telling, key=lambda check: play.minutes(check.needs, check.minutes))
    return Move("check", first.id)


def frequency(play: Play) -> Move:
    """Check nothing: repair what is likeliest by what was said."""
    belief = play.belief()
    if belief.healthy > SOUND:
        return Move("hand over")
    return _likeliest(play, belief)


POLICIES: dict[str, Policy] = {
    "bottega": bottega,
    "information": information,
    "checklist": checklist,
    "frequency": frequency,
}


def _end_of(play: Play, belief: Belief) -> Move | None:
    if belief.healthy > SOUND:
        return Move("hand over")
    repair, ends = _best(play, belief)
    return Move("repair", repair.id) if ends > SURE else None


def _best(play: Play, belief: Belief) -> tuple[RepairOption, float]:
    """Return the repair likeliest to end it, and its chance; of equals the cheaper."""
    rate = play.prices.rate_per_min
    chances = belief.fault_now()

    def worth(repair: RepairOption) -> tuple[float, float]:
        ends = sum(chances[fault] * sure for fault, sure in repair.covers)
        return round(ends, 3), -(repair.price_eur + repair.minutes * rate)

    best = max(play.world.machine.repairs.values(), key=worth)
    return best, belief.any_of(dict(best.covers))


def _likeliest(play: Play, belief: Belief) -> Move:
    repair, ends = _best(play, belief)
    return Move("hand over") if belief.healthy > ends else Move("repair", repair.id)


def _bits(play: Play, belief: Belief) -> Floats:
    """Return how many bits each open check tells on average of what is wrong, (C,)."""
    model, engine, checks = play.model, play.engine, play.open_checks()
    if not checks:
        return np.zeros(0)
    beam = beam_of(model, belief.now, engine.beam_mass, engine.beam_size)
    outlook = Outlook(model, beam.rows, beam.belief, play.evidence, play.state, engine)
    branches = branch(beam.belief, *outlook.chances(checks))
    now = _entropy(beam.belief[None])[0]
    return np.asarray(now - branches.mean(_entropy(branches.after), len(checks)))


def _entropy(beliefs: Floats) -> Floats:
    """Return the entropy in bits of each row (R, N)."""
    logs = np.log2(beliefs, out=np.zeros_like(beliefs), where=beliefs > 0)
    return np.asarray(-(beliefs * logs).sum(axis=1))
