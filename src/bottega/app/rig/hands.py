"""What hands do at a machine of physics: open it, look, and lay two leads on it."""

from dataclasses import dataclass, replace

from bottega.app.errors import BadValue, Refused
from bottega.app.rig.in_hand import one_act, refuse_in_hand
from bottega.app.rig.law import (
    declarable,
    in_short,
    refuse,
    state_of,
    way_to_check,
    way_to_work,
)
from bottega.app.rig.probe import between
from bottega.app.rig.stand import Stand
from bottega.app.workshop import Workshop
from bottega.core.library.machine_type import Check, MachineType
from bottega.core.library.records import Needs
from bottega.core.wording import sentence
from bottega.rig.asking import CannotAsk, CheckTold, NotReached
from bottega.rig.circuit import NoSuchPoint, points_of


@dataclass(frozen=True)
class MeterFunction:
    """What the meter on the rig's page can be set to: its name, the quantity, how it is shown."""

    name: str
    quantity: str
    shown: str


FUNCTIONS = {
    "ohm": MeterFunction("Resistance", "resistance", "{:.4g} Ω"),
    "megohm": MeterFunction("Insulation", "insulation", "{:.3g} MΩ"),
    "volt": MeterFunction("Volts of the mains", "ac_volts", "{:.0f} V"),
}
OWNERS = {
    "pump": ("drain_pump",),
    "cold": ("inlet_valve",),
    "hot": ("inlet_valve",),
    "lock": ("door_lock", "lid_lock"),
    "element": ("element",),
    "motor": ("motor", "stator"),
    "shifter": ("shifter_motor",),
    "fan": ("fan",),
    "drying": ("drying_heater",),
    "condenser": ("condenser_valve",),
    "timer": ("timer",),
    "ntc": ("thermistor",),
    "tacho": ("tacho",),
    "filter": ("mains_filter", "timer"),
    "board": ("board", "timer"),
    "fed": ("board", "timer"),
    "heat": ("board", "timer"),
    "drive": ("board", "timer"),
    "start": ("motor",),
    "inverter": ("inverter",),
    "stator": ("stator",),
}
"""By the first word of a test point, the component whose plug has to be come at."""
FREE = frozenset({"socket", "plug", "fuse", "earth"})
"""First words of the test points that stand free."""
BUCKET_S = 15.0


@dataclass(frozen=True)
class Doable:
    """A check as it stands at this machine: how many steps have to be done first, and what they are
    in short; nothing where it can be done. ``live`` where all that is left is to plug it in for a
    live test of this check."""

    check: Check
    steps: int
    first: str
    live: bool


def doable(at: Stand) -> list[Doable]:
    """Return the checks a machine can answer, each with what has to be done before."""
    found = []
    for check in at.machine_type.checks.values():
        if check.on_rig is None or check.on_rig.act == "social" or check.watches:
            continue
        first = way_to_check(at, check)
        live = len(first) == 1 and declarable(at, check)
        found.append(Doable(check, len(first), in_short(first), live))
    return found


def take_off(workshop: Workshop, name: str, operation: str, seen: int) -> Stand:
    """Take one thing off, or put it back where it is off. Raises Refused for what is in its way,
    Stale, BadValue."""
    with one_act(workshop, name, seen) as found:
        refuse_in_hand(found, "open")
        operations = found.machine_type.operations
        if operation not in operations:
            raise BadValue(
                f"Found the operation '{operation[:40]}', expected one of this machine's.",
                "operation",
            )
        first, off = way_to_work(found, operation), found.hands.off
        if first:
            raise Refused(f"First: {in_short(first)}.", "operation")
        refuse(found, "off", operation)
        if operation in off:
            found.hands = replace(found.hands, off=tuple(o for o in off if o != operation))
            found.say(f"Back on: {operations[operation].name}")
        else:
            found.hands = replace(found.hands, off=(*off, operation))
            found.say(operations[operation].name)
    return found


def perform(workshop: Workshop, name: str, check_id: str, seen: int) -> Stand:
    """Do a check at the machine and say what it tells. Raises Refused where something is in the
    way, BadValue."""
    with one_act(workshop, name, seen) as found:
        check = found.machine_type.checks.get(check_id)
        if check is None:
            raise BadValue(
                f"Found the check '{check_id[:40]}', expected one of this machine's.", "check"
            )
        first = way_to_check(found, check)
        if first:
            raise Refused(f"That cannot be done yet. First: {in_short(first)}.", "check")
        refuse(found, "check", check_id)
        told = told_of(found, check, str(found.acts))
        found.say(f"{check.name}: {words_of(found.machine_type, check, told)}")
    return found


