"""What is owed after a repair before a job may be handed over, and where the ten stations stand."""

from dataclasses import dataclass
from typing import Literal

from bottega.core.job.causes import Linked, linked, unexplained, whys
from bottega.core.job.events import CodesCleared, PanelRead
from bottega.core.job.job import Job
from bottega.core.library.machine_type import MachineType

STATIONS = (
    ("call", "Call"),
    ("safe", "Make safe"),
    ("panel", "Panel"),
    ("prove", "Prove"),
    ("decide", "Decide"),
    ("open", "Open up"),
    ("fit", "Fit"),
    ("close", "Close up"),
    ("proof", "Prove repair"),
    ("handover", "Hand over"),
)

PROOF_NAMES = {
    "run": "Run the customer's programme and watch it to where it failed",
    "leak_watch": "Watch every water joint that was open, dry cardboard under it",
    "spin": "Run a full spin and listen",
    "lock_test": "Try the lock: it holds, it lets go",
    "calibration": "Run the maker's calibration, or note that it has none",
    "earth": "Measure earth and insulation by the local rule",
}


Kind = Literal["check", "clear", "proof", "cause", "follow", "recheck", "state"]


@dataclass(frozen=True)
class Owed:
    """One thing owed before hand-over. ``kind`` says how it is settled; ``done`` or ``waived`` with a reason."""

    id: str
    kind: Kind
    name: str
    done: bool
    waived: str | None
    subject: str
    check: str | None = None
    """The check that would settle it, when one would."""

    @property
    def settled(self) -> bool:
        """Return whether it no longer holds the hand-over back."""
        return self.done or self.waived is not None


@dataclass(frozen=True)
class Stamp:
    """One station of the rail: open, done, or waived with a reason."""

    id: str
    number: int
    name: str
    mark: Literal["open", "done", "waived"]
    reason: str | None


def owed(job: Job, machine: MachineType) -> list[Owed]:
    """Return everything owed, in the order it is best done. Without a repair only the machine's state is owed."""
    wanted: list[tuple[str, Kind, str, bool, str]] = []
    checks: dict[str, str | None] = {}
    for operation in reversed(job.state.off):
        wanted.append(
            (f"back:{operation}", "state", f"Put back: {machine.operations[operation].name}", False, operation)
        )
    for what in job.temporary:
        wanted.append((f"temporary:{what}", "state", f"Undo: {what}", False, what))
    if job.repairs:
        wanted += [
            ("cause:" + fault, "cause", text, fault in job.causes_closed, fault) for fault, text in whys(job, machine)
        ]
        for link in linked(job, machine):
            wanted.append((f"follow:{link.fault}", "follow", _link_words(machine, link), link.settled, link.fault))
            checks[f"follow:{link.fault}"] = link.check
        for name in unexplained(job, machine):
            question = f"Nobody saw what “{machine.repairs[name].name}” put right. Say when it is looked at again."
            wanted.append((f"recheck:{name}", "recheck", question, name in job.rechecks, name))
        if any(isinstance(e.event.body, PanelRead) and e.event.body.codes for e in job.live):
            cleared = any(isinstance(e.event.body, CodesCleared) and e.epoch == job.epoch for e in job.live)
            wanted.append(("clear", "clear", "Clear the stored codes", cleared, "clear"))
        good = _passed_now(job, machine)
        for check in condemning(job, machine):
            name = f"Repeat: {machine.checks[check].name.lower()}"
            wanted.append((f"check:{check}", "check", name, check in good, check))
        proofs = job.proofs()
        for proof in _proofs_owed(job, machine):
            done = proof in proofs and proofs[proof].went == "well"
            wanted.append((f"proof:{proof}", "proof", PROOF_NAMES[proof], done, proof))
    return [
        Owed(i, kind, name, done, job.waived.get(i), subject, checks.get(i)) for i, kind, name, done, subject in wanted
    ]


