"""A machine of physics one stands in front of: it runs by the clock on the wall, and keeps what
was done to it."""

from collections import deque
from dataclasses import dataclass, field
from datetime import datetime
from random import Random
from threading import RLock
from uuid import uuid4

from bottega.app.errors import BadValue, NotFound, Refused, Stale
from bottega.app.rig.service import Front, acts_at, by_the_book, way_in
from bottega.app.workshop import Workshop
from bottega.core.library.machine_type import MachineType
from bottega.core.library.shelf import UnknownMachine
from bottega.core.machine.state import MachineState
from bottega.rig.asking import Bench
from bottega.rig.faults import FaultError, injectable
from bottega.rig.machine import Machine
from bottega.rig.programmes import programmes_of, steps_of
from bottega.rig.specimen import Specimen
from bottega.rig.telemetry import Sample, sample
from bottega.store.rigs import RigTicket

RATES = (1, 10, 60)
"""How fast its time may go."""
MOST_AT_ONCE_S = 120.0
"""How much of its time goes by at most while nobody asked; chosen, so that a page left open
overnight does not come back to days of washing."""
KEPT = 400
"""Samples of telemetry that are kept, one a second of its time; chosen, near seven minutes at
the pace of a hand."""
MOST_SPILT_L = 1.0
"""Water that may stay in what is tipped, in litre; chosen, the sump keeps as much."""
STANDS_KEPT = 24
"""Machines kept in their present state; chosen, a shop trains fewer at once. The others begin
anew."""

NOT_IN_SERVICE = "It is not in its service mode. Enter it by the keys, as its sheet says."
MOVED = "Somebody else did something to this machine since. Look at it again, then act."


@dataclass
class Stand:
    """One machine with its present state, and what its people saw last, newest first."""

    ticket: RigTicket
    machine_type: MachineType
    specimen: Specimen
    wall: datetime
    machine: Machine = field(init=False)
    bench: Bench = field(init=False)
    hands: MachineState = field(default_factory=lambda: MachineState(water="out"))
    rate: int = 1
    acts: int = 0
    """Counts what was done to it, so that two people do not act over each other."""
    told: deque[str] = field(default_factory=lambda: deque(maxlen=12))
    trace: deque[Sample] = field(default_factory=lambda: deque(maxlen=KEPT))
    running: str = ""
    front: Front = field(init=False)
    asked_panel: bool = False
    """Whether its memory was asked, so that the panel shows it."""
    shown_code: int = 0
    lock: RLock = field(default_factory=RLock)

    def __post_init__(self) -> None:
        self.bench = Bench(self.specimen, self.ticket.seed)
        self.front = Front(way_in(self.machine_type.panel))
        self.machine = Machine(self.specimen, self.specimen.acting("stand:0"))
        self.machine.telemetry = self._note

    def _note(self, machine: Machine) -> None:
        if machine.now.seconds % 1.0 == 0:
            self.trace.append(sample(machine))

    def without(self, faults: frozenset[str]) -> None:
        """Put faults right, those it was drawn with alone; how it stands does not change."""
        left = Specimen(self.machine_type, self.ticket.seed, self.ticket.faults).without(faults)
        if left.faults == self.specimen.faults:
            return
        self.specimen = self.machine.specimen = left
        self.bench = Bench(left, self.ticket.seed)
        self.machine.let_act(left.acting(f"stand:{self.acts}"))

    def catch_up(self, now: datetime) -> None:
        """Let as much of its time go by as the clock on the wall says, at its pace."""
        passed = (now - self.wall).total_seconds() * self.rate
        self.wall = now
        if passed > 0:
            self.machine.wait(min(passed, MOST_AT_ONCE_S))
        if self.running and self.machine.board.done:
            ended = self.machine.board.stopped
            self.say(f"{self.running} stopped" if ended else f"{self.running} came to its end")
            self.running = ""

    def keys_work(self) -> bool:
        """Let a moment pass, and return whether the machine has current and its panel listens to a
        hand."""
        self.machine.step()
        return self.machine.alive and self.machine.v["keys_dead"] < 0.5

    @property
    def serves(self) -> bool:
        """Return whether it does service steps and shows its memory: once its service mode is
        entered, or where its sheet does not say by which keys."""
        return self.front.in_service or not self.front.led

    def say(self, words: str) -> None:
        """Put what was seen on top of the list."""
        self.told.appendleft(f"{clock(self.machine.now.seconds)}  {words}.")