def told_of(at: Stand, check: Check, occasion: str) -> CheckTold:
    """Return what a check tells at a machine. Raises Refused where it cannot be done or nothing
    is to be seen."""
    try:
        return at.bench.perform(check, occasion)
    except CannotAsk as error:
        raise Refused("Only people remember that; no machine answers it.", "check") from error
    except NotReached as error:
        way = IN_THE_WAY.get(error.stopped, "the machine does not come to it")
        raise Refused(f"It cannot be seen: {way}.", "check") from error


IN_THE_WAY = {
    "dead": "the machine is dead, not a lamp is on",
    "start": "it does not start",
    "fill": "it stops while it fills",
    "wash": "it stops in the wash",
    "drain": "it stops before the spin, with water in it",
    "spin": "it stops in the spin",
}


def words_of(machine: MachineType, check: Check, told: CheckTold) -> str:
    """Return what was told in the check's own words, or as the meter shows it."""
    if told.measured:
        return "OL" if told.amount is None else f"{told.amount:.4g}"
    return machine.answer_for(check, told.state).label


def points(at: Stand) -> list[str]:
    """Return the test points that can be come at as it stands."""
    found = []
    for point in points_of(at.machine_type.wiring):
        ways = _ways_to(at, point)
        if ways is None or any(_stands_open(at, needs) for needs in ways):
            found.append(point)
    return found


def _stands_open(at: Stand, needs: Needs) -> bool:
    """Return whether all that has to be off is off, and the machine stands or lies as it has to."""
    known, off = at.machine_type.operations, at.hands.off
    lies_so = needs.posture in (None, state_of(at).posture)
    return lies_so and all(name in off for name in needs.off if name in known)


def _ways_to(at: Stand, point: str) -> list[Needs] | None:
    """Return what coming at a test point wants, one for each of its owners that the machine has;
    None where it stands free."""
    part = point.split(".")[0]
    if part in FREE:
        return None
    touching = (way for way in at.machine_type.wiring.values() if point in way.between)
    owners = OWNERS.get(part) or {owner for way in touching for owner in way.of}
    there = [at.machine_type.components.get(owner) for owner in owners]
    return [one.plug or one.reach for one in there if one is not None]


def _charged(at: Stand, point: str) -> bool:
    """Return whether a charge has to be gone before a test point is touched."""
    return any(needs.charge for needs in _ways_to(at, point) or ())


def meter(
    workshop: Workshop, name: str, first: str, second: str, *, function: str, seen: int
) -> Stand:
    """Lay the meter's leads on two points and say what it shows. Raises Refused for a point that
    is behind something, BadValue for one there is not."""
    with one_act(workshop, name, seen) as found:
        _refuse_points(found, first, second)
        if function not in FUNCTIONS:
            raise BadValue(
                f"Found '{function[:20]}', expected one of {', '.join(FUNCTIONS)}.", "function"
            )
        found.leads = (first, second)
        workshop.probed = name
        shown = _read(found, first, second, function)
        found.say(f"{FUNCTIONS[function].name} {first} to {second}: {shown}")
    return found


def _refuse_points(at: Stand, first: str, second: str) -> None:
    reach = points(at)
    for point, place in ((first, "first"), (second, "second")):
        if point not in points_of(at.machine_type.wiring):
            raise BadValue(
                f"Found the test point '{point[:30]}', expected one of this machine's.", place
            )
        if point not in reach:
            raise Refused(f"{point} cannot be come at: something is in front of it.", place)
    if _charged(at, first) or _charged(at, second):
        refuse(at, "touch", "")


def _read(at: Stand, first: str, second: str, function: str) -> str:
    quantity = FUNCTIONS[function].quantity
    if quantity != "ac_volts" and at.live:
        return "the machine is live: the meter shows nothing of use, pull the plug"
    try:
        amount = between(at, first, second, quantity)
    except NoSuchPoint as error:
        raise BadValue(sentence(error), "first") from error
    if amount is None:
        return "OL"
    return FUNCTIONS[function].shown.format(amount)


def bucket(workshop: Workshop, name: str, seen: int) -> Stand:
    """Collect water from the fill hose for a quarter of a minute and say how much came. Raises
    Stale."""
    with one_act(workshop, name, seen) as found:
        quantities = found.bench.still(found.machine.acting)
        litres = quantities["tap_l_min"] / 60 * BUCKET_S
        found.say(f"{litres:.1f} litres in the bucket after {BUCKET_S:.0f} seconds")
    return found
