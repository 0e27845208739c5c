"""What may happen next on a job, a rule a kind of event. Each refusal says what was found, what was
expected, what to do."""

from collections.abc import Mapping

from bottega.core.job.events import (
    Body,
    CauseClosed,
    Checked,
    Complained,
    Decided,
    EntryTried,
    HandedOver,
    Identified,
    Marked,
    Opened,
    PanelRead,
    Proved,
    PutBack,
    Recheck,
    Repaired,
    SeatingMeasured,
    SetAside,
    Sighted,
    Soaked,
    StateChanged,
    Stuck,
    Substituted,
    Temporary,
    TookOff,
    Waived,
    Withdrawn,
)
from bottega.core.job.job import Job
from bottega.core.job.proofs import MEASURED, OF_THE_MACHINE, owed
from bottega.core.job.refusal import JobRefusal
from bottega.core.job.stations import WAIVABLE
from bottega.core.library.machine_type import Check, MachineType
from bottega.core.library.records import Needs
from bottega.core.library.vocabulary import INCONCLUSIVE, NOT_CHOSEN, STATES
from bottega.core.machine.state import MachineState


def anything(_job: Job, _machine: MachineType, _body: Body) -> None:
    """Allow it at any time."""


def opened(_job: Job, _machine: MachineType, _body: Opened) -> None:
    """Refuse: a job is opened by its first event only."""
    raise JobRefusal("The job is open already; a job is opened once.")


def complained(_job: Job, machine: MachineType, body: Complained) -> None:
    """Allow phrases of this machine."""
    _known("complaint", (*body.said, *body.well), machine.complaints)


def marked(_job: Job, machine: MachineType, body: Marked) -> None:
    """Allow a mark at a part of this machine."""
    _known("part", (body.at,), machine.components)


def sighted(_job: Job, machine: MachineType, body: Sighted) -> None:
    """Allow saying that a fault of this machine is seen, where a look without a meter tells it."""
    _known("fault", (body.fault,), machine.faults)
    if machine.looked_at(body.fault) is None:
        raise JobRefusal(
            "Nobody sees that by eye or hand alone. Choose a check that speaks for it.",
            "fault",
        )


def set_aside(_job: Job, machine: MachineType, body: SetAside) -> None:
    """Allow setting a check of this machine aside."""
    _known("check", (body.check,), machine.checks)


def repaired(_job: Job, machine: MachineType, body: Repaired) -> None:
    """Allow a repair of this machine."""
    _known("repair", (body.repair,), machine.repairs)


def proved(job: Job, machine: MachineType, body: Proved) -> None:
    """Allow a proof by running on a machine that is plugged in, and an electrical one with its
    value, or with the word that there is no instrument, on one that is not."""
    if body.proof not in MEASURED:
        if job.state.power != "on":
            raise JobRefusal("It is unplugged. Plug it in, then run it.", "power")
        _known("complaint", body.still, machine.complaints)
        _known("phase", (body.stalled,) if body.stalled else (), _phases(machine))
        if body.stalled and body.went == "well":
            raise JobRefusal("It stalled, so it did not go well.", "stalled")
        return
    if job.state.power == "on":
        raise JobRefusal("It is plugged in. Pull the plug before insulation is measured.", "power")
    value, limits = body.insulation_mohm, body.limits
    if body.went == "well" and limits is not None:
        if value is not None and value < limits.insulation_mohm:
            raise JobRefusal(
                f"Found {value:g} megohm, expected at least {limits.insulation_mohm:g} for a "
                "machine that goes back.",
                "insulation_mohm",
            )
        _within(body.earth_ohm, limits.earth_ohm, "ohm", "earth_ohm")
        _within(body.leakage_ma, limits.leakage_ma, "milliampere", "leakage_ma")
    if body.went == "well" and body.polarity == "wrong":
        raise JobRefusal("Live and neutral are crossed: that does not go back.", "polarity")


