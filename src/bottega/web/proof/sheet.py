"""The sheet of the station *Prove the repair*: everything owed, done or waived before the
hand-over."""

from dataclasses import dataclass
from typing import ClassVar

from bottega.app.measure.electrical import limits_of
from bottega.app.strip.old_part import OldPart, old_part_of
from bottega.core.job.complaint import by_phase
from bottega.core.job.proofs import Owed, owed
from bottega.core.job.recheck import again_after
from bottega.core.job.words import again_words
from bottega.core.library.limits import LimitSet
from bottega.core.library.machine_type import Complaint
from bottega.web.fit.sheet import best_day, tomorrow
from bottega.web.job.sheet import Desk, Sheet


@dataclass(frozen=True)
class ProofSheet(Sheet):
    """What the station *Prove the repair* shows."""

    template: ClassVar[str] = "proof/_sheet.html"
    debts: list[Owed]
    old_part: OldPart | None
    """The part that came out last, if nobody has looked at it yet."""
    open: int
    """How many are neither done nor waived."""
    lead_debt: Owed | None
    """The first that is open; the keys go to it."""
    tomorrow: str
    again: dict[str, tuple[str, str]]
    """By repair that nobody can explain the day it had better be looked at again, as a date field
    wants it, and why then."""
    complaints: list[Complaint]
    """What the customer said, to be watched for in a run."""
    others: list[tuple[str, list[Complaint]]]
    """What else a run may show, by phase."""
    limits: LimitSet
    """What an electrical check is held against."""
    typed: dict[str, str]
    """What was typed, when it was refused."""


def proof_sheet(desk: Desk) -> ProofSheet:
    """Return the sheet of the station *Prove the repair*."""
    debts = owed(desk.answer.job, desk.answer.machine)
    left = [debt for debt in debts if not debt.settled]
    known, complaint = desk.answer.machine.complaints, desk.answer.job.complaint
    said = [known[name] for name in (complaint.said if complaint else ()) if name in known]
    others = [
        (phase, [phrase for phrase in phrases if phrase not in said])
        for phase, phrases in by_phase(desk.answer.machine)
    ]
    again = {d.subject: _again(desk, d.subject) for d in left if d.kind == "recheck"}
    return ProofSheet(
        debts,
        old_part_of(desk.answer),
        len(left),
        next(iter(left), None),
        tomorrow(desk),
        again,
        said,
        others,
        limits_of(desk.workshop),
        desk.error.typed if desk.error else {},
    )


def _again(desk: Desk, repair: str) -> tuple[str, str]:
    wait = again_after(repair, desk.answer.machine, desk.workshop.shelf.tables.engine)
    return best_day(desk, repair), again_words(wait)
