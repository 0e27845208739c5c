"""What a command would do to the machine, held against the table of what may never be together.

Reports of what was done (old jobs, files from elsewhere) are not held back by it; commands are.
"""

import re
from collections.abc import Iterator
from dataclasses import dataclass, replace
from datetime import datetime, timedelta

from bottega.core.job.events import (
    Body,
    Checked,
    CodesCleared,
    EntryTried,
    PanelRead,
    ProofBegun,
    Proved,
    PutBack,
    Repaired,
    StateChanged,
    Temporary,
    TookOff,
)
from bottega.core.job.job import Job
from bottega.core.job.refusal import JobRefusal
from bottega.core.library.invariant_record import InvariantTable
from bottega.core.library.machine_type import MachineType
from bottega.core.library.proof_record import ProofTable
from bottega.core.machine.deed import (
    Deed,
    covers,
    forbidden,
    may_declare,
    to_change,
    to_check,
    to_run,
    to_work,
)
from bottega.core.machine.invariants import Standing, standing
from bottega.core.machine.leaves import left_by
from bottega.core.machine.service import acts_of


@dataclass(frozen=True)
class Law:
    """What a command is held against: the tables, whether a fault that can hurt people is likely
    and not settled, and the time of the command (None where no clock is kept)."""

    table: InvariantTable
    proofs: ProofTable
    danger: bool = False
    at: datetime | None = None


def refuse_harm(job: Job, machine: MachineType, body: Body, law: Law) -> None:
    """Raise JobRefusal where a command would bring about what may never be, or is told without what
    it has to say, with the reason and the way out; ``field`` is the id of the row."""
    refuse_act(job, machine, body, law)
    if isinstance(body, Temporary) and not body.interlock and not body.undone:
        _refuse_untold(body, law.table)
    if isinstance(body, (Proved, ProofBegun)):
        _refuse_unready(job, machine, body, law)
    if isinstance(body, Repaired):
        _refuse_unopened(job, machine, body)
        _refuse_other_number(job, machine, body)
    if isinstance(body, PutBack) and body.left:
        _refuse_leftover(machine, body)


def refuse_act(job: Job, machine: MachineType, body: Body, law: Law) -> None:
    """Raise JobRefusal where an act would bring about what may never be together, by the table
    alone; ``field`` is the id of the row."""
    before = standing(machine, job.state, bool(job.interlocks), law.danger)
    found = forbidden(law.table.rows, before, _deeds(job, machine, body, before))
    if found is not None:
        raise JobRefusal(str(found), found.row)
    if isinstance(body, StateChanged) and (body.what, body.to) == ("charge", "none"):
        _refuse_touch(job, machine, body, law)


def as_left(job: Job, machine: MachineType, body: Checked) -> Checked:
    """Return a check with how the machine stands after it."""
    check = machine.checks.get(body.check)
    if check is None or body.old_part_of or check.who == "customer":
        return body
    step = machine.service.get(body.step)
    left = left_by(check, body.outcome, job.state, acts_of(step) if step else None)
    return body.model_copy(update={"leaves": left})


def declared(job: Job, machine: MachineType, body: StateChanged) -> bool:
    """Return whether plugging in is a declared live test: of a check that wants it plugged in and
    open just so, by somebody who says that he is qualified."""
    said = body.ticked and bool(body.qualified.strip())
    return said and may_declare(machine, job.state, body.for_check)


def _deeds(job: Job, machine: MachineType, body: Body, before: Standing) -> Iterator[Deed]:
    match body:
        case StateChanged():
            state = job.state.changed(body.what, body.to, job.holds_charge, body.for_check)
            lifted = body.to == "on" and declared(job, machine, body)
            yield to_change(machine, state, before, lifted)
        case TookOff() | PutBack() if body.operation in machine.operations:
            takes_off = isinstance(body, TookOff)
            yield to_work(machine, job.state, body.operation, takes_off, before=before)
        case Checked() if not body.old_part_of and body.check in machine.checks:
            check, step = machine.checks[body.check], machine.service.get(body.step)
            acts = acts_of(step) if step else ()
            yield from to_check(
                machine, check, before, covers(machine, job.state, check), acts=acts
            )
        case Proved() | ProofBegun() if body.proof != "earth":
            yield to_run(before, bool(job.state.live_test))
        case PanelRead() | CodesCleared() | EntryTried():
            yield Deed(replace(before, doing="panel"))
        case Temporary() if body.interlock and not body.undone:
            yield Deed(replace(before, doing="defeat", interlock="defeated"))


