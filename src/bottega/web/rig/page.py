"""The page of a machine of physics: what it gets."""

from dataclasses import dataclass, replace

from bottega.app.rig.hands import FUNCTIONS, Curve, Doable, doable, points
from bottega.app.rig.stand import RATES, Stand, clock
from bottega.rig.programmes import programmes_of, steps_of
from bottega.web.drawing.section import Drawing, plain
from bottega.web.kit.page import ErrorNote, Page
from bottega.web.panel.face import Drawn, face_of
from bottega.web.rig.plot import HEIGHT, WIDTH, Trace, felt, traces
from bottega.web.rig.showing import Showing, showing_of


@dataclass(frozen=True)
class Removable:
    """One thing that comes off: its id, its name, whether it is off, whether it can be done now."""

    id: str
    name: str
    off: bool
    ready: bool


@dataclass(frozen=True)
class Group:
    """The checks at one component: those that can be done, and what is in front of the others."""

    name: str
    checks: list[Doable]


@dataclass(frozen=True)
class Live:
    """What changes by itself while one looks."""

    name: str
    seen: int
    time: str
    running: str
    dead: bool
    water: str
    drum: str
    traces: list[Trace]
    told: list[str]
    width: float
    height: float


@dataclass(frozen=True)
class RigPage:
    """What the page of one machine gets."""

    page: Page
    live: Live
    title: str
    job: str | None
    plugged: bool
    taps_open: bool
    pace: int
    paces: tuple[int, ...]
    programmes: dict[str, str]
    steps: list[str]
    drawing: Drawing
    face: Drawn | None
    showing: Showing | None
    removable: list[Removable]
    groups: list[Group]
    points: list[str]
    functions: dict[str, str]
    felt: str
    felt_name: str
    error: ErrorNote | None


def live_of(at: Stand) -> Live:
    """Return what of a machine changes by itself."""
    now = at.machine.now
    return Live(
        at.ticket.name,
        at.acts,
        clock(now.seconds),
        at.running,
        not at.machine.alive and at.machine.plugged,
        f"{now.tub_l:.1f} l, {at.machine.warmth.water_c:.0f} °C",
        f"{now.drum_rpm:.0f} rpm" if now.drum_rpm > 1 else "stands",
        traces(at.trace),
        list(at.told),
        WIDTH,
        HEIGHT,
    )


def rig_page(at: Stand, error: ErrorNote | None, curve: Curve | None) -> RigPage:
    """Return the page of a machine as it stands."""
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
        drawing=replace(plain(machine), water=at.machine.now.tub_l > 1),
        face=face_of(panel) if panel else None,
        showing=showing_of(at),
        removable=_removable(at),
        groups=_groups(at),
        points=points(at, at.hands),
        functions=FUNCTIONS,
        felt=felt(curve.nm) if curve else "",
        felt_name=curve.name if curve else "",
        error=error,
    )


def _removable(at: Stand) -> list[Removable]:
    operations, off = at.machine_type.operations, at.hands.off
    held = {o for name in off for o in operations[name].after}
    return [
        Removable(
            name,
            operation.name,
            name in off,
            name not in held
            if name in off
            else all(o in off for o in operation.after if o in operations),
        )
        for name, operation in operations.items()
    ]


def _groups(at: Stand) -> list[Group]:
    groups: dict[str, list[Doable]] = {}
    for one in doable(at, at.hands):
        groups.setdefault(one.check.component, []).append(one)
    names = at.machine_type.components
    return [
        Group(names[component].name, sorted(checks, key=lambda one: len(one.first)))
        for component, checks in sorted(groups.items(), key=lambda item: names[item[0]].name)
    ]
