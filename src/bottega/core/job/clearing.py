"""The round of clearing the codes, running the machine and reading them again: a code that comes
back is of a fault that is there now."""

from dataclasses import dataclass
from typing import Literal

from bottega.core.job.events import CodesCleared, PanelRead
from bottega.core.job.job import Job


@dataclass(frozen=True)
class ClearingRound:
    """Where the round stands: the step that is ``due``, and when it is done which of the codes read
    before came ``back`` and which stayed ``away``, by their ids."""

    due: Literal["clear", "run", "read", "done"]
    back: tuple[str, ...] = ()
    away: tuple[str, ...] = ()


def clearing_round(job: Job) -> ClearingRound | None:
    """Return where the round of a job stands; None before a code was read."""
    before, after = _read_before(job), _read_after(job)
    if not before:
        return None
    if not any(isinstance(entry.body, CodesCleared) for entry in job.live):
        return ClearingRound("clear")
    if after is None:
        return ClearingRound("read" if job.ran_since_clear else "run")
    back = tuple(code for code in before if code in after)
    return ClearingRound("done", back, tuple(code for code in before if code not in after))


def _was_read(body: PanelRead) -> bool:
    """Return whether somebody read the memory: it let them, and nobody only told of a code."""
    return body.result != "unreadable" and not body.told


def _read_before(job: Job) -> tuple[str, ...]:
    """Return the codes read before the first clearing, each once."""
    codes: list[str] = []
    for entry in job.live:
        if isinstance(entry.body, CodesCleared):
            break
        if isinstance(entry.body, PanelRead) and _was_read(entry.body):
            codes += entry.body.codes
    return tuple(dict.fromkeys(codes))


def _read_after(job: Job) -> tuple[str, ...] | None:
    """Return the codes read last after the last clearing and a run; None where none were."""
    after: tuple[str, ...] | None = None
    for entry in job.live:
        body = entry.body
        if isinstance(body, CodesCleared):
            after = None
        elif isinstance(body, PanelRead) and _was_read(body) and entry.since_clear:
            after = tuple(body.codes)
    return after