def _within(value: float | None, most: float, unit: str, field: str) -> None:
    if value is not None and value > most:
        raise JobRefusal(
            f"Found {value:g} {unit}, expected at most {most:g} for a machine that goes back.",
            field,
        )


def cause_closed(_job: Job, machine: MachineType, body: CauseClosed) -> None:
    """Allow an answer about a fault of this machine."""
    _known("fault", (body.fault,), machine.faults)


LEAST_REASON = 3
"""Letters of a reason; as for what is waived."""


def temporary(job: Job, _machine: MachineType, body: Temporary) -> None:
    """Allow making anything temporary, and undoing what is in place."""
    if body.undone and body.what not in job.temporary:
        raise JobRefusal(f"'{body.what}' is not in place, so it cannot be undone.", "what")
    if body.interlock and not body.undone and len(body.reason.strip()) < LEAST_REASON:
        raise JobRefusal("Say why it has to be defeated; your name stands beside it.", "reason")


def _known(kind: str, ids: tuple[str, ...], known: Mapping[str, object]) -> None:
    for name in ids:
        if name not in known:
            raise JobRefusal(f"Found the {kind} '{name}', expected one of this machine's.", kind)


def state_changed(job: Job, machine: MachineType, body: StateChanged) -> None:
    """Allow a change into another state that can be chosen."""
    state = job.state
    chosen = [value for value in STATES[body.what] if value not in NOT_CHOSEN]
    if body.to not in chosen:
        raise JobRefusal(f"Found {body.what} '{body.to}', expected {' or '.join(chosen)}.", "to")
    if getattr(state, body.what) == body.to:
        raise JobRefusal(f"The {body.what} is '{body.to}' already.", "to")
    if body.what == "power":
        _known("check", (body.for_check,) if body.for_check else (), machine.checks)
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
            f"Say how you know: wait {stored.wait_minutes:g} minutes from the plug, then measure "
            f"{stored.where}.",
            "measured_v",
        )


def took_off(job: Job, machine: MachineType, body: TookOff) -> None:
    """Allow an operation that is not done."""
    operation = body.operation
    _known("operation", (operation,), machine.operations)
    if operation in job.state.off:
        raise JobRefusal(f"'{machine.operations[operation].name}' is done already.", "operation")


def put_back(job: Job, _machine: MachineType, body: PutBack) -> None:
    """Allow undoing an operation that is done."""
    if body.operation not in job.state.off:
        raise JobRefusal("It is not off, so it cannot go back.", "operation")


def ready(job: Job, machine: MachineType, body: Body) -> None:
    """Refuse a command on a machine that does not stand as it wants, or out of the order in which
    things come off and go back. A report is not held to it: the library may have said otherwise
    when it was made."""
    state = job.state
    if isinstance(body, Repaired):
        _ready(state, machine, machine.repairs[body.repair].needs, "The repair")
    if isinstance(body, Checked) and not body.old_part_of:
        check = machine.checks[body.check]
        _ready(state, machine, check.needs, f"'{check.name}'")
    if isinstance(body, TookOff):
        _in_order(state, machine, body.operation)
        _ready(state, machine, machine.operations[body.operation].needs, "This")
    if isinstance(body, PutBack):
        _nothing_waits(state, machine, body.operation)


def _in_order(state: MachineState, machine: MachineType, operation: str) -> None:
    done = machine.done_by(state.off)
    before = [o for o in machine.operations[operation].after if o not in done]
    if before:
        raise JobRefusal(f"First: {machine.operations[before[0]].name.lower()}.", "operation")


def _nothing_waits(state: MachineState, machine: MachineType, operation: str) -> None:
    names = machine.done_by((operation,))
    waiting = [
        o for o in state.off if o in machine.operations and names & {*machine.operations[o].after}
    ]
    if waiting:
        raise JobRefusal(
            f"First put back: {machine.operations[waiting[-1]].name.lower()}.", "operation"
        )


def soaked(job: Job, machine: MachineType, body: Soaked) -> None:
    """Allow oil on what is still on."""
    _known("operation", (body.operation,), machine.operations)
    if body.operation in job.state.off:
        raise JobRefusal("It is off already, nothing of it has to soak.", "operation")


