"""The sheet of the station *Call*: what was said by phase, what to ask, what to load."""

from dataclasses import dataclass
from typing import ClassVar

from bottega.app.call.loading import Loading, loading
from bottega.app.job.answer import questions
from bottega.app.job.variants import VariantChoice, variants_of
from bottega.app.washer.past import PastJob, jobs_before
from bottega.core.diagnosis.plan import Step
from bottega.core.job.complaint import by_phase
from bottega.core.job.washer import washer_keys
from bottega.core.library.machine_type import Complaint
from bottega.core.library.programmes import Meant, meant
from bottega.web.station.sheet import Desk, Sheet

QUESTIONS_BESIDE = 3
"""Questions shown at once; chosen to leave room for what is loaded."""


@dataclass(frozen=True)
class PhaseSaid:
    """What was said of one phase of the cycle."""

    phase: str
    says: list[str]


@dataclass(frozen=True)
class CallSheet(Sheet):
    """What the station *Call* shows."""

    template: ClassVar[str] = "call/_sheet.html"
    said: list[PhaseSaid]
    well: list[str]
    """Phrases that were said not to be so."""
    phrases: list[tuple[str, list[Complaint]]]
    variants: list[VariantChoice]
    """The variants its model comes in."""
    meant: list[Meant]
    """What of the complaint is by design."""
    questions: list[Step]
    loading: Loading
    washer: str
    """The key of this washer's page; empty while nobody knows which it is."""
    own_number: str
    """What the shop would call this washer, if it had no number yet."""
    before: tuple[PastJob, ...]
    """Its other jobs."""


def call_sheet(desk: Desk) -> CallSheet:
    """Return the sheet of the station *Call*."""
    answer = desk.answer
    complaint = answer.job.complaint
    grouped: dict[str, list[str]] = {}
    for name in complaint.said if complaint else ():
        if name in answer.machine.complaints:
            record = answer.machine.complaints[name].record
            grouped.setdefault(record.phase, []).append(record.says)
    known = answer.machine.complaints
    well = [
        known[name].record.says for name in (complaint.well if complaint else ()) if name in known
    ]
    return CallSheet(
        well=well,
        said=[PhaseSaid(phase, says) for phase, says in grouped.items()],
        phrases=by_phase(answer.machine),
        variants=variants_of(desk.workshop, answer.machine, answer.job.serial),
        meant=meant(answer.machine, complaint.said if complaint else ()),
        questions=questions(answer)[:QUESTIONS_BESIDE],
        loading=loading(desk.workshop, answer),
        washer=next(iter(washer_keys(answer.job, answer.machine.archetype)), ""),
        own_number=f"W{answer.number}",
        before=jobs_before(desk.workshop, answer),
    )
