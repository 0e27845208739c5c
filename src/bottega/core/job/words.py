"""Every kind of event in a technician's words: what was done, and what came of it."""

from bottega.core.job.events import (
    CauseClosed,
    Checked,
    CodesCleared,
    Complained,
    Decided,
    EntryTried,
    HandedOver,
    Identified,
    Marked,
    Noted,
    Opened,
    PanelRead,
    ProofBegun,
    Proved,
    PutBack,
    Reading,
    Rebased,
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
    Waiting,
    Waived,
    Withdrawn,
)
from bottega.core.job.proofs import PROOF_NAMES
from bottega.core.job.recheck import Again
from bottega.core.job.stations import STATIONS
from bottega.core.library.machine_type import MachineType
from bottega.core.library.vocabulary import INCONCLUSIVE
from bottega.core.machine.words import put_back_words
from bottega.core.measure.judge import volts_said
from bottega.core.measure.units import (
    CUSTOMARY,
    System,
    amount_in,
    in_system,
    limits_in,
    symbol_of,
)
from bottega.core.wording import lower_first

Told = tuple[str, str]
"""What was done, and what came of it."""


def opened(machine: MachineType, body: Opened) -> Told:
    """Tell of a job taken."""
    return "Job taken", f"{machine.title}, {age_words(body.age_years)}, {body.place}"


def age_words(years: float | None) -> str:
    """Return an age as said: "7 years", or that nobody knows it."""
    if years is None:
        return "age unknown"
    return "1 year" if years == 1 else f"{years:g} years"


def complained(machine: MachineType, body: Complained) -> Told:
    """Tell what the customer says, and the phrases heard in it."""
    said, well = (
        [
            lower_first(machine.complaints[n].record.says) if n in machine.complaints else gone(n)
            for n in names
        ]
        for names in (body.said, body.well)
    )
    told = [*said, *(f"not so: {says}" for says in well), *([body.often] if body.often else [])]
    who = "Customer adds" if body.adds else "Customer"
    return f"{who}: “{body.text}”", "; ".join(told) or "no known phrase in it"


def state_changed(_machine: MachineType, body: StateChanged) -> Told:
    """Tell of the machine brought into another state."""
    if body.measured_v is not None:
        return STATE_WORDS[body.what, body.to], f"measured {body.measured_v:g} V"
    waited = "" if body.waited_min is None else f"waited {body.waited_min:g} min"
    return STATE_WORDS[body.what, body.to], waited


STATE_WORDS = {
    ("power", "off"): "Plug pulled",
    ("power", "on"): "Plugged in",
    ("taps", "shut"): "Taps shut",
    ("taps", "open"): "Taps opened",
    ("water", "out"): "Water let out",
    ("water", "in"): "Water run in",
    ("charge", "none"): "Stored charge gone",
    ("drum", "empty"): "Drum emptied",
    ("drum", "loaded"): "Drum loaded",
    ("door", "shut"): "Shut as for a wash",
    ("door", "open"): "Opened as for loading",
    ("posture", "upright"): "Stood upright",
    ("posture", "tipped"): "Tipped back",
}


def took_off(machine: MachineType, body: TookOff) -> Told:
    """Tell of an operation done."""
    told = f"done; {TAG_WORDS[body.tag]}" if body.tag else "done"
    return _operation(machine, body.operation), with_note(told, body.note)


TAG_WORDS = {
    "keep": "what came off is kept",
    "inspect": "what came off is to be looked at",
    "discard": "what came off is thrown away",
    "salvage": "what came off goes to the donor shelf",
}


def soaked(machine: MachineType, body: Soaked) -> Told:
    """Tell what was oiled, and how long it soaks."""
    name = lower_first(_operation(machine, body.operation))
    return f"Oiled, to {name}", f"soaks {body.minutes:g} min"


def stuck(machine: MachineType, body: Stuck) -> Told:
    """Tell what will not come off, or moves after all."""
    name = lower_first(_operation(machine, body.operation))
    return f"Cannot {name}", with_note("it moves after all" if body.moves else "stuck", body.note)


def put_back(machine: MachineType, body: PutBack) -> Told:
    """Tell of an operation undone."""
    left = f"done; {body.left} left over" if body.left else "done"
    return put_back_words(_operation(machine, body.operation)), with_note(left, body.note)


