"""What may never happen at a machine, in plain sentences of its own. Nothing here reads the table
of invariants or the engine that holds commands against it, so that a bench can hold the two
apart."""

from dataclasses import dataclass

from bottega.core.job.events import (
    AnyBody,
    Checked,
    ProofBegun,
    Proved,
    StateChanged,
    Temporary,
    TookOff,
)
from bottega.core.job.job import Job
from bottega.core.library.machine_type import Check, MachineType

TOUCH_V = 34
"""Extra-low voltage in the wet, direct current, as the design gives it."""
BRINGS_WATER = {"run", "fill", "pump", "heat"}


@dataclass(frozen=True)
class Scene:
    """A machine just before or after a command: what stands open on it, and how it stands."""

    open: frozenset[str]
    plugged: bool
    tipped: bool
    wet: bool
    """Water is in it, or nobody knows."""
    taps_shut: bool
    lifted: bool
    """A live test was declared."""
    defeated: bool


def scene(job: Job, machine: MachineType) -> Scene:
    """Return how the machine of a job stands."""
    state, known = job.state, machine.operations
    found = frozenset(kind for name in state.off if name in known for kind in known[name].opens)
    return Scene(
        found,
        state.power == "on",
        state.posture == "tipped",
        state.water != "out",
        state.taps == "shut",
        bool(state.live_test),
        bool(job.interlocks),
    )


def harm_of(before: Job, after: Job, machine: MachineType, body: AnyBody, danger: bool) -> str:
    """Return what a command that was let through brought about and may never be; empty where
    nothing. What was so before the command is not the command's doing."""
    was, now = scene(before, machine), scene(after, machine)
    old = set(_lasting(was, danger))
    new = [one for one in _lasting(now, danger) if one not in old]
    return next(iter([*new, *_done(before, machine, body, was)]), "")


def _lasting(here: Scene, danger: bool) -> list[str]:
    """Return what is wrong with how a machine stands."""
    covers = here.open & {"cover", "water", "moving", "load"}
    found = []
    if here.plugged and covers and not here.lifted:
        found.append("plugged in and open, with no live test declared")
    if here.plugged and here.tipped:
        found.append("plugged in and tipped")
    if here.tipped and here.wet:
        found.append("tipped with water in it")
    if here.tipped and not here.taps_shut:
        found.append("tipped with its taps open")
    if here.plugged and here.defeated and not here.lifted:
        found.append("plugged in with a lock defeated")
    if here.plugged and danger and not here.lifted:
        found.append("plugged in with a danger not settled")
    return found


def _done(job: Job, machine: MachineType, body: AnyBody, here: Scene) -> list[str]:
    """Return what is wrong with what was done just now."""
    live = job.state.power != "off"
    match body:
        case StateChanged(what="door", to="open") if machine.loads == "front" and here.wet:
            return ["door at the front opened with water in it"]
        case StateChanged(what="charge", to="none", measured_v=volts) if machine.charge:
            return [] if volts is not None and volts <= TOUCH_V else ["a charge called gone"]
        case TookOff() if job.state.charge != "none" and _where_charged(machine, body):
            return ["worked where a charge may be left"]
        case Temporary(interlock=True, undone=False) if live:
            return ["a lock defeated on a live machine"]
        case Proved() | ProofBegun() if body.proof != "earth" and here.open:
            return ["run with something open"]
        case Checked(old_part_of="") if body.check in machine.checks:
            return _checked(machine, machine.checks[body.check], live, here)
    return []


def _where_charged(machine: MachineType, body: TookOff) -> bool:
    return machine.operations[body.operation].needs.charge == "none"


def _checked(machine: MachineType, check: Check, live: bool, here: Scene) -> list[str]:
    acts, found = set(check.acts), []
    if "turn_by_hand" in acts and live:
        found.append("turned by hand while it is plugged in")
    if "feed" in acts and (here.tipped or not machine.components[check.component].may_be_fed):
        found.append("a part fed that may not be, or lying down")
    if acts & BRINGS_WATER and here.open & {"water", "drawer", "inlet"}:
        found.append("water brought to an open joint")
    return found
