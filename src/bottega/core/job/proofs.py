"""What is owed after a repair before a job may be handed over."""

from collections.abc import Iterable
from dataclasses import dataclass, replace

from bottega.core.job.causes import Linked, linked, unexplained, whys
from bottega.core.job.events import CodesCleared, DebtKind, PanelRead, PutBack, TookOff
from bottega.core.job.job import Debt, Job
from bottega.core.library.machine_type import MachineType
from bottega.core.library.speaking import odds
from bottega.core.library.vocabulary import Power, ProofName
from bottega.core.machine.words import put_back_words, thing_of

PROOF_NAMES: dict[ProofName, str] = {
    "run": "Run the customer's programme and watch it to where it failed",
    "leak_watch": "Watch what was open for ten minutes, water in, dry cardboard under it",
    "spin": "Run a full spin and listen",
    "lock_test": "Try the lock: it holds, it lets go",
    "calibration": "Run the maker's calibration, or note that it has none",
    "earth": "Measure earth and insulation by the local rule",
}


CONDEMNS = 2.0
"""How much likelier an answer is with a fault that it condemns than of a sound machine; chosen."""
MEASURED: tuple[ProofName, ...] = ("earth",)
"""Proofs by an instrument, on a machine that is unplugged. All others are made by running it."""


@dataclass(frozen=True)
class Owed:
    """One thing owed before hand-over. ``kind`` says how it is settled; ``done`` or ``waived`` with
    a reason."""

    kind: DebtKind
    subject: str
    name: str
    done: bool
    waived: str | None = None
    check: str | None = None
    """The check that would settle it, when one would."""

    @property
    def debt(self) -> Debt:
        """Return what names it."""
        return (self.kind, self.subject)

    @property
    def settled(self) -> bool:
        """Return whether it no longer holds the hand-over back."""
        return self.done or self.waived is not None

    @property
    def measured(self) -> bool:
        """Return whether it is proved by an instrument."""
        return self.kind == "proof" and self.subject in MEASURED

    @property
    def plug(self) -> Power:
        """Return how the plug has to be for it: in for a run, out for an instrument."""
        return "off" if self.measured else "on"

    @property
    def waivable(self) -> bool:
        """Return whether a written reason may stand for it: not for what is off or in place."""
        return self.kind not in OF_THE_MACHINE


OF_THE_MACHINE: tuple[DebtKind, ...] = ("back", "temporary")
"""Debts that are settled on the machine and by nothing else."""


def owed(job: Job, machine: MachineType) -> list[Owed]:
    """Return everything owed, in the order it is best done: what wants something off while it is
    off, what is measured without current before what is run. Without a repair only the machine's
    state is owed."""
    off = [name for name in reversed(job.state.off) if name in machine.operations]
    shut = [
        Owed("back", name, put_back_words(machine.operations[name].name), False) for name in off
    ]
    shut += _left_over(job, machine)
    shut += [Owed("temporary", what, f"Undo: {what}", False) for what in job.temporary]
    after = [*_of_causes(job, machine), *_of_proofs(job, machine)] if job.repairs else []
    if not job.repairs:
        after = _proved_by(job, machine, sorted(_disturbed(job, machine)))
    first = [debt for debt in after if _while_open(job, machine, debt)]
    wanted = [*first, *shut, *(debt for debt in after if debt not in first)]
    return [replace(debt, waived=job.waived.get(debt.debt)) for debt in wanted]


def before_closing(job: Job, machine: MachineType) -> list[Owed]:
    """Return what is still owed that wants something off which is off now: it is done before
    anything goes back."""
    return [
        debt for debt in owed(job, machine) if not debt.settled and _while_open(job, machine, debt)
    ]


def checks_owed(job: Job, machine: MachineType) -> set[str]:
    """Return the checks that would settle something still owed."""
    return {debt.check for debt in owed(job, machine) if debt.check and not debt.settled}


def _while_open(job: Job, machine: MachineType, debt: Owed) -> bool:
    check = machine.checks.get(debt.check or "")
    return check is not None and bool(set(check.needs.off) & set(job.state.off))


def _of_causes(job: Job, machine: MachineType) -> list[Owed]:
    wanted = [
        Owed("cause", fault, text, fault in job.causes_closed) for fault, text in whys(job, machine)
    ]
    for link in linked(job, machine):
        words = _link_words(machine, link)
        wanted.append(Owed("follow", link.fault, words, link.settled, check=link.check))
    for name in unexplained(job, machine):
        made = machine.repairs[name].name
        question = f"Nobody saw what “{made}” put right. Say when it is looked at again."
        wanted.append(Owed("recheck", name, question, name in job.rechecks))
    return wanted


