"""How much one job may hold: as much as its file brings back, and no more. The same bounds hold for
an entry that is written and for a file that is read."""

from bottega.app.bounds import refuse_unbounded
from bottega.app.errors import BadValue, Refused
from bottega.app.workshop import Workshop
from bottega.core.job.events import Event, HandedOver, Withdrawn
from bottega.core.job.file import JobFile, stored

MOST_JOB_BYTES = 2_000_000
"""Bytes of a job as JSON; chosen, a job of a year's daily notes has a tenth of it."""
MOST_EVENTS = 4000
"""Events of a job; chosen, ten times the longest job anybody has seen."""
MOST_ITEMS = 200_000
"""Items of a job's JSON; chosen, fifty an event."""
MOST_FOLDED = 100_000
"""Events folded anew for withdrawals, each of which has the whole log before it folded; chosen, a
second's work: 300 withdrawals in a job of 600 entries, 25 in the longest."""
KEPT_FREE = 0.05
"""Share of those bounds that only a withdrawal or the handing over may use, so that no job is too
full to be ended; chosen."""
LETTERS_SURE = MOST_JOB_BYTES // 10
"""Letters of stored bodies up to which nothing is counted; chosen: written out, a body takes four
times its letters at the most."""
EVENTS_SURE = 300
"""Events up to which nothing is counted; chosen: however many are withdrawn, they are folded in
time, and beside its body an event takes 400 bytes."""


def refuse_full(workshop: Workshop, number: str, event: Event) -> None:
    """Raise Refused where a job is too full for one more entry."""
    count, letters = workshop.log.size(number)
    own = len(event.body.model_dump_json())
    if letters + own < LETTERS_SURE and count < EVENTS_SURE:
        return
    ends = isinstance(event.body, HandedOver | Withdrawn)
    events = [*workshop.log.stored(number), stored(event)]
    file = JobFile(number=number, exported_at=event.at, events=events)
    try:
        refuse_more(file, 1.0 if ends else 1.0 - KEPT_FREE)
    except BadValue as error:
        raise Refused(
            f"The job is full: its file would not come back. {error} Hand the machine over, and "
            "open another job about it."
        ) from error


def refuse_opening(events: list[Event]) -> None:
    """Raise BadValue where a new job's first events are more than its file brings back."""
    kept = [stored(event) for event in events]
    refuse_more(JobFile(number="0", exported_at=events[0].at, events=kept), 1.0 - KEPT_FREE)


def written(file: JobFile) -> bytes:
    """Return a job's file as it is handed out."""
    return file.model_dump_json(indent=1).encode()


def refuse_more(file: JobFile, share: float = 1.0) -> None:
    """Raise BadValue for a job that holds more than ``share`` of what may be in one."""
    kind = Withdrawn.model_fields["kind"].default
    refuse_many(len(file.events), share)
    places = [n for n, kept in enumerate(file.events) if kept.body.get("kind") == kind]
    if sum(places) > MOST_FOLDED:
        raise BadValue(
            f"Found {len(places)} entries taken back among {len(file.events)}, expected fewer.",
            "file",
        )
    refuse_large(written(file), share)


def refuse_many(events: int, share: float = 1.0) -> None:
    """Raise BadValue for more events than ``share`` of what a job may have."""
    most = int(MOST_EVENTS * share)
    if events > most:
        raise BadValue(f"Found {events} events, expected at most {most}.", "file")


def refuse_large(raw: bytes, share: float = 1.0) -> None:
    """Raise BadValue for a job's JSON that is larger than ``share`` of what a job's may be."""
    most = int(MOST_JOB_BYTES * share)
    if len(raw) > most:
        raise BadValue(f"Found {len(raw)} bytes, expected at most {most}.", "file")
    refuse_unbounded(raw, int(MOST_ITEMS * share), "file")
