"""Ways that making safe knows, those that are this machine's: to get the water out, to lay it down,
to open what is locked; and how far a test on it goes while it is live."""

from dataclasses import dataclass

from bottega.core.library.make_safe_record import Emptying, Laying, LiveLimits, Unlocking
from bottega.core.library.records import ServiceStep
from bottega.web.station.sheet import Desk


@dataclass(frozen=True)
class Ways:
    """Ways compared: ``emptying``, the quickest first, empty once the water is out; ``laying``, the
    usual first, empty where nothing wants it; ``unlocking`` in the order they are tried, empty
    while it stands open; ``never`` is what is not done to what is locked."""

    emptying: list[Emptying]
    laying: list[Laying]
    unlocking: list[Unlocking]
    never: str


@dataclass(frozen=True)
class LiveReach:
    """How far a test on a live machine goes: how full it may be, when anything is stopped, and what
    its service mode does, the longest first."""

    limits: LiveLimits
    fullest: str
    stop: str
    longest: list[ServiceStep]


def ways_of(desk: Desk, lays: bool) -> Ways:
    """Return the ways of a job's machine as it stands; ``lays`` says whether it is to be laid
    down."""
    known, state = desk.workshop.shelf.tables.make_safe, desk.answer.job.state
    parts = desk.answer.machine.components
    emptying = [one for one in known.emptying.values() if one.part in (None, *parts)]
    unlocking = [one for one in known.unlocking.values() if set(one.locks) & set(parts)]
    return Ways(
        sorted(emptying, key=lambda one: one.minutes) if state.water != "out" else [],
        known.laid(desk.answer.machine.laid) if lays else [],
        unlocking if state.door != "open" else [],
        known.never,
    )


def live_of(desk: Desk) -> LiveReach | None:
    """Return how far a test goes on a machine that is plugged in; None while it is not."""
    if desk.answer.job.state.power == "off":
        return None
    limits, machine = desk.workshop.shelf.tables.make_safe.live, desk.answer.machine
    fullest = (words for part, words in limits.fullest.items() if part in machine.components)
    steps = sorted(machine.service.values(), key=lambda one: -one.timeout_s)
    stop = ServiceStep.model_fields["stop"].default
    return LiveReach(limits, next(fullest, ""), stop, steps)