def stuck(job: Job, machine: MachineType, body: Stuck) -> None:
    """Allow saying of what is on that it will not come off, and of what would not that it moves."""
    _known("operation", (body.operation,), machine.operations)
    if body.operation in job.state.off:
        raise JobRefusal("It is off already, so it is not stuck.", "operation")
    if body.moves and body.operation not in job.stuck:
        raise JobRefusal("Nobody said that it is stuck.", "operation")


def panel_read(_job: Job, machine: MachineType, body: PanelRead) -> None:
    """Allow codes of this machine, or none; not both."""
    _known("code", body.codes, {**machine.codes, **machine.renamed} or machine.meanings)
    if body.result == "codes" and not body.codes and not body.unlisted:
        raise JobRefusal(
            "No code was entered. Choose 'none stored' if the memory is empty.", "codes"
        )
    if body.result != "codes" and (body.codes or body.unlisted):
        raise JobRefusal(
            "Codes were entered together with 'none stored' or 'could not read'; expected "
            "one of them.",
            "result",
        )
    if body.told and body.result != "codes":
        raise JobRefusal("A customer tells of codes; that none is stored has to be read.", "told")


def _phases(machine: MachineType) -> dict[str, str]:
    return {phase.id: phase.name for phase in machine.calibration.phases}


def identified(_job: Job, _machine: MachineType, body: Identified) -> None:
    """Allow a number or a serial that has a letter or a figure in it."""
    if not any(c.isalnum() for c in body.label + body.serial):
        raise JobRefusal("Found no number, expected the shop's own or the maker's serial.", "label")


def entry_tried(_job: Job, machine: MachineType, _body: EntryTried) -> None:
    """Allow an attempt on a machine whose sheet says how its service mode is entered."""
    if machine.panel is None:
        raise JobRefusal("Its sheet has no panel, so there is no way in to try.", "entry")


def checked(job: Job, machine: MachineType, body: Checked) -> None:
    """Allow a check of this machine; a measurement brings its reading."""
    _known("check", (body.check,), machine.checks)
    check = machine.checks[body.check]
    if body.step:
        _known("service step", (body.step,), machine.service)
    settles_nothing = body.outcome == INCONCLUSIVE and (
        check.measure is not None or bool(body.step) or check.who == "customer"
    )
    if check.outcome(body.outcome) is None and not settles_nothing:
        expected = ", ".join(outcome.id for outcome in check.outcomes)
        raise JobRefusal(
            f"Found the outcome '{body.outcome}' for '{check.name}', expected one of {expected}.",
            "outcome",
        )
    if (
        check.measure is not None
        and check.who != "customer"
        and body.reading is None
        and not body.note
        and not settles_nothing
    ):
        raise JobRefusal(
            f"'{check.name}' is a measurement: type the reading with its unit.", "reading"
        )
    _known("complaint", body.showed, machine.complaints)
    if check.watches and body.outcome != check.outcomes[0].id and not body.showed:
        raise JobRefusal("Say what showed: tick what was seen or heard.", "showed")
    if body.old_part_of:
        _taken_out(job, machine, check, body.old_part_of)


def _taken_out(job: Job, machine: MachineType, check: Check, event: str) -> None:
    """Refuse looking at an old part on the bench that no repair of the job took out."""
    made = next((e.body for e in job.live if e.event.id == event), None)
    repair = machine.repairs.get(made.repair) if isinstance(made, Repaired) else None
    if repair is None or repair.do != "part" or check.in_hand != repair.component:
        raise JobRefusal(
            f"'{check.name}' looks at a part that came out, and none did in that repair.",
            "old_part_of",
        )


def _ready(state: MachineState, machine: MachineType, needs: Needs, what: str) -> None:
    lacking = state.lacks(needs)
    if lacking:
        words = [
            machine.operations[to].name.lower() if field == "off" else f"{field} {to}"
            for field, to in lacking
        ]
        raise JobRefusal(f"{what} is not open yet. It needs: {', '.join(words)}.", "state")


