"""The plan of opening a machine for a part and closing it again, from how it stands: every way
compared, the shortest proved."""

from collections.abc import Collection, Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from functools import lru_cache
from itertools import product
from types import MappingProxyType
from typing import cast

from bottega.core.library.machine_type import MachineType
from bottega.core.library.records import Needs, OperationRecord
from bottega.core.library.tables import Tables
from bottega.core.library.vocabulary import STATES, StateField
from bottega.core.machine.reach import ReachStep
from bottega.core.machine.state import MachineState
from bottega.core.strip.order import HANDS, ChangeoverMinutes, Order, WorkItem, WorkToOrder, naive
from bottega.core.strip.shortest import shortest

SOAKED = "soak:"
"""How the item begins that lays oil on what has to soak."""
MOST_WAYS = 12
"""Ways that are compared; chosen, no shipped machine has more to one part."""


@dataclass(frozen=True)
class StripWay:
    """One way to a part and back: which operations, in which order, what is done first to make
    safe, what it takes, and what it risks."""

    name: str
    operations: tuple[str, ...]
    begins: str
    """The posture it begins in."""
    opening: Order
    closing: Order
    first: tuple[tuple[str, str], ...]
    """Changes of state that come before, as (field, value)."""
    first_minutes: float
    people: int
    risks: tuple[str, ...]

    @property
    def minutes(self) -> float:
        """Return what opening and closing take, without the fitting."""
        return self.first_minutes + self.opening.minutes + self.closing.minutes

    @property
    def tips(self) -> int:
        """Return how often it changes its posture."""
        return self.opening.tips + self.closing.tips

    @property
    def tool_changes(self) -> int:
        """Return how often another tool is taken up."""
        return self.opening.tool_changes + self.closing.tool_changes

    @property
    def optimal(self) -> bool:
        """Return whether both orders are proved to be the shortest."""
        return self.opening.optimal and self.closing.optimal

    @property
    def order(self) -> tuple[str, ...]:
        """Return the operations in their order."""
        return tuple(s.item.id for s in self.opening.steps if s.item.id in self.operations)

    @property
    def back(self) -> tuple[str, ...]:
        """Return what goes back, in order."""
        return tuple(step.item.id for step in self.closing.steps)


@dataclass(frozen=True)
class StripPlan:
    """The ways to a part, the shortest first."""

    ways: tuple[StripWay, ...]
    blocked: tuple[str, ...] = ()
    """Operations of the shortest that cannot be done, where no way is left without such a one."""

    @property
    def best(self) -> StripWay:
        """Return the shortest."""
        return self.ways[0]


Soaking = Mapping[str, float]
"""By operation that was oiled already, the minutes it still has to soak."""


def plan(
    machine: MachineType,
    tables: Tables,
    state: MachineState,
    needs: Needs,
    *,
    soaking: Soaking = MappingProxyType({}),
    stuck: Collection[str] = (),
) -> StripPlan:
    """Return every way from how a machine stands to what a repair needs, and back to closed; the
    shortest first. What is off already is not done again, and goes back too. No way leads over what
    is ``stuck``, unless all of them do."""
    picks = _picks(machine, state, needs)
    held = set(stuck)
    free = [one for one in picks if not held & set(_closure(machine, state, needs, one))]
    chosen = [
        _way(machine, tables, state, needs, picks=picked, soaking=soaking)
        for picked in (free or picks)[:MOST_WAYS]
    ]
    named = {way.operations: way for way in chosen}
    ways = sorted(named.values(), key=lambda way: (way.minutes, way.tips))
    return StripPlan(tuple(ways), tuple(name for name in ways[0].operations if name in held))


def steps_of(
    machine: MachineType, tables: Tables, way: StripWay, needs: Needs
) -> tuple[ReachStep, ...]:
    """Return a way as steps one after the other: what makes it safe, what is oiled, what comes off,
    how it is stood in between."""
    steps = [_change(machine, tables, field, to) for field, to in way.first]
    posture = way.begins
    for timed in way.opening.steps:
        posture = timed.posture
        if timed.turned:
            steps.append(_change(machine, tables, "posture", posture))
        name = timed.item.id
        record = machine.operations[name.removeprefix(SOAKED)]
        if name.startswith(SOAKED):
            if timed.item.minutes:
                words = f"Oil it now, to {record.name[0].lower()}{record.name[1:]} later"
                op = name.removeprefix(SOAKED)
                steps.append(ReachStep("soak", "off", op, words, record.soak_minutes, None))
            continue
        steps.append(
            ReachStep("operation", "off", name, record.name, record.minutes, record.caution)
        )
    if needs.posture is not None and posture != needs.posture:
        steps.append(_change(machine, tables, "posture", needs.posture))
    return tuple(steps)