def panel_read(machine: MachineType, body: PanelRead) -> Told:
    """Tell what the memory showed."""
    if body.result == "unreadable":
        tried = f" in {body.attempts} attempts" if body.attempts else ""
        return "Panel", f"could not be read{tried}"
    if body.result == "none":
        return "Panel", "no code stored"
    codes = [code_words(machine, code) for code in body.codes]
    strange = [f"{shown} (in no table)" for shown in body.unlisted]
    told = "; ".join([*codes, *strange])
    stays = "until the dial moves" if body.stays else ""
    version = f"version {body.version}" if body.version else ""
    said = "as the customer tells it" if body.told else ""
    return "Panel", ", ".join(word for word in (told, body.order, stays, version, said) if word)


def entry_tried(_machine: MachineType, body: EntryTried) -> Told:
    """Tell of an attempt at the service mode."""
    return "Service mode", "it listened" if body.listened else "it did not listen"


def codes_cleared(_machine: MachineType, _body: CodesCleared) -> Told:
    """Tell of cleared codes."""
    return "Codes cleared", ""


def reading_shown(reading: Reading, system: System = "metric") -> str:
    """Return what the meter showed, as a shop on this system reads it; in a metric one with what
    was typed, where that was another unit."""
    if reading.amount is None:
        return "OL"
    if system == "us" and reading.unit in CUSTOMARY:
        amount = in_system(reading.amount, reading.unit, system)
        return f"{amount.number:.4g} {amount.symbol}"
    shown = f"{reading.amount:g} {symbol_of(reading.unit)}".strip()
    if reading.typed.endswith(CUSTOMARY.get(reading.unit, ("never",))[0]):
        return f"{reading.typed}, that is {shown}"
    return shown


def expected_shown(reading: Reading, system: System = "metric") -> str:
    """Return the limits a reading was held against, as a shop on this system reads them."""
    return limits_in(reading.low, reading.high, reading.unit, system)


def checked(machine: MachineType, body: Checked, system: System = "metric") -> Told:
    """Tell what a check answered; of a measurement what the meter showed and what was expected, as
    a shop on this system reads them."""
    check = machine.checks.get(body.check)
    outcome = check.outcome(body.outcome) if check else None
    label = outcome.label if outcome else gone(body.outcome) if check else body.outcome
    if body.outcome == INCONCLUSIVE:
        asked = check is not None and check.who == "customer"
        label = "Not known" if asked else _unsettled(body.reading)
    if body.showed:
        says = [machine.complaints[n].record.says for n in body.showed if n in machine.complaints]
        label = f"{label}: {'; '.join(map(lower_first, says))}"
    if body.reading:
        reading, shown = body.reading, reading_shown(body.reading, system)
        edge = ", borderline: repeat" if reading.borderline else ""
        if reading.at is not None:
            shown += f" at {amount_in(reading.at, reading.at_unit, system)}"
        window = f"{expected_shown(reading, system)}, {reading.grade}"
        label = f"{shown}, {label.lower()} ({window}){edge}"
    if body.step:
        label = f"{label}; {_step_words(machine, body)}"
    if body.old_part_of:
        label = f"{label}; the old part, after it was changed"
    return _check(machine, body.check), with_note(label, body.note)


def _unsettled(reading: Reading | None) -> str:
    """Return what is said of a reading that settles nothing; of volts also what they are."""
    if reading is None or reading.unit != "volt" or reading.amount is None:
        return "Settles nothing"
    said = volts_said(reading.amount, reading.low, reading.high)
    return f"{said}; settles nothing" if said else "Settles nothing"


def _step_words(machine: MachineType, body: Checked) -> str:
    name = machine.service[body.step].name if body.step in machine.service else gone(body.step)
    took = f", {body.seconds:.0f} s" if body.seconds is not None else ""
    return f"service step {lower_first(name)}{took}"


def marked(machine: MachineType, body: Marked) -> Told:
    """Tell what was seen or heard at a place, when, and how fresh it was."""
    part = machine.components[body.at].name if body.at in machine.components else gone(body.at)
    when = "" if body.phase == "any" else f", in the phase {body.phase}"
    if body.what == "noise":
        return f"Heard: a noise at the {part}", with_note(f"heard{when}", body.note)
    what = "rub marks" if body.what == "rub" else body.what
    return f"Seen: {what} at the {part}", with_note(AGE_WORDS[body.age] + when, body.note)


def sighted(machine: MachineType, body: Sighted) -> Told:
    """Tell which fault lies before the eyes."""
    fault = machine.faults.get(body.fault)
    if fault is None:
        return f"Seen: {gone(body.fault)}", body.note
    return f"Seen: {machine.component_of(body.fault).name}, {fault.name}", body.note


AGE_WORDS = {"live": "live", "old": "an old trail", "unsure": "live or old, not known"}


