"""The sheet of the station *Prove the repair*: everything owed, done or waived before the
hand-over."""

from dataclasses import dataclass
from datetime import timedelta
from typing import ClassVar, cast

from bottega.app.measure.electrical import limits_of
from bottega.app.strip.old_part import OldPart, old_part_of
from bottega.core.job.complaint import by_phase
from bottega.core.job.proofs import Owed, owed
from bottega.core.job.recheck import again_after
from bottega.core.job.words import again_words
from bottega.core.library.limits import LimitSet
from bottega.core.library.machine_type import Complaint
from bottega.core.library.records import Needs
from bottega.core.library.vocabulary import PHASES, ProofName
from bottega.core.machine.reach import ReachStep
from bottega.web.fit.sheet import best_day, tomorrow
from bottega.web.station.sheet import Desk, Sheet

WATCHED = "watch_all"
"""The check a run after a repair is declared as, where a danger is not settled yet."""


@dataclass(frozen=True)
class ProofStanding:
    """Where a proof stands: what comes first, and its clock."""

    steps: tuple[ReachStep, ...]
    """What has to be so before it, in order; empty once the machine stands as the proof wants."""
    minutes: float
    """How long its clock runs; nought where none does."""
    passed: float | None
    """Whole minutes since its clock was started; None where it does not run."""
    watched: bool
    """Whether it is a programme that is watched to a phase."""

    @property
    def over(self) -> bool:
        """Return whether nothing but the answer is wanted."""
        return not self.minutes or (self.passed is not None and self.passed >= self.minutes)


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
    standing: dict[str, ProofStanding]
    """By proof owed, where it stands."""
    clear: tuple[ReachStep, ...]
    """What comes before the codes are cleared."""
    phase: str
    """The phase in which the customer said it failed; the last of a cycle where nobody did."""
    phases: tuple[str, ...]
    """The phases of a cycle, in order."""
    programmes: list[str]
    """The programmes of its sheet, by name."""
    live: str
    """The check that plugging in is declared for while a danger is not settled; empty otherwise."""


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
        {d.subject: _standing(desk, d.subject) for d in left if d.kind == "proof"},
        _way(desk, Needs(power="on")),
        said[0].record.phase if said and said[0].record.phase != "any" else PHASES[-3],
        tuple(phase for phase in PHASES if phase != "any"),
        [programme.name for programme in desk.answer.machine.programmes.values()],
        WATCHED if desk.answer.danger is not None else "",
    )


def _standing(desk: Desk, proof: str) -> ProofStanding:
    record = desk.workshop.shelf.tables.proofs.proofs[cast(ProofName, proof)]
    since = desk.answer.job.clock_of(cast(ProofName, proof))
    passed = (desk.workshop.now() - since) // timedelta(minutes=1) if since else None
    return ProofStanding(_way(desk, record.needs), record.minutes, passed, record.watched)


def _way(desk: Desk, needs: Needs) -> tuple[ReachStep, ...]:
    return desk.answer.reaching.reach(desk.answer.job.state, needs).steps


def _again(desk: Desk, repair: str) -> tuple[str, str]:
    wait = again_after(repair, desk.answer.machine, desk.workshop.shelf.tables.engine)
    return best_day(desk, repair), again_words(wait)