def _change(machine: MachineType, tables: Tables, field: str, to: str) -> ReachStep:
    change = tables.changes[field][to]
    what = cast(StateField, field)
    minutes = _minutes(machine, tables, field, to)
    return ReachStep("change", what, to, change.name, minutes, change.caution)


def naive_minutes(machine: MachineType, tables: Tables, state: MachineState, needs: Needs) -> float:
    """Return what the same takes in the order of the assembly list, put back in reverse."""
    picks = _picks(machine, state, needs)[0]
    operations = _closure(machine, state, needs, picks)
    opening, closing = _works(machine, tables, state, needs, operations=operations, soaking={})
    first = _first(machine, tables, state, needs, operations=operations)
    minutes = sum(_minutes(machine, tables, field, to) for field, to in first)
    return minutes + naive(opening).minutes + naive(closing).minutes


def used_up(
    tables: Tables, records: Sequence[OperationRecord], fitting: Sequence[str] = ()
) -> list[str]:
    """Return what is used up on a way, by what its operations say of marking and putting back, and
    by the lines of the fitting at its end."""
    strip = tables.strip
    lines = [f"{record.back or ''} {record.mark or ''}" for record in records]
    said = " ".join([*lines, *fitting]).lower()
    found = [name for word, name in strip.consumables.items() if word in said]
    if any(record.soak_minutes for record in records):
        found.append(strip.soaked)
    if any("leak_watch" in record.owes for record in records):
        found.append(strip.wet)
    return [*found, *strip.always]


def others(machine: MachineType) -> dict[str, tuple[str, ...]]:
    """Return by operation the other ways to do the same."""
    found: dict[str, tuple[str, ...]] = {}
    for name, record in machine.operations.items():
        if record.instead:
            found[record.instead] = (*found.get(record.instead, ()), name)
    return found


def _picks(machine: MachineType, state: MachineState, needs: Needs) -> list[dict[str, str]]:
    """Return the choices between ways: by operation that can be done otherwise, how it is done."""
    other = others(machine)
    if not other:
        return [{}]
    asked = set(_closure(machine, state, needs, {}))
    for alternatives in (other[name] for name in asked & set(other)):
        asked |= set(_closure(machine, state, Needs(off=alternatives), {}))
    open_ = [name for name in other if name in asked and name not in state.off]
    return [
        dict(zip(open_, picked, strict=True))
        for picked in product(*((name, *other[name]) for name in open_))
    ]


def _closure(
    machine: MachineType, state: MachineState, needs: Needs, picks: dict[str, str]
) -> tuple[str, ...]:
    """Return the operations to be done, in the order of the assembly list."""
    wanted: set[str] = set()
    done = machine.done_by(state.off)

    def visit(name: str) -> None:
        name = picks.get(name, name)
        if name in done or name in wanted or name not in machine.operations:
            return
        wanted.add(name)
        for before in machine.operations[name].after:
            visit(before)

    for name in needs.off:
        visit(name)
    return tuple(name for name in machine.operations if name in wanted)


def _way(
    machine: MachineType,
    tables: Tables,
    state: MachineState,
    needs: Needs,
    *,
    picks: dict[str, str],
    soaking: Soaking,
) -> StripWay:
    operations = _closure(machine, state, needs, picks)
    opening, closing = _works(machine, tables, state, needs, operations=operations, soaking=soaking)
    first = _first(machine, tables, state, needs, operations=operations)
    records = [machine.operations[name] for name in operations]
    risks = [record.risk for record in records if record.risk]
    special = [picks[name] for name in picks if picks[name] != name and picks[name] in operations]
    opened, closed = _solved(opening), _solved(closing)
    hands = [record.people for record in records]
    postures = {step.posture for step in (*opened.steps, *closed.steps)}
    if "tipped" in {*postures, needs.posture, state.posture}:
        hands += [one.people for one in tables.make_safe.laid(machine.laid)[:1]]
    return StripWay(
        name=", ".join(machine.operations[name].name for name in special),
        operations=operations,
        begins=state.posture,
        opening=opened,
        closing=closed,
        first=first,
        first_minutes=sum(_minutes(machine, tables, field, to) for field, to in first),
        people=max(hands, default=1),
        risks=tuple(dict.fromkeys(risks)),
    )


