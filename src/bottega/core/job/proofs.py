"""What is owed after a repair before a job may be handed over, and where the ten stations stand."""

from dataclasses import dataclass
from typing import Literal

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


@dataclass(frozen=True)
class Owed:
    """One thing owed before hand-over. ``kind`` says how it is settled; ``done`` or ``waived`` with a reason."""

    id: str
    kind: Literal["check", "clear", "proof", "cause", "state"]
    name: str
    done: bool
    waived: str | None
    subject: str

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
    wanted: list[tuple[str, Literal["check", "clear", "proof", "cause", "state"], str, bool, str]] = []
    for operation in reversed(job.state.off):
        wanted.append(
            (f"back:{operation}", "state", f"Put back: {machine.operations[operation].name}", False, operation)
        )
    for what in job.temporary:
        wanted.append((f"temporary:{what}", "state", f"Undo: {what}", False, what))
    if job.repairs:
        wanted += [
            ("cause:" + fault, "cause", text, fault in job.causes_closed, fault)
            for fault, text in _causes(job, machine)
        ]
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
    return [Owed(i, kind, name, done, job.waived.get(i), subject) for i, kind, name, done, subject in wanted]


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


def _causes(job: Job, machine: MachineType) -> list[tuple[str, str]]:
    asked = []
    for repaired in job.repairs:
        repair = machine.repairs.get(repaired.repair)
        likely = [machine.faults[f] for f, _ in repair.covers if _spoken_for(job, machine, f)] if repair else []
        asked += [(fault.id, fault.ask_why) for fault in likely if fault.ask_why]
    return list(dict.fromkeys(asked))


def _spoken_for(job: Job, machine: MachineType, fault: str) -> bool:
    """Return whether some check found this fault's own effect in the state the fault brings."""
    for _, body in job.checked():
        check = machine.checks.get(body.check)
        outcome = check.outcome(body.outcome) if check else None
        brought = machine.faults[fault].effects.get(check.effect) if check else None
        if outcome and brought:
            likely = max(range(len(brought)), key=lambda k: brought[k])
            if likely > 0 and max(range(len(brought)), key=lambda k: outcome.chances[k]) == likely:
                return True
    return False


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