def set_aside(machine: MachineType, body: SetAside) -> Told:
    """Tell of a check set aside, and why."""
    why = ASIDE_WORDS[body.why]
    return _check(machine, body.check), why + (f": {body.reason}" if body.reason else "")


ASIDE_WORDS = {
    "not_now": "not now",
    "tool_missing": "cannot be done: tool missing",
    "not_allowed": "cannot be done: not allowed",
    "too_dangerous": "cannot be done: too dangerous",
    "no_access": "cannot be done: no access",
    "other": "cannot be done",
}


def decided(machine: MachineType, body: Decided) -> Told:
    """Tell what was decided, with the quote of a repair."""
    words = decided_words(machine, body)
    if body.choice == "repair":
        quote = f"quote {body.total:.2f} {body.currency}"
        return f"Decided: {words}", " · ".join(filter(None, (quote, body.reason)))
    return f"Decided: {words}", body.reason


def decided_words(machine: MachineType, body: Decided) -> str:
    """Return what was decided, as said inside a sentence."""
    known = [machine.repairs[name].name for name in body.repairs if name in machine.repairs]
    return " and ".join(map(lower_first, known)) or CHOICE_WORDS[body.choice]


CHOICE_WORDS = {
    "repair": "a repair the library no longer knows",
    "refer": "hand it to another firm",
    "replace": "replace the machine",
    "nothing_wrong": "nothing wrong with the machine",
}


def repaired(machine: MachineType, body: Repaired) -> Told:
    """Tell what was put right, with the number of the part."""
    compared = "another number, compared with the old one" if body.compared else ""
    detail = " · ".join(word for word in (body.part_number, compared, body.note) if word)
    return repair_name(machine, body.repair), detail or "done"


def recheck(machine: MachineType, body: Recheck) -> Told:
    """Tell when a cure is looked at again."""
    why = "a temporary cure" if body.why == "temporary" else "a cure nobody can explain"
    name = lower_first(repair_name(machine, body.repair))
    return f"Look again on {body.on:%a %d %b}: {name}", with_note(why, body.note)


def substituted(machine: MachineType, body: Substituted) -> Told:
    """Tell which stock parts go in for the maker's, and what was measured for it."""
    known = machine.components.get(body.component)
    name = known.name if known else gone(body.component)
    here = f", here on {body.on:%a %d %b}" if body.on else ", on the shelf"
    told = f"{' + '.join(body.parts)}{here}; measured: {body.seat}"
    return f"Stock parts for the {name}", with_note(told, body.note)


def seating_measured(_machine: MachineType, body: SeatingMeasured) -> Told:
    """Tell how a part sits, by its points."""
    points = ", ".join(f"{point:g}" for point in body.points_mm)
    told = (
        f"{points} mm: {body.verdict} ({body.low:g} to {body.high:g} mm, tilt {body.tilt_mm:.2g})"
    )
    return f"Measured: {lower_first(body.what)}", with_note(told, body.note)


def again_words(wait: Again) -> str:
    """Say why a cure that nobody can explain is looked at again then."""
    runs = f"{wait.runs} runs" if wait.runs > 1 else "one run"
    days = f"{wait.days} days" if wait.days > 1 else "a day"
    return f"What is still there would most likely show itself within {runs}: {days} of washing."


def proved(machine: MachineType, body: Proved) -> Told:
    """Tell how a proof went."""
    still = [machine.complaints[n].record.says for n in body.still if n in machine.complaints]
    named = f": {'; '.join(map(lower_first, still))}" if still else ""
    went = "well" if body.went == "well" else f"badly{named}"
    value = "".join(f", {words}" for words in electrical(body))
    phase = machine.calibration.phase(body.stalled)
    where = f", stalled where it {phase.name}" if phase else ""
    took = f" in {body.seconds / 60:.0f} min" if body.seconds else ""
    took += f", {body.programme}" if body.programme else ""
    took += f", watched to the phase {body.watched_to}" if body.watched_to else ""
    without = ", no instrument at hand" if body.no_instrument else ""
    return PROOF_NAMES[body.proof], with_note(went + where + took + value + without, body.note)


def proof_begun(_machine: MachineType, body: ProofBegun) -> Told:
    """Tell that the clock of a proof runs."""
    return PROOF_NAMES[body.proof], "its clock runs"


