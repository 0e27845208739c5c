"""What may happen next on a job. Each refusal says what was found, what was expected, and what to do."""

from collections.abc import Mapping

from bottega.core.job.events import (
    AnyBody,
    CauseClosed,
    Checked,
    Complained,
    Decided,
    HandedOver,
    Marked,
    Opened,
    PanelRead,
    PutBack,
    Recheck,
    Repaired,
    SetAside,
    StateChanged,
    Temporary,
    TookOff,
    Waived,
    Withdrawn,
)
from bottega.core.job.job import Job
from bottega.core.job.proofs import owed
from bottega.core.job.state import MachineState
from bottega.core.library.machine_type import MachineType
from bottega.core.library.records import Needs


class JobRefusal(ValueError):
    """Something that may not happen on this job now. ``field`` names what is wrong, if one thing is."""

    def __init__(self, message: str, field: str = "") -> None:
        super().__init__(message)
        self.field = field


ALLOWED = {
    "power": ("on", "off"),
    "taps": ("open", "shut"),
    "water": ("in", "out"),
    "charge": ("none",),
    "drum": ("empty", "loaded"),
    "posture": ("upright", "tipped"),
}


def allow(job: Job, machine: MachineType, body: AnyBody) -> None:
    """Raise JobRefusal if this may not be the job's next event; return nothing if it may."""
    if job.handed_over and not isinstance(body, Withdrawn):
        raise JobRefusal("The job is handed over. Withdraw the hand-over to go on with it.")
    match body:
        case Opened():
            raise JobRefusal("The job is open already; a job is opened once.")
        case Complained():
            _known("complaint", body.said, machine.complaints)
        case StateChanged():
            _state_change(job.state, machine, body)
        case TookOff():
            _take_off(job.state, machine, body.operation)
        case PutBack():
            _put_back(job.state, machine, body.operation)
        case PanelRead():
            _panel(machine, body)
        case Checked():
            _check(job, machine, body)
        case Marked():
            _known("part", (body.at,), machine.components)
        case SetAside():
            _known("check", (body.check,), machine.checks)
        case Decided():
            _decided(machine, body)
        case Repaired():
            _known("repair", (body.repair,), machine.repairs)
            _ready(job.state, machine, machine.repairs[body.repair].needs, "The repair")
        case Recheck():
            _recheck(job, body)
        case CauseClosed():
            _known("fault", (body.fault,), machine.faults)
        case Waived():
            _waived(job, machine, body)
        case Temporary() if body.undone and body.what not in job.temporary:
            raise JobRefusal(f"'{body.what}' is not in place, so it cannot be undone.", "what")
        case HandedOver():
            _hand_over(job, machine)
        case Withdrawn():
            _withdrawn(job, body)
        case _:
            pass


def _known(kind: str, ids: tuple[str, ...], known: Mapping[str, object]) -> None:
    for name in ids:
        if name not in known:
            raise JobRefusal(f"Found the {kind} '{name}', expected one of this machine's.", kind)


def _state_change(state: MachineState, machine: MachineType, body: StateChanged) -> None:
    if body.to not in ALLOWED[body.what]:
        raise JobRefusal(f"Found {body.what} '{body.to}', expected {' or '.join(ALLOWED[body.what])}.", "to")
    if getattr(state, body.what) == body.to:
        raise JobRefusal(f"The {body.what} is '{body.to}' already.", "to")
    if body.what == "power" and body.to == "on":
        exposed = [op for op in state.off if machine.operations[op].needs.charge == "none"]
        if state.posture == "tipped":
            raise JobRefusal("It is tipped back. Stand it upright before it is plugged in.", "power")
        if "tub_out" in exposed or "tub_out" in state.off:
            raise JobRefusal("The tub is out. Put it back before it is plugged in.", "power")
    if body.what == "posture" and body.to == "tipped" and state.water != "out":
        raise JobRefusal("There may be water in the tub. Let it out before you tip the machine.", "posture")
    if body.what == "charge":
        _discharge(state, machine, body)


def _discharge(state: MachineState, machine: MachineType, body: StateChanged) -> None:
    stored = machine.charge
    if stored is None:
        return
    if state.power == "on":
        raise JobRefusal("Pull the plug before you let the charge go.", "power")
    if body.measured_v is None and body.waited_min is None:
        raise JobRefusal(
            f"Say how you know: measured volts on {stored.where}, or the minutes waited (at least {stored.wait_minutes:g}).",
            "measured_v",
        )
    if body.measured_v is not None and body.measured_v > stored.safe_below_v:
        raise JobRefusal(
            f"Measured {body.measured_v:g} V on {stored.where}, expected at most {stored.safe_below_v:g} V. Wait and measure again.",
            "measured_v",
        )
    if body.measured_v is None and body.waited_min is not None and body.waited_min < stored.wait_minutes:
        raise JobRefusal(
            f"Waited {body.waited_min:g} min, expected at least {stored.wait_minutes:g} min, or a measured voltage.",
            "waited_min",
        )