def clock(seconds: float) -> str:
    """Return its time as minutes and seconds."""
    return f"{int(seconds) // 60}:{int(seconds) % 60:02d}"


def draw(workshop: Workshop, machine: str, author_seed: str = "") -> RigTicket:
    """Draw a machine of a sheet or kind with one fault nobody is told, and keep its ticket.
    Raises BadValue for a type there is not."""
    shelf = workshop.shelf
    try:
        sheet = machine if machine in shelf.sheets else None
        kind = (
            shelf.machine(shelf.sheet(machine).archetype, machine)
            if sheet
            else shelf.machine(machine)
        )
    except UnknownMachine as error:
        raise BadValue(f"Which machine is it? {str(error).capitalize()}.", "machine") from error
    name = uuid4().hex[:8]
    seed = author_seed or name
    rng = Random(f"draw:{seed}")
    fault = rng.choices(
        injectable(kind.faults), [kind.faults[f].rate for f in injectable(kind.faults)]
    )[0]
    ticket = RigTicket(name, kind.archetype, sheet, seed, {fault: round(rng.random(), 3)})
    workshop.rigs.keep(ticket)
    return ticket


def stand(workshop: Workshop, name: str) -> Stand:
    """Return the machine of that name as it stands, its time caught up. Raises NotFound."""
    ticket = workshop.rigs.ticket(name)
    if ticket is None:
        raise NotFound(f"Found no machine '{name}' on the rig, expected one that was drawn.")
    found = workshop.stands.get(name)
    if not isinstance(found, Stand) or found.ticket != ticket:
        found = _set_up(workshop, ticket)
        while len(workshop.stands) >= STANDS_KEPT:
            workshop.stands.pop(next(iter(workshop.stands)))
        workshop.stands[name] = found
    with found.lock:
        found.catch_up(workshop.now())
    return found


def _set_up(workshop: Workshop, ticket: RigTicket) -> Stand:
    try:
        kind = workshop.shelf.machine(ticket.archetype, ticket.sheet)
        specimen = Specimen(kind, ticket.seed, ticket.faults)
    except (UnknownMachine, FaultError) as error:
        raise NotFound(
            f"The machine '{ticket.name}' cannot be set up any more: {error}."
        ) from error
    return Stand(ticket, kind, specimen, workshop.now())


def act(workshop: Workshop, name: str, what: str, value: str, seen: int) -> Stand:
    """Do one thing to a machine. Raises Stale where somebody else did something since, BadValue
    for what cannot be done."""
    found = stand(workshop, name)
    with found.lock:
        if seen != found.acts:
            raise Stale(MOVED)
        ACTS.get(what, _unknown)(found, value)
        found.acts += 1
    return found


def _unknown(at: Stand, value: str) -> None:
    raise BadValue(
        f"Found an act the rig does not know, expected one of {', '.join(ACTS)}.", "what"
    )


def _plug(at: Stand, value: str) -> None:
    if value == "in":
        _standing(at)
    at.machine.plugged = value == "in"
    at.machine.now.tripped = False
    at.hands = at.hands.changed(
        "power", "on" if at.machine.plugged else "off", at.machine_type.charge is not None
    )
    if not at.machine.plugged:
        at.machine.board.done = True
        at.machine.asks.nothing()
        at.running, at.asked_panel = "", False
    at.front.do(f"plug {value}", at.machine.now.seconds, works=True)
    filled = at.machine.now.in_l_min > 0
    at.machine.step()
    at.say(f"The plug is {'in' if at.machine.plugged else 'out'}")
    if filled and not at.machine.plugged:
        at.say("Water runs on" if at.machine.now.in_l_min > 0.05 else "The water stops at once")


def _taps(at: Stand, value: str) -> None:
    at.machine.tap_open = value == "open"
    at.say(f"The taps are {'open' if at.machine.tap_open else 'shut'}")


def _start(at: Stand, value: str) -> None:
    known = {**programmes_of(at.machine_type), **dict.fromkeys(steps_of(at.machine_type), "")}
    if value not in known:
        raise BadValue(
            f"Found the programme '{value[:40]}', expected one of {', '.join(known)}.", "value"
        )
    if not known[value] and not at.serves:
        raise Refused(NOT_IN_SERVICE, "value")
    title = known[value] or f"Service step {value}"
    at.machine.let_act(at.specimen.acting(f"stand:{at.acts}"))
    at.machine.step()
    if not at.machine.alive:
        at.say("Nothing happens: no lamp, no sound")
        return
    if not at.machine.takes_start:
        at.say("Lamps are on, but it does not start")
        return
    at.machine.seen.figures.clear()
    at.machine.seen.put("alive", 1.0)
    at.machine.start(value)
    at.running = title
    at.say(f"{title} begins")