def recheck(job: Job, _machine: MachineType, body: Recheck) -> None:
    """Allow a day after today for a repair that was made."""
    made = [repaired.repair for repaired in job.repairs]
    if body.repair not in made:
        expected = " or ".join(made) or "a repair that is noted first"
        raise JobRefusal(f"Found the repair '{body.repair}', expected {expected}.", "repair")
    done = max(entry.event.at for entry in job.live).date()
    if body.on <= done:
        raise JobRefusal(
            f"Found the day {body.on:%d %b %Y}, expected one after {done:%d %b %Y}.", "on"
        )


def substituted(_job: Job, machine: MachineType, body: Substituted) -> None:
    """Allow stock parts for a component that has a part."""
    if body.component not in machine.parts:
        raise JobRefusal(f"Found '{body.component}', expected a part of this machine.", "component")


def seating_measured(_job: Job, _machine: MachineType, body: SeatingMeasured) -> None:
    """Allow points that were judged by a window that can be."""
    if body.low > body.high:
        raise JobRefusal(
            f"Found {body.low:g} to {body.high:g} mm, expected the lower limit first.", "low"
        )


def decided(_job: Job, machine: MachineType, body: Decided) -> None:
    """Allow a choice; a repair is named."""
    if body.choice == "repair" and body.repair is None:
        raise JobRefusal("Choose which repair.", "repair")
    _known("repair", body.repairs, machine.repairs)
    if body.also and body.repair is None:
        raise JobRefusal("Found repairs to be made also, expected the first one.", "repair")


def waived(job: Job, machine: MachineType, body: Waived) -> None:
    """Allow waiving what is owed, or a station that can be passed over; not what only the machine
    can settle."""
    if body.owed in OF_THE_MACHINE:
        raise JobRefusal(
            "What is off goes back and what is temporary is undone; that cannot be waived.",
            "subject",
        )
    if body.owed == "station":
        known = body.subject in WAIVABLE
    else:
        known = (body.owed, body.subject) in {debt.debt for debt in owed(job, machine)}
    if not known:
        raise JobRefusal(
            f"Found {body.owed} '{body.subject}', expected something that is owed on this job.",
            "subject",
        )


def handed_over(job: Job, machine: MachineType, _body: HandedOver) -> None:
    """Allow handing over once something is decided and nothing is owed any more."""
    if job.decided is None:
        raise JobRefusal("Nothing is decided yet. Decide, then hand over.", "decide")
    if job.decided.choice == "repair" and not job.repairs:
        raise JobRefusal(
            "A repair was decided and none is noted. Fit it, or decide otherwise.", "fit"
        )
    left = [machine.repairs[name].name for name in job.to_make if name in machine.repairs]
    if job.decided.also and left:
        raise JobRefusal(
            f"Decided together, and not made yet: {left[0]}. Make it, or decide otherwise.", "fit"
        )
    if job.state.posture != "upright":
        raise JobRefusal("It is still tipped back. Stand it upright.", "posture")
    open_debts = [debt for debt in owed(job, machine) if not debt.settled]
    if open_debts:
        raise JobRefusal(
            f"{len(open_debts)} still owed, first: {open_debts[0].name.lower()}. Do it, or "
            "waive it with a reason.",
            "owed",
        )


def withdrawn(job: Job, _machine: MachineType, body: Withdrawn) -> None:
    """Allow withdrawing any event of the job that counts, but its opening."""
    target = next((event for event in job.events if event.id == body.event), None)
    if target is None:
        raise JobRefusal(
            "Found an event that is not on this job, expected one of its own.", "event"
        )
    if isinstance(target.body, Opened):
        raise JobRefusal("The opening of the job cannot be withdrawn.", "event")
    if any(entry.withdrawn for entry in job.entries if entry.event.id == body.event):
        raise JobRefusal("It is withdrawn already.", "event")