def _take_off(state: MachineState, machine: MachineType, operation: str) -> None:
    _known("operation", (operation,), machine.operations)
    if operation in state.off:
        raise JobRefusal(f"'{machine.operations[operation].name}' is done already.", "operation")
    before = [o for o in machine.operations[operation].after if o not in state.off]
    if before:
        raise JobRefusal(f"First: {machine.operations[before[0]].name.lower()}.", "operation")
    _ready(state, machine, machine.operations[operation].needs, "This")


def _put_back(state: MachineState, machine: MachineType, operation: str) -> None:
    if operation not in state.off:
        raise JobRefusal("It is not off, so it cannot go back.", "operation")
    waiting = [o for o in state.off if operation in machine.operations[o].after]
    if waiting:
        raise JobRefusal(f"First put back: {machine.operations[waiting[-1]].name.lower()}.", "operation")


def _panel(machine: MachineType, body: PanelRead) -> None:
    _known("code", body.codes, machine.codes)
    if body.result == "codes" and not body.codes:
        raise JobRefusal("No code was entered. Choose 'none stored' if the memory is empty.", "codes")
    if body.result != "codes" and body.codes:
        raise JobRefusal(
            "Codes were entered together with 'none stored' or 'could not read'; expected one of them.", "result"
        )


def _check(job: Job, machine: MachineType, body: Checked) -> None:
    _known("check", (body.check,), machine.checks)
    check = machine.checks[body.check]
    if check.outcome(body.outcome) is None:
        expected = ", ".join(outcome.id for outcome in check.outcomes)
        raise JobRefusal(
            f"Found the outcome '{body.outcome}' for '{check.name}', expected one of {expected}.", "outcome"
        )
    if check.measure is not None and check.who != "customer" and body.reading is None and not body.note:
        raise JobRefusal(f"'{check.name}' is a measurement: type the reading with its unit.", "reading")
    _ready(job.state, machine, check.needs, f"'{check.name}'")


def _ready(state: MachineState, machine: MachineType, needs: Needs, what: str) -> None:
    lacking = state.lacks(needs)
    if lacking:
        words = [machine.operations[to].name.lower() if field == "off" else f"{field} {to}" for field, to in lacking]
        raise JobRefusal(f"{what} is not open yet. It needs: {', '.join(words)}.", "state")


def _recheck(job: Job, body: Recheck) -> None:
    made = [repaired.repair for repaired in job.repairs]
    if body.repair not in made:
        expected = " or ".join(made) or "a repair that is noted first"
        raise JobRefusal(f"Found the repair '{body.repair}', expected {expected}.", "repair")
    done = max(entry.event.at for entry in job.live).date()
    if body.on <= done:
        raise JobRefusal(f"Found the day {body.on:%d %b %Y}, expected one after {done:%d %b %Y}.", "on")


def _decided(machine: MachineType, body: Decided) -> None:
    if body.choice == "repair" and body.repair is None:
        raise JobRefusal("Choose which repair.", "repair")
    if body.repair is not None:
        _known("repair", (body.repair,), machine.repairs)


def _waived(job: Job, machine: MachineType, body: Waived) -> None:
    known = {debt.id for debt in owed(job, machine)} | {
        "call",
        "safe",
        "panel",
        "prove",
        "decide",
        "open",
        "fit",
        "close",
    }
    if body.what.startswith(("back:", "temporary:")):
        raise JobRefusal("What is off goes back and what is temporary is undone; that cannot be waived.", "what")
    if body.what not in known:
        raise JobRefusal(f"Found '{body.what}', expected something that is owed on this job.", "what")


def _hand_over(job: Job, machine: MachineType) -> None:
    if job.decided is None:
        raise JobRefusal("Nothing is decided yet. Decide, then hand over.", "decide")
    if job.decided.choice == "repair" and not job.repairs:
        raise JobRefusal("A repair was decided and none is noted. Fit it, or decide otherwise.", "fit")
    if job.state.posture != "upright":
        raise JobRefusal("It is still tipped back. Stand it upright.", "posture")
    open_debts = [debt for debt in owed(job, machine) if not debt.settled]
    if open_debts:
        raise JobRefusal(
            f"{len(open_debts)} still owed, first: {open_debts[0].name.lower()}. Do it, or waive it with a reason.",
            "owed",
        )


def _withdrawn(job: Job, body: Withdrawn) -> None:
    target = next((event for event in job.events if event.id == body.event), None)
    if target is None:
        raise JobRefusal("Found an event that is not on this job, expected one of its own.", "event")
    if isinstance(target.body, Opened):
        raise JobRefusal("The opening of the job cannot be withdrawn.", "event")
    if any(entry.withdrawn for entry in job.entries if entry.event.id == body.event):
        raise JobRefusal("It is withdrawn already.", "event")
