"""The way into the service mode of a machine on the rig: the sheet's own keys, in their order and
within their time, as hands do them."""

from dataclasses import dataclass, field

from bottega.core.library.machine_type import MachineType
from bottega.core.library.panel_record import EntryStep, Face, PanelRecord

SLACK_S = 4.0
"""How much longer than the sheet says a step may take on the rig; chosen, for the way to a page and
back."""
AT_REST = "rest"
"""The place of a dial on which nothing is chosen."""
DOOR = "door"


@dataclass(frozen=True)
class Wanted:
    """One step of the way in: its acts, in this order or in ``any_order``, in so many seconds;
    where the dial has to stand and whether the door has to be shut."""

    acts: tuple[str, ...]
    any_order: bool
    within_s: float | None
    at_rest: bool
    shut: bool


@dataclass(frozen=True)
class Done:
    """One act at the panel: when, by the machine's own clock, and how dial and door stood."""

    act: str
    at_s: float
    at_rest: bool
    shut: bool


def way_in(panel: PanelRecord | None) -> tuple[Wanted, ...]:
    """Return the steps into the service mode that hands have to do; none where the sheet says
    nothing of keys."""
    if panel is None:
        return ()
    return tuple(step for step in (_wanted(s, panel.face) for s in panel.entry) if step.acts)


def _wanted(step: EntryStep, face: Face) -> Wanted:
    keys = [key for key in step.at if key in face.keys]
    once: tuple[str, ...] = ()
    if step.does == "press":
        once = tuple(f"press {key}" for key in keys)
    elif step.does == "hold":
        once = tuple(f"hold {key}" for key in keys)
    elif step.does == "let_go":
        once = tuple(f"let go {key}" for key in keys)
    elif step.does == "turn":
        once = tuple(f"turn {place}" for place in step.at if place in (*face.dial, *face.ring))
    elif step.does == "open":
        once = ("open door", "shut door")
    elif step.does == "shut":
        once = ("shut door",)
    elif step.does == "plug":
        once = ("plug in",)
    times = step.times if step.does in ("press", "open") else 1
    return Wanted(
        once * times,
        len(keys) > 1,
        step.within_s,
        AT_REST in step.at and step.does != "turn",
        DOOR in step.at and step.does not in ("open", "shut"),
    )


def acts_at(machine: MachineType) -> list[str]:
    """Return what hands can do at the panel of a machine and at its door, in the order it is
    offered."""
    panel = machine.panel
    door = ["open door", "shut door"]
    if panel is None:
        return door
    face, wanted = panel.face, {act for step in way_in(panel) for act in step.acts}
    found = [f"press {key}" for key in face.keys]
    found += [f"{how} {key}" for key in face.keys for how in ("hold", "let go")]
    found += [f"turn {place}" for place in dict.fromkeys(face.dial) if place]
    found += door
    return found + [act for act in sorted(wanted) if act not in found and act != "plug in"]


def entered(wanted: tuple[Wanted, ...], done: list[Done]) -> bool:
    """Return whether the last acts at the panel are the way in."""
    count = sum(len(step.acts) for step in wanted)
    if not wanted or len(done) < count:
        return False
    last = done[len(done) - count :]
    for step in wanted:
        own, last = last[: len(step.acts)], last[len(step.acts) :]
        acts = [one.act for one in own]
        asked = list(step.acts)
        if acts != asked and not (step.any_order and sorted(acts) == sorted(asked)):
            return False
        if step.at_rest and not own[0].at_rest:
            return False
        if step.shut and not own[0].shut:
            return False
        slow = own[-1].at_s - own[0].at_s
        if step.within_s is not None and slow > step.within_s + SLACK_S:
            return False
    return True


def by_the_book(wanted: tuple[Wanted, ...]) -> list[str]:
    """Return the acts of the way in, one after the other, with dial and door put right first."""
    acts = [act for step in wanted for act in step.acts]
    first = []
    if any(step.shut for step in wanted):
        first.append("shut door")
    if any(step.at_rest for step in wanted):
        first.append(f"turn {AT_REST}")
    if "plug in" in acts:
        first.append("plug out")
    return first + acts


@dataclass
class Front:
    """The panel and the door of one machine: where the dial stands, whether the door is shut, what
    was done at them last, and whether it is in its service mode."""

    wanted: tuple[Wanted, ...]
    dial: str = ""
    shut: bool = True
    in_service: bool = False
    done: list[Done] = field(default_factory=list)

    @property
    def led(self) -> bool:
        """Return whether the sheet says by which keys its service mode is entered."""
        return bool(self.wanted)

    def do(self, act: str, at_s: float, works: bool) -> bool:
        """Take in one act; return whether it led into the service mode. Keys of a machine that is
        dead, or whose keys are, do nothing (``works``)."""
        if act in ("open door", "shut door"):
            self.shut = act == "shut door"
        if act.startswith("turn "):
            self.dial = act.removeprefix("turn ")
        if act == "plug out":
            self.in_service = False
            self.done.clear()
            return False
        if works and self.led:
            count = sum(len(step.acts) for step in self.wanted)
            self.done.append(Done(act, at_s, self.dial == AT_REST, self.shut))
            del self.done[:-count]
        if self.in_service or not entered(self.wanted, self.done):
            return False
        self.in_service = True
        return True
