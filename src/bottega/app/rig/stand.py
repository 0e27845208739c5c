"""A machine of physics one stands in front of: it runs by the clock on the wall, and keeps what
was done to it."""

from collections import deque
from dataclasses import dataclass, field
from datetime import datetime
from random import Random
from threading import RLock
from uuid import uuid4

from bottega.app.errors import BadValue
from bottega.app.rig.service import Front, way_in
from bottega.app.workshop import Workshop
from bottega.core.library.machine_type import MachineType
from bottega.core.library.shelf import UnknownMachine
from bottega.core.library.tables import Tables
from bottega.core.machine.reach import Reaching
from bottega.core.machine.state import MachineState
from bottega.core.wording import sentence
from bottega.rig.asking import Bench
from bottega.rig.faults import injectable
from bottega.rig.machine import Machine
from bottega.rig.specimen import Specimen
from bottega.rig.telemetry import Recorder
from bottega.store.rigs import RigTicket

RATES = (1, 10, 60)
"""How fast its time may go."""
MOST_AT_ONCE_S = 120.0
"""How much of its time goes by at most while nobody asked; chosen, so that a page left open
overnight does not come back to days of washing."""
KEPT = 400
"""Samples of a run that are kept; chosen, about one for each point a screen draws."""
MOVED = "Somebody else did something to this machine since. Look at it again, then act."


@dataclass
class Stand:
    """One machine with its present state, and what its people saw last, newest first."""

    ticket: RigTicket
    machine_type: MachineType
    specimen: Specimen
    wall: datetime
    tables: Tables
    ways: Reaching
    machine: Machine = field(init=False)
    bench: Bench = field(init=False)
    hands: MachineState = field(default_factory=lambda: MachineState(water="out"))
    leads: tuple[str, ...] = ()
    """What the meter's leads touch: two test points, or where one check wants them."""
    unplugged_s: float = 0.0
    """When its plug came out last, by its own clock."""
    followed: MachineState | None = None
    """How its job said that it stands when that was looked at last; None without a job."""
    rate: int = 1
    acts: int = 0
    """Counts what was done to it, so that two people do not act over each other."""
    told: deque[str] = field(default_factory=lambda: deque(maxlen=12))
    recorder: Recorder = field(default_factory=lambda: Recorder(KEPT))
    running: str = ""
    front: Front = field(init=False)
    asked_panel: bool = False
    """Whether its memory was asked, so that the panel shows it."""
    shown_code: int = 0
    lock: RLock = field(default_factory=RLock)

    def __post_init__(self) -> None:
        self.bench = Bench(self.specimen, self.ticket.seed)
        self.front = Front(way_in(self.machine_type.panel))
        self.machine = Machine(self.specimen, self.specimen.acting("stand:0"), empty=True)
        self.machine.telemetry = self.recorder.note
        self.machine.step()

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
        return self.machine.alive and self.machine.v.keys_dead < 0.5

    def unplug(self) -> None:
        """Pull its plug: what runs stops, and what its panel showed is gone."""
        self.machine.plugged = False
        self.machine.now.tripped = False
        self.unplugged_s = self.machine.now.seconds
        self.machine.board.end()
        self.running, self.asked_panel = "", False
        self.front.do("plug out", self.machine.now.seconds, works=True)

    def plug_in(self) -> None:
        """Put its plug in."""
        self.machine.plugged = True
        self.machine.now.tripped = False
        self.front.do("plug in", self.machine.now.seconds, works=True)

    @property
    def live(self) -> bool:
        """Return whether its plug is in, by its own hands and by its job's, and nothing tripped."""
        machine = self.machine
        return machine.plugged and self.hands.power == "on" and not machine.now.tripped

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
        raise BadValue(f"Which machine is it? {sentence(error)}", "machine") from error
    name = uuid4().hex[:8]
    seed = author_seed or name
    rng = Random(f"draw:{seed}")
    fault = rng.choices(
        injectable(kind.faults), [kind.faults[f].rate for f in injectable(kind.faults)]
    )[0]
    ticket = RigTicket(name, kind.archetype, sheet, seed, {fault: round(rng.random(), 3)})
    workshop.rigs.keep(ticket)
    return ticket