def _stop(at: Stand, value: str) -> None:
    at.machine.board.done = True
    at.machine.asks.nothing()
    at.running = ""
    at.say("Stopped")


def _pace(at: Stand, value: str) -> None:
    if not value.isdigit() or int(value) not in RATES:
        raise BadValue(
            f"Found the pace '{value[:20]}', expected one of {', '.join(map(str, RATES))}.", "value"
        )
    at.rate = int(value)


def _wait(at: Stand, value: str) -> None:
    if not value.isdigit() or not 1 <= int(value) <= 600:
        raise BadValue(f"Found '{value[:20]}' seconds, expected 1 to 600.", "value")
    at.machine.wait(float(value))
    at.say(f"{value} seconds later")


def _bail(at: Stand, value: str) -> None:
    litres = at.machine.warmth.drain(at.machine.warmth.litres)
    at.machine.now.water_out_l += litres
    at.machine.step()
    at.say(f"{litres:.1f} litres bailed out, {at.machine.warmth.water_c:.0f} °C")


def _pour(at: Stand, value: str) -> None:
    at.machine.warmth.pour(5.0, at.machine.v["cold_tap_c"])
    at.machine.now.water_in_l += 5.0
    at.machine.step()
    at.say("A bucket of five litres poured in")


def _panel(at: Stand, value: str) -> None:
    """Ask the memory, or go on to the next code. Raises Refused where its service mode was not
    entered."""
    if not at.serves:
        raise Refused(NOT_IN_SERVICE, "value")
    at.shown_code = at.shown_code + 1 if at.asked_panel else 0
    at.asked_panel = True
    at.say("The panel shows its memory")


def _tip(at: Stand, value: str) -> None:
    """Tip it on its side, or stand it up again. Raises Refused with the plug in, or with water in
    it."""
    if at.ticket.job is not None:
        raise Refused(f"Job {at.ticket.job} has it in hand: tip it there.", "value")
    tipped = at.hands.posture == "tipped"
    if not tipped and at.machine.plugged:
        raise Refused("The plug is in. Pull it before you tip the machine.", "value")
    if not tipped and at.machine.warmth.litres > MOST_SPILT_L:
        raise Refused(
            f"{at.machine.warmth.litres:.0f} litres would run out over the floor. "
            "Bail the water out first.",
            "value",
        )
    at.hands = at.hands.changed("posture", "upright" if tipped else "tipped", False)
    at.say("It stands upright again" if tipped else "It lies on its side; two people held it")


def _standing(at: Stand) -> None:
    if at.hands.posture == "tipped":
        raise Refused("It lies on its side. Stand it up first.", "value")


def _key(at: Stand, value: str) -> None:
    """Do one thing at the panel or the door. Raises BadValue for what it has not."""
    if value not in acts_at(at.machine_type):
        raise BadValue(
            f"Found '{value[:40]}', expected something at this panel: "
            f"{', '.join(acts_at(at.machine_type)) or 'it has no keys'}.",
            "value",
        )
    if value == "open door" and at.machine.now.locked:
        at.say("The door is locked and does not open")
        return
    at.say(value)
    _at_panel(at, value)


def _enter(at: Stand, value: str) -> None:
    """Go into the service mode as the sheet says, each act in its time."""
    for one in by_the_book(at.front.wanted):
        if one in ("plug in", "plug out"):
            _plug(at, one.removeprefix("plug "))
        else:
            _at_panel(at, one)
    if not at.front.in_service:
        at.say("All of it as the sheet says, and nothing comes of it")


def _at_panel(at: Stand, one: str) -> None:
    if at.front.do(one, at.machine.now.seconds, at.keys_work()):
        panel = at.machine_type.panel
        at.say(f"Service mode. {(panel and panel.listens) or ''}".strip().removesuffix("."))


ACTS = {
    "tip": _tip,
    "key": _key,
    "enter": _enter,
    "plug": _plug,
    "taps": _taps,
    "start": _start,
    "stop": _stop,
    "pace": _pace,
    "wait": _wait,
    "bail": _bail,
    "pour": _pour,
    "panel": _panel,
}
"""What a hand can do to the whole machine, by the name the form sends."""