def electrical(body: Proved) -> list[str]:
    """Return what an electrical check measured, with what it was held against."""
    found, held = [], body.limits
    earth, insulation, leakage = "", "", ""
    if held:
        earth, insulation = f"at most {held.earth_ohm:g}", f"at least {held.insulation_mohm:g}"
        leakage = f"at most {held.leakage_ma:g}"
    for name, value, unit, limit in (
        ("earth", body.earth_ohm, "ohm", earth),
        ("insulation", body.insulation_mohm, "megohm", insulation),
        ("leakage", body.leakage_ma, "milliampere", leakage),
    ):
        if value is not None:
            found.append(f"{name} {value:g} {unit}" + (f" ({limit})" if limit else ""))
    if body.polarity:
        found.append(f"polarity {body.polarity}")
    if held and found:
        found.append(f"limits: {held.name}")
    return found


def cause_closed(machine: MachineType, body: CauseClosed) -> Told:
    """Tell what made a part fail."""
    fault = machine.faults.get(body.fault)
    return f"What made it fail: {fault.name if fault else body.fault}", body.answer


def waived(machine: MachineType, body: Waived) -> Told:
    """Tell what was waived, and the written reason."""
    return f"Waived: {_waived_name(machine, body)}", body.reason


def waiting(_machine: MachineType, body: Waiting) -> Told:
    """Tell what the job waits for."""
    until = f" until {body.until:%a %d %b}" if body.until else ""
    what = "Waits for nothing" if body.on == "nothing" else f"Waits for the {body.on}{until}"
    return what, body.note


def temporary(_machine: MachineType, body: Temporary) -> Told:
    """Tell of something temporary made or undone."""
    if body.undone:
        return f"Undone: {body.what}", ""
    if body.interlock:
        told = "a lock or switch defeated; undone and tested before hand-over"
        return f"Temporary: {body.what}", with_note(told, body.reason)
    return f"Temporary: {body.what}", "to be undone before hand-over"


def identified(_machine: MachineType, body: Identified) -> Told:
    """Tell which washer it is."""
    serial = f"serial {body.serial}" if body.serial else ""
    return "This washer is", ", ".join(word for word in (body.label, serial) if word)


def noted(_machine: MachineType, body: Noted) -> Told:
    """Tell a note."""
    return "Note", body.text


def rebased(_machine: MachineType, body: Rebased) -> Told:
    """Tell of another revision of the sheet."""
    return "Newer sheet", f"diagnosed with revision {body.revision} from here on"


def handed_over(_machine: MachineType, body: HandedOver) -> Told:
    """Tell of the hand-over, with the advice given."""
    return "Handed over", body.advice


def withdrawn(_machine: MachineType, body: Withdrawn) -> Told:
    """Tell of a withdrawal."""
    return "Withdrawn", body.reason


def repair_name(machine: MachineType, repair: str) -> str:
    """Return the name of a repair, or its id with the word that the library has lost it."""
    return machine.repairs[repair].name if repair in machine.repairs else gone(repair)


def code_words(machine: MachineType, code: str) -> str:
    """Return a code with what it stands for, where the library knows it."""
    known = machine.code(code)
    if known is None:
        return gone(code)
    return f"{known.id} {known.record.name}" if known.id in machine.codes else known.record.name


def gone(name: str) -> str:
    """Return what the log names and the library no longer knows; it is shown and weighs nothing."""
    return f"{name} (no longer in the library)"


def with_note(text: str, note: str) -> str:
    """Return a text with its note behind it, if there is one."""
    return f"{text} · {note}" if note else text


def _waived_name(machine: MachineType, body: Waived) -> str:
    subject = body.subject
    match body.owed:
        case "proof":
            return next((w.lower() for name, w in PROOF_NAMES.items() if name == subject), subject)
        case "check" if subject in machine.checks:
            return machine.checks[subject].name.lower()
        case "tray" if subject in machine.operations:
            return f"what is left over of “{machine.operations[subject].name}”"
        case "recheck" if subject in machine.repairs:
            return f"a day to look again, {lower_first(machine.repairs[subject].name)}"
        case "follow" if subject in machine.faults:
            return f"{machine.component_of(subject).name}, {machine.faults[subject].name}"
        case "cause" if subject in machine.faults:
            return f"what made it fail, {machine.faults[subject].name}"
        case "clear":
            return "clearing the stored codes"
        case "station":
            return next((w.lower() for name, w in STATIONS.items() if name == subject), subject)
        case _:
            return subject


def _check(machine: MachineType, check: str) -> str:
    return machine.checks[check].name if check in machine.checks else gone(check)


def _operation(machine: MachineType, operation: str) -> str:
    return (
        machine.operations[operation].name if operation in machine.operations else gone(operation)
    )
