"""How the belief came about: the prior, and what each event made of it, for the five faults that
matter most."""

from dataclasses import dataclass
from datetime import datetime

from bottega.app.answer import Answer
from bottega.app.workshop import Workshop
from bottega.core.diagnosis.evidence import Evidence
from bottega.core.diagnosis.findings import evidence_of
from bottega.core.diagnosis.impossible import make_sense
from bottega.core.diagnosis.words import fault_title
from bottega.core.job.events import Complained, Event, Opened
from bottega.core.job.fold import fold
from bottega.core.job.kinds import told
from bottega.core.job.words import age_words

TOP = 5
"""Faults that are followed; chosen, as many bands as can be told apart."""
MOVED = 0.005
"""An event that moves no share by more than this is not shown as one that did."""


WORK, FEWEST_EVENTS = 50_000, 6
"""Events times what each takes, in entries and findings, that are worked out at once, and the
fewest that are; chosen, two seconds."""


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
    first: int
    last: int
    """Which events are told, counted from one, of all that count."""
    events: int


def thinking_of(workshop: Workshop, answer: Answer, upto: int | None = None) -> Thinking:
    """Return how the belief of a job moved, event by event, up to that one (counted from one; to
    the last for None); withdrawn events are left out, and so are those without a word for or
    against anything. Of a long history so many are told as can be worked out while somebody
    waits."""
    live = [entry.event for entry in answer.job.live]
    last = len(live) if upto is None else max(1, min(upto, len(live)))
    first = max(0, last - _part(answer))
    faults = _shown(answer)
    model = answer.belief.model
    by_fault = model.by_fault(answer.believed.before).tolist()
    rates = sorted(zip(model.fault_ids, by_fault, strict=True), key=lambda one: -one[1])[:TOP]
    return Thinking(
        faults=tuple((fault, fault_title(answer.machine, fault)) for fault in faults),
        stages=tuple(_stages(workshop, answer, live, first, last=last, shown=faults)),
        rates=tuple((fault_title(answer.machine, fault), p) for fault, p in rates),
        first=first + 1,
        last=last,
        events=len(live),
    )


def _part(answer: Answer) -> int:
    """Return how many events of a job are told at once: the fewer the more each takes."""
    return max(FEWEST_EVENTS, WORK // (len(answer.job.entries) + len(answer.evidence.findings)))


def _stages(
    workshop: Workshop,
    answer: Answer,
    live: list[Event],
    first: int,
    *,
    last: int,
    shown: list[str],
) -> list[Stage]:
    machine, tables = answer.machine, workshop.shelf.tables
    stages: list[Stage] = []
    before: Evidence | None = None
    for place in range(max(0, first - 1), last):
        event, job = live[place], fold(live[: place + 1], machine.charge is not None)
        evidence = evidence_of(job, machine, tables)
        if evidence == before and not isinstance(event.body, Opened):
            continue
        before = evidence
        stages.append(_stage(answer, event, evidence, stages[-1] if stages else None, shown=shown))
    return stages[1:] if first and len(stages) > 1 else stages


def _stage(
    answer: Answer, event: Event, evidence: Evidence, last: Stage | None, *, shown: list[str]
) -> Stage:
    """Return what was believed after an event, and what it moved since the ``last`` one."""
    belief = make_sense(answer.belief.model, answer.believed.before, evidence).belief
    what, detail = told(answer.machine, event.body)
    if isinstance(event.body, Opened):
        age = age_words(event.body.age_years)
        what, detail = "Before anything was said", f"{answer.machine.about}, {age}"
    elif isinstance(event.body, Complained):
        what = "What the customer says"
    shares, now = belief.parted([[fault] for fault in shown]), belief.fault_now()
    chances = tuple(now[fault] for fault in shown)
    moved, change = _moves(machine_titles(answer, shown), last, chances, belief.healthy)
    return Stage(
        event_id=event.id,
        at=None if isinstance(event.body, Opened) else event.at,
        what=what,
        detail=detail,
        shares=shares,
        chances=chances,
        other=max(0.0, 1 - sum(shares) - belief.healthy),
        healthy=belief.healthy,
        change=change,
        moved=moved,
        entropy_bits=belief.entropy_bits,
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
