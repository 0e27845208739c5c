"""The leads of a meter laid on a machine of physics: what they touch now, for a meter at their
other end."""

from bottega.app.errors import BadValue, Refused
from bottega.app.rig.hands import points
from bottega.app.rig.in_hand import stand_at
from bottega.app.rig.law import in_short, way_to_leads
from bottega.app.rig.probe import between
from bottega.app.rig.stand import Stand
from bottega.app.workshop import Workshop
from bottega.core.library.machine_type import Check
from bottega.core.library.shelf import UnknownMachine
from bottega.rig.asking import NotReached
from bottega.rig.circuit import NoSuchPoint


def lay_for(workshop: Workshop, name: str, check_id: str) -> Stand:
    """Lay the leads where a check wants them, as the machine stands. Raises Refused for what is in
    the way, BadValue."""
    at = stand_at(workshop, name)
    check = at.machine_type.checks.get(check_id)
    if check is None or check.measure is None or check.on_rig is None or not check.on_rig.points:
        raise BadValue(
            f"Found the check '{check_id[:40]}', expected one that is measured.", "check"
        )
    first = way_to_leads(at, check)
    if first:
        raise Refused(f"It cannot be come at yet. First: {in_short(first)}.", "check")
    with at.lock:
        at.leads = (check_id,)
    workshop.probed = name
    return at


def lay_on(workshop: Workshop, name: str, first: str, second: str) -> Stand:
    """Lay the leads on two test points. Raises Refused for one behind something, BadValue."""
    at = stand_at(workshop, name)
    reach = points(at)
    for point, place in ((first, "first"), (second, "second")):
        if point not in reach:
            raise Refused(f"{point[:30]} cannot be come at as it stands.", place)
    with at.lock:
        at.leads = (first, second)
    workshop.probed = name
    return at


def lift(workshop: Workshop, name: str) -> Stand:
    """Take the leads off."""
    at = stand_at(workshop, name)
    with at.lock:
        at.leads = ()
    return at


def touched(workshop: Workshop, name: str, quantity: str) -> float | None:
    """Return what the leads touch of a quantity, in its unit; None where they touch nothing or the
    circuit is open."""
    at = stand_at(workshop, name)
    with at.lock:
        if len(at.leads) == 1:
            return _by_check(at, at.machine_type.checks[at.leads[0]], quantity)
        if not at.leads:
            return None
        first, second = at.leads
        try:
            return between(at, first, second, quantity)
        except NoSuchPoint:
            return None


def touched_last(workshop: Workshop, quantity: str) -> float | None:
    """Return the same at the machine leads were laid on last; None where that was nowhere."""
    if not workshop.probed:
        return None
    try:
        return touched(workshop, workshop.probed, quantity)
    except (UnknownMachine, Refused):
        return None


def _by_check(at: Stand, check: Check, quantity: str) -> float | None:
    if check.measure is None or check.on_rig is None or check.measure.quantity != quantity:
        return None
    try:
        amount = at.bench.amount(check.on_rig, "probe", quantity)
    except (NotReached, NoSuchPoint):
        return 0.0 if quantity in ("ac_volts", "dc_volts", "current") else None
    return None if amount is None else amount * check.on_rig.factor
