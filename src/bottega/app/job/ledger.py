"""The ledger: every event of a job in a sentence, with its weight for the fault in question."""

from dataclasses import dataclass
from datetime import datetime
from typing import Literal

from bottega.app.answer import Answer
from bottega.core.diagnosis.evidence import NOT_MENTIONED
from bottega.core.diagnosis.explain import SHOWN_DB, Weight
from bottega.core.job.events import Checked, Complained, Opened, Withdrawn
from bottega.core.job.job import Job
from bottega.core.job.kinds import kind_of, told
from bottega.core.job.words import checked
from bottega.core.measure.units import System


@dataclass(frozen=True)
class LedgerRow:
    """One event: what was done, what came of it, and its weight in decibans (None when it carries
    none)."""

    event_id: str
    seq: int
    at: datetime
    author: str
    what: str
    detail: str
    decibans: float | None
    withdrawn: bool
    struck: bool
    """Whether it is left out of the reckoning because nothing explains it with all the rest."""
    superseded: str
    """Why it no longer counts though nobody withdrew it: repeated since, put right since; empty
    when it does."""
    removable: bool
    weighty: bool
    """Whether it is asked for before it is withdrawn."""
    undo: str
    """What withdrawing it means."""
    mono: bool
    bar: "WeightBar | None"
    """Its weight as a bar; None when it is next to nothing."""


@dataclass(frozen=True)
class WeightBar:
    """A weight as a bar from a centre line, to the right for the fault, to the left against it; in
    pixels."""

    side: Literal["bar-for", "bar-against"]
    x: float
    width: float


CENTRE, PER_DECIBAN, LONGEST = 62.0, 3.0, 60.0
"""Pixels: where the centre line stands, of one deciban, and of the longest bar; chosen for a column
of 124."""


def ledger(answer: Answer, fault: str | None = None, system: System = "metric") -> list[LedgerRow]:
    """Return the rows of a job's ledger in order, weighed for ``fault`` or the leading one, with
    its readings as a shop on this system reads them."""
    found: dict[str, list[Weight]] = {}
    for one in answer.weights(fault):
        found.setdefault(one.finding.event, []).append(one)
    rows, older = [], superseded(answer.job)
    weighty = {event.id for event in answer.job.weighing}
    odd = {finding.event for finding in answer.odd}
    for seq, entry in enumerate(answer.job.entries, start=1):
        event = entry.event
        what, detail = (
            checked(answer.machine, event.body, system)
            if isinstance(event.body, Checked)
            else told(answer.machine, event.body)
        )
        if isinstance(event.body, Withdrawn):
            what = f"Withdrawn: {taken_back(answer, event.body.event)}"
        own = found.get(event.id, [])
        weight = None if entry.withdrawn or not own else round(sum(w.decibans for w in own), 1)
        rows.append(
            LedgerRow(
                event_id=event.id,
                seq=seq,
                at=event.at,
                author=event.author,
                what=what,
                detail=detail,
                decibans=weight,
                bar=bar_of(weight),
                undo=kind_of(event.body).undo,
                withdrawn=entry.withdrawn,
                struck=event.id in odd,
                superseded=older.get(event.id, "left out" if event.id in odd else ""),
                weighty=event.id in weighty,
                removable=not entry.withdrawn and not isinstance(event.body, Opened),
                mono=isinstance(event.body, Checked) and event.body.reading is not None,
            )
        )
    return rows


def taken_back(answer: Answer, event_id: str) -> str:
    """Return what an event said, in a few words, as a withdrawal names it."""
    event = next((e for e in answer.job.events if e.id == event_id), None)
    return told(answer.machine, event.body)[0] if event else "an entry that is not here"


def bar_of(decibans: float | None) -> WeightBar | None:
    """Return a weight as a bar; None when there is none, or next to none."""
    if decibans is None or abs(decibans) < SHOWN_DB:
        return None
    width = min(abs(decibans) * PER_DECIBAN, LONGEST)
    return (
        WeightBar("bar-for", CENTRE, width)
        if decibans > 0
        else WeightBar("bar-against", CENTRE - width, width)
    )


def superseded(job: Job) -> dict[str, str]:
    """Return the ids of what was said or found otherwise later, with why: checks answered again in
    their epoch, complaints put right."""
    last = {(entry.epoch, body.check): entry.event.id for entry, body in job.checked()}
    repeated = {
        entry.event.id: "repeated since"
        for entry, body in job.checked()
        if last[entry.epoch, body.check] != entry.event.id
    }
    said = [
        (entry.event.id, entry.body.adds)
        for entry in job.live
        if isinstance(entry.body, Complained)
    ]
    last_whole = max((n for n, (_, adds) in enumerate(said) if not adds), default=0)
    return repeated | {event: "put right since" for event, _ in said[:last_whole]}


def not_mentioned(found: list[Weight]) -> float:
    """Return what the customer's silence weighs in all, in decibans."""
    return round(sum(w.decibans for w in found if w.finding.answer == NOT_MENTIONED), 1)