def _refuse_touch(job: Job, machine: MachineType, body: StateChanged, law: Law) -> None:
    """Refuse that a charge is gone where it was not waited for, or not measured after that."""
    stored = machine.charge
    if stored is None:
        return
    limit = law.table.touch_below_v
    waited = waited_min(job, law.at, body.waited_min)
    if waited < stored.wait_minutes:
        raise JobRefusal(
            f"{waited:.0f} min have passed since the plug came out, expected "
            f"{stored.wait_minutes:g} before {stored.where} is measured. Waiting permits the "
            "measuring, nothing else.",
            "waited_min",
        )
    if body.measured_v is None:
        raise JobRefusal(
            f"Measure {stored.where}: at most {limit:g} V. It was waited for, and that permits the "
            "measuring, not the touching; without a meter the place stays closed.",
            "measured_v",
        )
    if body.measured_v > limit:
        raise JobRefusal(
            f"Measured {body.measured_v:g} V on {stored.where}, expected at most {limit:g} V. "
            "Wait, and measure again.",
            "measured_v",
        )


def _refuse_untold(body: Temporary, table: InvariantTable) -> None:
    """Refuse something temporary that by its words defeats an interlock and does not say so."""
    said = body.what.lower()
    found = next((word for word in table.defeats if re.search(rf"\b{word}\b", said)), None)
    if found is not None:
        raise JobRefusal(
            f"“{body.what}” keeps a lock or a switch from its work ({found}). Tick that it does, "
            "and say why it has to be.",
            "interlock",
        )


def _refuse_leftover(machine: MachineType, body: PutBack) -> None:
    """Refuse more fasteners left over than there are."""
    there = sum(one.count for one in machine.operations[body.operation].fasteners)
    if body.left > there:
        raise JobRefusal(
            f"Found {body.left} left over, expected at most the {there} that hold it.", "left"
        )


def _refuse_unopened(job: Job, machine: MachineType, body: Repaired) -> None:
    """Refuse that a part is fitted whose old one was not taken out."""
    repair = machine.repairs[body.repair]
    done = machine.done_by(job.state.off)
    lacks = [to for field, to in job.state.lacks(repair.way) if field == "off" and to not in done]
    if lacks:
        names = ", ".join(machine.operations[name].name.lower() for name in lacks)
        raise JobRefusal(f"The old one is not out yet. First: {names}.", "state")


def _refuse_other_number(job: Job, machine: MachineType, body: Repaired) -> None:
    """Refuse a part with another number than this machine's own, unless it was compared."""
    repair = machine.repairs[body.repair]
    numbers = machine.part_numbers.get(repair.component, ())
    number = body.part_number.strip().upper()
    if repair.do != "part" or not numbers or not number or body.compared:
        return
    if repair.component in job.substitutes:
        return
    own = numbers[0]
    if number not in {known.upper() for known in (own.number, *own.replaces)}:
        raise JobRefusal(
            f"Found the number {body.part_number}, expected {own.number}, this machine's own. "
            f"Compare {machine.compared_of(repair.component)} with the old part, and tick that "
            "they are the same.",
            "compared",
        )


def _refuse_unready(job: Job, machine: MachineType, body: Proved | ProofBegun, law: Law) -> None:
    """Refuse a proof on a machine that does not stand as it wants; and that it went well before its
    clock is over, or without a word on what was run and how far it was watched."""
    record = law.proofs.proofs[body.proof]
    lacking = [f"{field} {to}" for field, to in job.state.lacks(record.needs)]
    if lacking:
        raise JobRefusal(f"This proof wants: {', '.join(lacking)}.", "state")
    if not isinstance(body, Proved) or body.went != "well":
        return
    if body.proof == "earth":
        _refuse_unmeasured(body)
    if record.minutes and law.at is not None:
        since = job.clock_of(body.proof)
        passed = (law.at - since) / timedelta(minutes=1) if since else 0.0
        if passed < record.minutes:
            begun = (
                f"{passed:.0f} of {record.minutes:g} minutes have passed"
                if since
                else (f"Its clock was not started; it runs for {record.minutes:g} minutes")
            )
            raise JobRefusal(
                f"{begun}. Watch it to the end, or waive it with a written reason.", "clock"
            )
    if record.watched and not (body.programme.strip() and body.watched_to):
        raise JobRefusal(
            "Say which programme was run, and to which phase it was watched.", "programme"
        )


def _refuse_unmeasured(body: Proved) -> None:
    """Refuse an electrical check that lacks what every machine with an earthed cabinet is measured
    for: earth first, for insulation says nothing of a broken earth."""
    if body.no_instrument:
        return
    for value, what, field in (
        (body.earth_ohm, "the earth in ohm, from the plug's pin to bare metal", "earth_ohm"),
        (body.insulation_mohm, "the insulation in megohm", "insulation_mohm"),
    ):
        if value is None:
            raise JobRefusal(f"Type {what}, or say that there is no instrument.", field)


def waited_min(job: Job, at: datetime | None, typed: float | None = None) -> float:
    """Return the minutes since the plug came out, by the clock of the log. What is ``typed`` adds
    to them only where the plug was out before the job began."""
    start = job.events[0].at if job.came_unplugged else job.unplugged_at
    passed = (at - start) / timedelta(minutes=1) if at is not None and start is not None else 0.0
    before = (typed or 0.0) if job.came_unplugged else 0.0
    return max(0.0, passed) + before
