"""The page of a machine of physics: what it gets."""

from dataclasses import dataclass
from json import dumps
from types import MappingProxyType

from bottega.app.rig.gestures import FeltCurve, offered, wheels
from bottega.app.rig.hands import FUNCTIONS, Doable, MeterFunction, doable, points
from bottega.app.rig.law import TURNED, held, in_short, way_to_work
from bottega.app.rig.service import acts_at
from bottega.app.rig.stand import RATES, Stand, clock
from bottega.rig.programmes import programmes_of, steps_of
from bottega.web.drawing.section import Drawing, as_opened
from bottega.web.kit.page import ErrorNote, Page
from bottega.web.panel.face import DrawnPanel, face_of
from bottega.web.rig.plot import PLOT_HEIGHT, PLOT_WIDTH, Bands, PlotLine, felt, traces
from bottega.web.rig.showing import Showing, showing_of


@dataclass(frozen=True)
class Removable:
    """One thing that comes off: its id, its name, whether it is off, and what has to be done before
    it comes off, or goes back; nothing where it can be done now."""

    id: str
    name: str
    off: bool
    first: str


@dataclass(frozen=True)
class HeldBack:
    """What of a group of acts is held back as the machine stands: the acts, as the form sends them,
    and why, each reason once."""

    acts: frozenset[str]
    why: tuple[str, ...]


@dataclass(frozen=True)
class CheckGroup:
    """The checks at one component: those that can be done, and what is in front of the others."""

    name: str
    checks: list[Doable]


@dataclass(frozen=True)
class Wheel:
    """What can be turned with the pointer: its name, its torque over one turn as JSON, and its
    spokes as a path."""

    name: str
    nm: str
    spokes: str


@dataclass(frozen=True)
class Felt:
    """What a hand felt last: its name, what it was felt along, and its curve as points."""

    name: str
    along: str
    points: str


@dataclass(frozen=True)
class KeyAct:
    """One thing a hand can do at the panel, and what is written on its button."""

    value: str
    words: str


@dataclass(frozen=True)
class KeyGroup:
    """Acts at the panel of one sort."""

    name: str
    acts: list[KeyAct]


@dataclass(frozen=True)
class FrontView:
    """The panel as hands use it: whether its sheet says by which keys, whether the door is open,
    how door and dial stand in words, and what can be done."""

    led: bool
    open: bool
    door: str
    dial: str
    groups: list[KeyGroup]


@dataclass(frozen=True)
class LiveStand:
    """What changes by itself while one looks."""

    name: str
    seen: int
    time: str
    running: str
    dead: bool
    water: str
    drum: str
    traces: list[PlotLine]
    recorded: tuple[str, str] | None
    """From when to when the traces go, by its own clock; None before there is a line."""
    told: list[str]
    width: float
    height: float


@dataclass(frozen=True)
class RigPage:
    """What the page of one machine gets."""

    page: Page
    live: LiveStand
    title: str
    job: str | None
    plugged: bool
    taps_open: bool
    pace: int
    paces: tuple[int, ...]
    programmes: dict[str, str]
    steps: list[str]
    drawing: Drawing
    face: DrawnPanel | None
    showing: Showing | None
    removable: list[Removable]
    groups: list[CheckGroup]
    points: list[str]
    functions: dict[str, MeterFunction]
    wheels: list[Wheel]
    felt: Felt | None
    gestures: dict[str, str]
    tipped: bool
    charged: bool
    """Whether a charge is left, by its page's own hands, that has to be waited for and measured."""
    run: HeldBack
    by_hand: HeldBack
    keys: HeldBack
    serves: bool
    front: FrontView
    error: ErrorNote | None


def live_of(at: Stand, bands: Bands = MappingProxyType({})) -> LiveStand:
    """Return what of a machine changes by itself, with the pass bands there are; nobody acts on it
    meanwhile."""
    with at.lock:
        return _live_of(at, bands)


def _live_of(at: Stand, bands: Bands) -> LiveStand:
    now = at.machine.now
    return LiveStand(
        at.ticket.name,
        at.acts,
        clock(now.seconds),
        at.running,
        not at.machine.alive and at.machine.plugged,
        f"{now.tub_l:.1f} l, {at.machine.warmth.water_c:.0f} °C",
        _drum_words(at),
        traces(at.recorder.samples, bands),
        _recorded(at),
        list(at.told),
        PLOT_WIDTH,
        PLOT_HEIGHT,
    )


def _recorded(at: Stand) -> tuple[str, str] | None:
    samples = at.recorder.samples
    return (clock(samples[0].seconds), clock(samples[-1].seconds)) if samples[1:] else None


