"""What a job comes to once no check left is worth its cost, and what is to be done then."""

from dataclasses import dataclass

from bottega.app.answer import Answer
from bottega.app.decide.verdict import RUN, Verdict, verdict_of
from bottega.core.diagnosis.words import fault_title, percent
from bottega.core.job.proofs import owed

PROVED = 0.5
"""From here on the likeliest fault is named when nothing is left to check; chosen."""


@dataclass(frozen=True)
class NothingLeft:
    """What is said when nothing is left to check. ``fitted`` where a repair is made, no run since
    speaks against it, and nothing else stands proved; ``proved`` where the likeliest fault is.
    ``tries`` is the run still to be made before nothing may be said to be wrong, else empty."""

    fitted: bool
    proved: bool
    words: str
    tries: str


def nothing_left(answer: Answer, prove_at: float) -> NothingLeft:
    """Return what a job comes to whose checks are not worth their cost, in a shop that takes a
    fault for proved from the chance ``prove_at`` on."""
    verdict, chance = verdict_of(answer, prove_at), answer.ranking[0][1]
    proved = verdict.state in ("proved", "two") or chance >= PROVED
    beside = verdict.state == "to prove" and chance >= PROVED
    fitted = verdict.state in ("to prove", "repaired") and not beside
    sound = answer.belief.sound > PROVED
    words = _words(answer, verdict, fitted=fitted, proved=proved)
    return NothingLeft(fitted, proved, words, RUN if verdict.state == "looking" and sound else "")


def _words(answer: Answer, verdict: Verdict, *, fitted: bool, proved: bool) -> str:
    fault, chance = answer.ranking[0]
    if answer.job.handed_over:
        return "The job is handed over. Withdraw the hand-over in the ledger to go on with it."
    if verdict.state == "failing":
        words = f"{verdict.title}. First: {'; '.join(verdict.first)}."
        return f"{_enough(answer)} {words}" if answer.plan.enough else words
    if fitted:
        left = sum(not debt.settled for debt in owed(answer.job, answer.machine))
        count = f"{left} things are" if left != 1 else "One thing is"
        return f"The repair is made. {count} still owed before it is handed over."
    if proved:
        return (
            f"{fault_title(answer.machine, fault)} stands at {percent(chance)}. No check left "
            "saves more than it costs; what is left to learn is cheaper to learn by the repair."
        )
    if verdict.state == "nothing":
        return "Nothing wrong was found, and everything was tried. Say so, and what was seen."
    if verdict.untried and answer.belief.sound > PROVED:
        return f"Nothing found yet. Still to be tried: {'; '.join(verdict.untried)}."
    if answer.plan.enough:
        return _enough(answer)
    return (
        f"The likeliest fault stands at {percent(chance)}, and no check left is worth its "
        "cost. Hand it on, or choose a check yourself."
    )


def _enough(answer: Answer) -> str:
    return (
        f"Refer it, because {answer.evidence.checks} checks are done and the likeliest fault "
        f"stands at {percent(answer.ranking[0][1])}: more of the same will hardly find it. "
        "Somebody else may, or do what is likeliest and see."
    )
