"""Work in an order: what has to come before what, postures, tools, soaks that other work fills, and
what an order takes."""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

HANDS = "none"
"""The tool of work that wants none; what is in the hand stays in it."""


@dataclass(frozen=True)
class WorkItem:
    """One piece of work: its minutes, its tool, the posture it wants (None where any does), what
    has to come before it, and how long before it another item has to be over: a soak."""

    id: str
    minutes: float
    tool: str = HANDS
    posture: str | None = None
    after: tuple[str, ...] = ()
    soaks: tuple[tuple[str, float], ...] = ()
    """By an item that comes before, the minutes that lie between its end and this one."""


@dataclass(frozen=True)
class ChangeoverMinutes:
    """What changing over takes, in minutes: each posture by the one it becomes, and another
    tool."""

    by_posture: tuple[tuple[str, float], ...]
    tool: float

    @cached_property
    def postures(self) -> dict[str, float]:
        """Return what each posture takes."""
        return dict(self.by_posture)


@dataclass(frozen=True)
class WorkToOrder:
    """What is to be ordered: the items, the posture and the tool it begins with, and the posture
    it has to end in (None where any does)."""

    items: tuple[WorkItem, ...]
    posture: str
    prices: ChangeoverMinutes
    ends: str | None = None

    @cached_property
    def known(self) -> dict[str, WorkItem]:
        """Return the items by id."""
        return {item.id: item for item in self.items}


@dataclass(frozen=True)
class Timed:
    """An item in its place: the posture it is done in, whether posture or tool changed for it, and
    how long nothing could be done before it; when it begins and ends, in minutes."""

    item: WorkItem
    posture: str
    turned: bool
    retooled: bool
    waited: float
    begins: float
    ends: float


@dataclass(frozen=True)
class Order:
    """Items in order with what they take. ``optimal`` when nothing shorter exists."""

    steps: tuple[Timed, ...]
    minutes: float
    tips: int
    tool_changes: int
    waited: float
    optimal: bool


class NoOrder(ValueError):
    """Items that wait for each other in a circle."""


def timed(work: WorkToOrder, ids: Sequence[str], optimal: bool = False) -> Order:
    """Return an order with its times: postures change as late as they can, tools when another is
    wanted. Raises NoOrder when something comes before what it waits for."""
    steps: list[Timed] = []
    posture, tool, clock = work.posture, HANDS, 0.0
    ended: dict[str, float] = {}
    tips = changes = 0
    idle = 0.0
    for name in ids:
        item = work.known[name]
        if any(before not in ended for before in item.after if before in work.known):
            raise NoOrder(f"found '{name}' before what it waits for")
        turned = item.posture is not None and item.posture != posture
        posture = item.posture or posture
        retooled = item.tool not in (HANDS, tool)
        tool = tool if item.tool == HANDS else item.tool
        if turned:
            clock += work.prices.postures[posture]
        if retooled:
            clock += work.prices.tool
        free = max(
            (ended[b] + minutes for b, minutes in item.soaks if b in ended),
            default=clock,
        )
        waited = max(0.0, free - clock)
        clock += waited
        steps.append(Timed(item, posture, turned, retooled, waited, clock, clock + item.minutes))
        clock += item.minutes
        ended[name] = clock
        tips, changes, idle = tips + turned, changes + retooled, idle + waited
    if work.ends is not None and posture != work.ends:
        clock += work.prices.postures[work.ends]
        tips += 1
    return Order(tuple(steps), round(clock, 3), tips, changes, round(idle, 3), optimal)


def naive(work: WorkToOrder) -> Order:
    """Return the items as they are listed, each as soon as what it waits for is done."""
    left, done, order = list(work.items), set[str](), []
    while left:
        ready = [i for i in left if all(b in done or b not in work.known for b in i.after)]
        if not ready:
            raise NoOrder(f"found {', '.join(i.id for i in left)} waiting for each other")
        order.append(ready[0].id)
        done.add(ready[0].id)
        left.remove(ready[0])
    return timed(work, order)


def above(work: WorkToOrder) -> dict[str, set[str]]:
    """Return by item everything that has to come before it, near and far."""
    known: dict[str, set[str]] = {}

    def visit(name: str) -> set[str]:
        if name not in known:
            known[name] = set()
            for before in work.known[name].after:
                if before in work.known:
                    known[name] |= {before} | visit(before)
        return known[name]

    for item in work.items:
        visit(item.id)
    return known