def _drum_words(at: Stand) -> str:
    """Return how the drum moves, and whether a door keeps people from it."""
    now = at.machine.now
    words = f"{now.drum_rpm:.0f} rpm" if now.drum_rpm > 1 else "stands"
    return f"{words}, door locked" if now.locked else words


def rig_page(at: Stand, error: ErrorNote | None, curve: FeltCurve | None) -> RigPage:
    """Return the page of a machine as it stands; nobody acts on it meanwhile."""
    with at.lock:
        return _rig_page(at, error, curve)


def _rig_page(at: Stand, error: ErrorNote | None, curve: FeltCurve | None) -> RigPage:
    machine = at.machine_type
    panel = machine.panel
    return RigPage(
        page=Page(f"{machine.title} on the rig"),
        live=live_of(at),
        title=machine.title,
        job=at.ticket.job,
        plugged=at.machine.plugged,
        taps_open=at.machine.tap_open,
        pace=at.rate,
        paces=RATES,
        programmes=programmes_of(machine),
        steps=list(steps_of(machine)),
        drawing=as_opened(machine, at.hands.off, water=at.machine.now.tub_l > 1),
        face=face_of(panel) if panel else None,
        showing=showing_of(at),
        removable=_removable(at),
        groups=_groups(at),
        points=points(at),
        functions=FUNCTIONS,
        wheels=[Wheel(one.name, dumps(one.values), SPOKES[one.name]) for one in wheels(at)],
        felt=Felt(curve.name, curve.along, felt(curve.values)) if curve else None,
        gestures=offered(at),
        tipped=at.hands.posture == "tipped",
        charged=at.ticket.job is None and not at.machine.plugged and at.hands.charge != "none",
        run=_held(at, [("plug", "in"), ("taps", "open"), ("pour", ""), *_starts(at)]),
        by_hand=_held(at, [("tip", ""), *(("feel", what) for what in TURNED)]),
        keys=_held(at, [("key", "open door"), ("panel", "")]),
        serves=at.serves,
        front=_front(at),
        error=error,
    )


SPOKES = {
    "Drum": "M0 0V-52M0 0L45 26M0 0L-45 26",
    "Wash plate": "M-44 -20Q0 -6 44 -20M-44 20Q0 6 44 20M0 0V-40",
    "Pump rotor": "M-14 -14H14V14H-14ZM0 -14V-34M0 14V34M-14 0H-34M14 0H34",
}
"""What is drawn of what turns: three lifters, two fins, a magnet with four blades."""
HOW = {"press": "Press", "hold": "Hold", "let go": "Let go", "turn": "Dial to", "door": "Door"}
"""What acts at the panel are grouped by."""


def _front(at: Stand) -> FrontView:
    front, groups = at.front, dict[str, list[KeyAct]]()
    for act in acts_at(at.machine_type) if front.led else ():
        how = next(how for how in (*HOW, "") if act.startswith(how) or act.endswith(how))
        words = act.removesuffix(" door") if how == "door" else act.removeprefix(how)
        groups.setdefault(how, []).append(KeyAct(act, words.strip()))
    has_door = "door" in groups
    return FrontView(
        led=front.led,
        open=not front.shut,
        door=("shut" if front.shut else "open") if has_door else "",
        dial=front.dial,
        groups=[KeyGroup(HOW[how], acts) for how, acts in groups.items()],
    )


def _removable(at: Stand) -> list[Removable]:
    return [
        Removable(name, operation.name, name in at.hands.off, in_short(way_to_work(at, name)))
        for name, operation in at.machine_type.operations.items()
    ]


def _starts(at: Stand) -> list[tuple[str, str]]:
    names = (*programmes_of(at.machine_type), *steps_of(at.machine_type))
    return [("start", name) for name in names]


def _held(at: Stand, acts: list[tuple[str, str]]) -> HeldBack:
    """Return which of these acts the table holds back, and why."""
    found = {f"{what} {value}": held(at, what, value) for what, value in acts}
    why = dict.fromkeys(str(broken) for broken in found.values() if broken is not None)
    return HeldBack(frozenset(act for act, broken in found.items() if broken), tuple(why))


def _groups(at: Stand) -> list[CheckGroup]:
    groups: dict[str, list[Doable]] = {}
    for one in doable(at):
        groups.setdefault(one.check.component, []).append(one)
    names = at.machine_type.components
    return [
        CheckGroup(names[component].name, sorted(checks, key=lambda one: one.steps))
        for component, checks in sorted(groups.items(), key=lambda item: names[item[0]].name)
    ]