def condemning(job: Job, machine: MachineType) -> list[str]:
    """Return, per repair, the check whose outcome spoke most for a fault the repair ends: it is repeated after it."""
    chosen: list[str] = []
    for number, repaired in enumerate(job.repairs):
        repair = machine.repairs.get(repaired.repair)
        best: tuple[float, str] | None = None
        for entry, body in job.checked():
            check = machine.checks.get(body.check)
            outcome = check.outcome(body.outcome) if check else None
            if repair is None or check is None or outcome is None or entry.epoch > number:
                continue
            sound = sum(p * q for p, q in zip(outcome.chances, machine.effects[check.effect].background, strict=True))
            for fault, _ in repair.covers:
                bad = machine.faults[fault].effects.get(check.effect)
                if bad:
                    ratio = sum(p * q for p, q in zip(outcome.chances, bad, strict=True)) / max(sound, 1e-9)
                    if ratio > 2 and (best is None or ratio > best[0]):
                        best = (ratio, check.id)
        if best and best[1] not in chosen:
            chosen.append(best[1])
    return chosen


def stations(job: Job, machine: MachineType) -> list[Stamp]:
    """Return the ten stations with their stamps."""
    debts = owed(job, machine)
    made_safe = job.state.power == "off" or any(e.event.body.kind == "state_changed" for e in job.live)
    settled = job.decided is not None and job.decided.choice != "repair"
    done = {
        "call": job.complaint is not None,
        "safe": made_safe,
        "panel": job.panel is not None or machine.panel is None,
        "prove": job.decided is not None or bool(job.repairs),
        "decide": job.decided is not None,
        "open": bool(job.repairs) or settled or (job.decided is not None and bool(job.state.off)),
        "fit": bool(job.repairs) or settled,
        "close": (bool(job.repairs) or settled) and not job.state.off,
        "proof": (bool(job.repairs) or settled) and all(debt.settled for debt in debts),
        "handover": job.handed_over is not None,
    }
    return [
        Stamp(key, n, name, "waived" if key in job.waived else "done" if done[key] else "open", job.waived.get(key))
        for n, (key, name) in enumerate(STATIONS, start=1)
    ]


def current_station(job: Job, machine: MachineType) -> str:
    """Return the station where the job stands: the first that is still open after the last one stamped, or the first."""
    stamps = stations(job, machine)
    if job.handed_over is not None:
        return "handover"
    passed = {"safe", "panel"} if job.checked() else set()
    must = {"call", "prove", "decide", "fit", "close", "proof", "handover"}
    for stamp in stamps:
        later_done = any(other.mark == "done" for other in stamps[stamp.number :])
        if stamp.mark == "open" and stamp.id not in passed and (stamp.id in must or not later_done):
            return stamp.id
    return stamps[-1].id


def _link_words(machine: MachineType, link: Linked) -> str:
    name = f"{machine.component_of(link.fault).name}, {machine.faults[link.fault].name}"
    if link.found:
        return f"Found and not put right yet: {name}"
    return f"Did this bring it about? {name}" if link.side == "cause" else f"Did it take this with it? {name}"


def _passed_now(job: Job, machine: MachineType) -> set[str]:
    """Return the checks answered since the last repair with the answer that reports the normal state."""
    passed: set[str] = set()
    for entry, body in job.checked():
        check = machine.checks.get(body.check)
        outcome = check.outcome(body.outcome) if check else None
        if outcome and entry.epoch == job.epoch:
            chances = outcome.chances
            (passed.add if chances[0] == max(chances) else passed.discard)(body.check)
    return passed


def _proofs_owed(job: Job, machine: MachineType) -> list[str]:
    owed_by_parts: list[str] = []
    for repaired in job.repairs:
        repair = machine.repairs.get(repaired.repair)
        if repair:
            owed_by_parts += machine.components[repair.component].owes
    return list(dict.fromkeys([*owed_by_parts, "run"]))