def forget() -> None:
    """Forget all orders found, so that they are found anew."""
    _solved.cache_clear()


@lru_cache(maxsize=512)
def _solved(work: WorkToOrder) -> Order:
    return shortest(work)


def _works(
    machine: MachineType,
    tables: Tables,
    state: MachineState,
    needs: Needs,
    *,
    operations: tuple[str, ...],
    soaking: Soaking,
) -> tuple[WorkToOrder, WorkToOrder]:
    """Return the work of opening, which ends as the repair wants the machine to lie or stand, and
    that of closing after it."""
    prices = ChangeoverMinutes(
        tuple((to, change.minutes) for to, change in tables.changes["posture"].items()),
        tables.strip.tool_minutes,
    )
    items: list[WorkItem] = []
    for name in operations:
        record = machine.operations[name]
        soaks: tuple[tuple[str, float], ...] = ()
        if record.soak_minutes:
            oil = f"{SOAKED}{name}"
            oiled = name in soaking
            laid = (
                WorkItem(oil, 0.0)
                if oiled
                else replace(_item(oil, record), minutes=tables.strip.oil_minutes)
            )
            items.append(replace(laid, tool=HANDS))
            soaks = ((oil, soaking[name] if oiled else record.soak_minutes),)
        after = (*_before(machine, record, operations), *(oil for oil, _ in soaks))
        items.append(replace(_item(name, record), after=after, soaks=soaks))
    opening = WorkToOrder(tuple(items), state.posture, prices, needs.posture)
    off = (*(name for name in state.off if name in machine.operations), *operations)
    return opening, WorkToOrder(
        tuple(_back(machine, name, off) for name in off),
        _last_posture(opening),
        prices,
        ends="upright",
    )


def _last_posture(opening: WorkToOrder) -> str:
    steps = _solved(opening).steps
    return opening.ends or (steps[-1].posture if steps else opening.posture)


def _item(name: str, record: OperationRecord) -> WorkItem:
    return WorkItem(name, record.minutes, record.tool, record.needs.posture, record.after)


def _before(
    machine: MachineType, record: OperationRecord, operations: tuple[str, ...]
) -> tuple[str, ...]:
    """Return what comes before an operation, the way it is done here."""
    instead = {machine.operations[name].instead: name for name in operations}
    return tuple(instead.get(before, before) for before in record.after)


def _back(machine: MachineType, name: str, off: tuple[str, ...]) -> WorkItem:
    """Return the work of putting one thing back: after all that lies under it."""
    record = machine.operations[name]
    names = {name, record.instead}
    under = [other for other in off if names & set(machine.operations[other].after)]
    later = [other for other in record.back_after if other in off]
    minutes = record.back_minutes or record.minutes
    after = tuple(dict.fromkeys([*under, *later]))
    return WorkItem(name, minutes, record.tool, record.needs.posture, after)


def _first(
    machine: MachineType,
    tables: Tables,
    state: MachineState,
    needs: Needs,
    *,
    operations: Iterable[str],
) -> tuple[tuple[str, str], ...]:
    """Return the changes that make it safe, in their order: what any of the operations, or the
    fitting, wants; plug and water out and the taps shut before it is tipped."""
    wanted: dict[str, str] = {}
    for asked in (*(machine.operations[name].needs for name in operations), needs):
        for field in STATES:
            value = getattr(asked, field)
            if value is not None and field != "posture":
                wanted.setdefault(field, value)
        if asked.posture == "tipped":
            wanted |= {"power": "off", "taps": "shut", "water": "out"}
    held = machine.charge is not None and state.power == "on" and wanted.get("power") == "off"
    present = replace(state, charge="held") if held else state
    return tuple(
        (field, wanted[field])
        for field in STATES
        if field in wanted and getattr(present, field) != wanted[field]
    )


def _minutes(machine: MachineType, tables: Tables, field: str, to: str) -> float:
    if field == "charge" and machine.charge:
        return machine.charge.wait_minutes
    return tables.changes[field][to].minutes
