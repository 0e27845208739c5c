"""How a machine on the rig stands, and whether what a hand is about to do to it breaks the table of
what may never be together."""

from collections.abc import Iterator, Sequence
from dataclasses import replace
from functools import lru_cache

from bottega.app.errors import BadValue, Refused
from bottega.app.rig.stand import Stand
from bottega.core.library.machine_type import Check
from bottega.core.library.records import Needs
from bottega.core.machine.cautions import left_v
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
from bottega.core.machine.invariants import Broken, Standing, standing
from bottega.core.machine.service import acts_of
from bottega.core.machine.state import MachineState
from bottega.core.machine.words import put_back_words

MOST_SPILT_L = 1.0
"""Water that may stay in what is tipped, in litre; chosen, the sump keeps as much."""
SAID = 3
"""Steps of a way that are said by name; chosen, a line on a phone."""
TURNED = ("drum", "plate", "rotor")
"""What bare hands turn, by the name the form sends."""


def state_of(at: Stand) -> MachineState:
    """Return how a machine stands: its plug, taps, water and door as they are, the rest as hands
    left it."""
    return replace(
        at.hands,
        power="on" if at.machine.plugged else "off",
        taps="open" if at.machine.tap_open else "shut",
        water="in" if at.machine.warmth.free_l > MOST_SPILT_L else "out",
        door="shut" if at.front.shut else "open",
    )


def refuse(at: Stand, what: str, value: str, for_check: str = "") -> None:
    """Raise Refused where a hand's act may not be, with the reason and the way out; ``for_check``
    is the check that plugging in is declared for as a live test."""
    found = held(at, what, value, for_check)
    if found is not None:
        raise Refused(str(found), "value")


def held(at: Stand, what: str, value: str, for_check: str = "") -> Broken | None:
    """Return what holds a hand's act back, None where it may be done."""
    state = state_of(at)
    before = standing(at.machine_type, state)
    deeds = _deeds(at, state, before, what, value=value, for_check=for_check)
    return forbidden(at.tables.invariants.rows, before, deeds)


def declarable(at: Stand, check: Check) -> bool:
    """Return whether plugging in is refused as the machine stands, but not as the live test of this
    check."""
    return held(at, "plug", "in") is not None and held(at, "plug", "in", check.id) is None


def way_to(at: Stand, needs: Needs) -> tuple[str, ...]:
    """Return by name what has to be done before something with these needs, in order. Nobody loads
    a drum on the rig, so that is left out."""
    wanted = _some_of(needs, needs.off, _STANDING)
    return tuple(step.name for step in at.ways.reach(state_of(at), wanted).steps)


def way_to_check(at: Stand, check: Check) -> tuple[str, ...]:
    """Return the same before a check; what a customer remembers needs nothing."""
    return () if check.who == "customer" else way_to(at, check.needs)


def way_to_leads(at: Stand, check: Check) -> tuple[str, ...]:
    """Return the same before leads are laid for a check: for a live one they are on before it is
    plugged in."""
    needs = check.needs
    return way_to(at, _some_of(needs, needs.off, ("posture",)) if needs.power == "on" else needs)


def way_to_work(at: Stand, operation: str) -> tuple[str, ...]:
    """Return the same before something is taken off, or put back where it is off."""
    known, off = at.machine_type.operations, at.hands.off
    record = known[operation]
    if operation not in off:
        return way_to(at, _some_of(record.needs, (*record.needs.off, *record.after), _STANDING))
    holding = (put_back_words(known[name].name) for name in off if operation in known[name].after)
    return (*way_to(at, _some_of(record.needs, (), _STANDING)), *holding)


_STANDING = ("power", "taps", "water", "charge", "door", "posture")


@lru_cache(maxsize=1024)
def _some_of(needs: Needs, off: tuple[str, ...], fields: tuple[str, ...]) -> Needs:
    """Return of needs these fields, with ``off`` in place of what has to be off; the same object
    each time, since ways are remembered by it."""
    return Needs(off=off, **{field: getattr(needs, field) for field in fields})


def in_short(steps: Sequence[str]) -> str:
    """Return a way in words: its first steps, and how many come after them."""
    more = len(steps) - SAID
    if more < 2:
        return ", ".join(steps)
    return f"{', '.join(steps[:SAID])}, and {more} more steps"


def measured_charge(at: Stand) -> float:
    """Return the volts left where this machine stores a charge. Raises Refused with the plug in and
    before it was waited for, BadValue where the machine stores none."""
    stored = at.machine_type.charge
    if stored is None:
        raise BadValue("This machine stores no charge.", "what")
    if at.machine.plugged:
        raise Refused("The plug is in. Pull it, then wait.", "value")
    minutes = (at.machine.now.seconds - at.unplugged_s) / 60
    if minutes < stored.wait_minutes:
        raise Refused(
            f"{minutes:.0f} min have passed since the plug came out, expected "
            f"{stored.wait_minutes:g} before {stored.where} is measured.",
            "value",
        )
    return left_v(stored, at.tables.invariants.touch_below_v, minutes)


def _deeds(
    at: Stand, state: MachineState, before: Standing, what: str, *, value: str, for_check: str
) -> Iterator[Deed]:
    machine = at.machine_type
    match what, value:
        case "plug", "in":
            after = state.changed("power", "on", machine.charge is not None, for_check)
            yield to_change(machine, after, before, may_declare(machine, state, for_check))
        case "taps", "open":
            yield to_change(machine, replace(state, taps="open"), before, False)
        case "pour", _:
            yield to_change(machine, replace(state, water="in"), before, False)
        case "tip", _:
            turned = "upright" if state.posture == "tipped" else "tipped"
            yield to_change(machine, replace(state, posture=turned), before, False)
        case "key", "open door" if not at.machine.now.locked:
            yield to_change(machine, replace(state, door="open"), before, False)
        case "start", _ if at.machine.plugged:
            yield from _run(at, state, before, value)
        case "touch", _:
            yield Deed(replace(before, doing="touch"))
        case "panel", _:
            yield Deed(replace(before, doing="panel"))
        case "feel", _ if value in TURNED:
            yield Deed(replace(before, doing="turn_by_hand"))
        case "off", _:
            yield to_work(machine, state, value, value not in state.off, before=before)
        case "check", _:
            check = machine.checks[value]
            yield from to_check(machine, check, before, covers(machine, state, check), acts=())


def _run(at: Stand, state: MachineState, before: Standing, name: str) -> Iterator[Deed]:
    """Yield the deeds of a programme, or of a service step as the check it answers."""
    machine = at.machine_type
    step = next((one for one in machine.service.values() if one.runs == name), None)
    if step is None:
        yield to_run(before, False)
        return
    check = machine.checks[step.answers]
    yield from to_check(machine, check, before, covers(machine, state, check), acts=acts_of(step))
