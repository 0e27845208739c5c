"""How the belief came about: the prior, and what each event made of it, for the five faults that
matter most."""

from dataclasses import dataclass
from datetime import datetime

from bottega.app.answer import Answer
from bottega.app.workshop import Workshop
from bottega.core.diagnosis.evidence import Evidence
from bottega.core.diagnosis.findings import evidence_of
from bottega.core.diagnosis.odd import make_sense
from bottega.core.diagnosis.words import fault_title
from bottega.core.job.events import Complained, Opened
from bottega.core.job.fold import fold
from bottega.core.job.kinds import told
from bottega.core.job.words import age_words

TOP = 5
"""Faults that are followed; chosen, as many bands as can be told apart."""
MOVED = 0.005
"""An event that moves no share by more than this is not shown as one that did."""


@dataclass(frozen=True)
class Stage:
    """The belief after one event: the shares of the faults shown, of all others, and of nothing
    wrong; they sum to one, for several faults at once count for the first of them. ``change`` is
    the largest move in points of probability."""

    event_id: str
    at: datetime | None
    what: str
    detail: str
    shares: tuple[float, ...]
    chances: tuple[float, ...]
    """The chance of each fault shown, alone or with others; they may add to more than one."""
    other: float
    healthy: float
    change: float
    moved: str
    entropy_bits: float


@dataclass(frozen=True)
class Thinking:
    """The history of a job's belief, prior first, and the faults it is shown for."""

    faults: tuple[tuple[str, str], ...]
    stages: tuple[Stage, ...]
    rates: tuple[tuple[str, float], ...]
    """The likeliest faults of such a machine at this age before anything was known."""


def thinking_of(workshop: Workshop, answer: Answer) -> Thinking:
    """Return how the belief of a job moved, event by event; withdrawn events are left out, and so
    are those without a word for or against anything."""
    machine, model, before = answer.machine, answer.belief.model, answer.before
    shown = _shown(answer)
    live = [entry.event for entry in answer.job.live]
    stages: list[Stage] = []
    last: Evidence | None = None
    for count in range(1, len(live) + 1):
        event = live[count - 1]
        evidence = evidence_of(
            fold(live[:count], machine.charge is not None), machine, workshop.shelf.tables
        )
        if evidence == last and not isinstance(event.body, Opened):
            continue
        last = evidence
        belief = make_sense(model, before, evidence).belief
        what, detail = told(machine, event.body)
        if isinstance(event.body, Opened):
            what, detail = (
                "Before anything was said",
                f"{machine.about}, {age_words(event.body.age_years)}",
            )
        elif isinstance(event.body, Complained):
            what, detail = "What the customer says", detail
        shares, now = belief.parted([[fault] for fault in shown]), belief.fault_now()
        chances = tuple(now[fault] for fault in shown)
        moves = _moves(
            machine_titles(answer, shown), stages[-1] if stages else None, chances, belief.healthy
        )
        stages.append(
            Stage(
                event_id=event.id,
                at=None if isinstance(event.body, Opened) else event.at,
                what=what,
                detail=detail,
                shares=shares,
                chances=chances,
                other=max(0.0, 1 - sum(shares) - belief.healthy),
                healthy=belief.healthy,
                change=moves[1],
                moved=moves[0],
                entropy_bits=belief.entropy_bits,
            )
        )
    first = model.by_fault(before)
    likely = sorted(zip(model.fault_ids, first.tolist(), strict=True), key=lambda item: -item[1])[
        :TOP
    ]
    return Thinking(
        faults=tuple((fault, fault_title(machine, fault)) for fault in shown),
        stages=tuple(stages),
        rates=tuple((fault_title(machine, fault), p) for fault, p in likely),
    )


def machine_titles(answer: Answer, faults: list[str]) -> list[str]:
    """Return the titles of faults on the answer's machine."""
    return [fault_title(answer.machine, fault) for fault in faults]


def _shown(answer: Answer) -> list[str]:
    """Return the faults that matter most: those believed at the call, or now, likeliest first."""
    was, now = answer.belief.fault_was(), dict(answer.ranking)
    return sorted(now, key=lambda fault: -max(was[fault], now[fault]))[:TOP]


def _moves(
    titles: list[str], last: Stage | None, chances: tuple[float, ...], healthy: float
) -> tuple[str, float]:
    """Return the chance that moved most since the last stage, in words, and by how much."""
    if last is None:
        return "", 0.0
    changes = [
        *(
            (chance - old, title)
            for chance, old, title in zip(chances, last.chances, titles, strict=True)
        ),
        (healthy - last.healthy, "Nothing wrong with it"),
    ]
    change, title = max(changes, key=lambda item: abs(item[0]))
    if abs(change) < MOVED:
        return "it moves next to nothing", change
    return f"{title} {change * 100:+.0f} points", change