def _of_proofs(job: Job, machine: MachineType) -> list[Owed]:
    wanted = []
    if any(isinstance(e.body, PanelRead) and e.body.codes for e in job.live):
        cleared = any(isinstance(e.body, CodesCleared) and e.epoch == job.epoch for e in job.live)
        wanted.append(Owed("clear", "clear", "Clear the stored codes", cleared))
    good = _passed_now(job, machine)
    for check in condemning(job, machine):
        name = f"Repeat: {machine.checks[check].name.lower()}"
        wanted.append(Owed("check", check, name, check in good, check=check))
    return wanted + _proved_by(job, machine, _proofs_owed(job, machine))


def _proved_by(job: Job, machine: MachineType, names: Iterable[ProofName]) -> list[Owed]:
    proofs = job.proofs()
    wanted = []
    for name in sorted(names, key=lambda name: name not in MEASURED):
        done = name in proofs and proofs[name].went == "well"
        words = PROOF_NAMES[name]
        joints = _opened_joints(job, machine) if name == "leak_watch" else []
        if joints:
            words = f"{words}: {', '.join(joints)}"
        wanted.append(Owed("proof", name, words, done))
    return wanted


def _opened_joints(job: Job, machine: MachineType) -> list[str]:
    """Return the water joints that were open, by name."""
    return [
        thing_of(machine.operations[name].name)
        for name in _opened(job, machine)
        if "leak_watch" in machine.operations[name].owes
    ]


def _opened(job: Job, machine: MachineType) -> list[str]:
    """Return every operation that was done, in order."""
    done = (e.body.operation for e in job.live if isinstance(e.body, TookOff))
    return [name for name in dict.fromkeys(done) if name in machine.operations]


def _left_over(job: Job, machine: MachineType) -> list[Owed]:
    """Return the cells of the tray that are not empty though everything of theirs is back."""
    left: dict[str, int] = {}
    for entry in job.live:
        body = entry.body
        if isinstance(body, PutBack):
            left[body.operation] = body.left
        elif isinstance(body, TookOff):
            left.pop(body.operation, None)
    return [
        Owed("tray", name, f"{count} left over: {machine.operations[name].name}", False)
        for name, count in left.items()
        if count and name in machine.operations
    ]


def _disturbed(job: Job, machine: MachineType) -> set[ProofName]:
    """Return the proofs owed by all that was open, whatever was repaired."""
    opened = _opened(job, machine)
    proofs = {proof for name in opened for proof in machine.operations[name].owes}
    return proofs | ({"lock_test"} if job.defeated else set())


def condemning(job: Job, machine: MachineType) -> list[str]:
    """Return, per repair, the check whose outcome spoke most for a fault the repair ends: it is
    repeated after it. None that looks at a part in the hand, since the new one stays in."""
    chosen: list[str] = []
    for number, repaired in enumerate(job.repairs):
        repair = machine.repairs.get(repaired.repair)
        best: tuple[float, str] | None = None
        for entry, body in job.checked():
            check = machine.checks.get(body.check)
            outcome = check.outcome(body.outcome) if check else None
            if repair is None or check is None or outcome is None or entry.epoch > number:
                continue
            if check.in_hand:
                continue
            speaks = (odds(machine, check, outcome, fault) for fault, _ in repair.covers)
            ratio = max(speaks, default=1.0)
            if ratio > CONDEMNS and (best is None or ratio > best[0]):
                best = (ratio, check.id)
        if best and best[1] not in chosen:
            chosen.append(best[1])
    return chosen


def _link_words(machine: MachineType, link: Linked) -> str:
    name = f"{machine.component_of(link.fault).name}, {machine.faults[link.fault].name}"
    if link.found:
        return f"Found and not put right yet: {name}"
    return (
        f"Did this bring it about? {name}"
        if link.side == "cause"
        else f"Did it take this with it? {name}"
    )


def _passed_now(job: Job, machine: MachineType) -> set[str]:
    """Return the checks answered since the last repair with the answer that reports the normal
    state."""
    passed: set[str] = set()
    for entry, body in job.checked():
        check = machine.checks.get(body.check)
        outcome = check.outcome(body.outcome) if check else None
        if outcome and entry.epoch == job.epoch:
            chances = outcome.chances
            (passed.add if chances[0] == max(chances) else passed.discard)(body.check)
    return passed


def _proofs_owed(job: Job, machine: MachineType) -> list[ProofName]:
    owed_by_parts: list[ProofName] = []
    for repair in job.repairs_made(machine):
        owed_by_parts += machine.components[repair.component].owes
    return list(dict.fromkeys([*owed_by_parts, *sorted(_disturbed(job, machine)), "run"]))
