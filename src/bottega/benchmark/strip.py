"""What the plans of opening are worth: every part of every kind, against the order of the assembly
list; how long planning and the stack finder take; how many made-up pieces of work brute force
agrees on."""

from collections.abc import Callable
from itertools import permutations
from random import Random
from time import perf_counter

from pydantic import BaseModel

from bottega.core.bearings.stack import Seat, stacks, stock_of
from bottega.core.library.hub_record import Bore, Land
from bottega.core.library.machine_type import MachineType
from bottega.core.library.shelf import shipped_shelf
from bottega.core.library.tables import Tables
from bottega.core.machine.state import MachineState
from bottega.core.strip.order import ChangeoverMinutes, NoOrder, WorkItem, WorkToOrder, timed
from bottega.core.strip.plan import forget, naive_minutes, plan
from bottega.core.strip.shortest import shortest

DEEP_MM = 24.0
"""Depth of the seats that are filled; the deepest of a washer."""


class PlannedPart(BaseModel):
    """One part: what its plan takes in minutes there and back, and the order of the list; its
    proofs by what was open; tips, tool changes, and how long it took to plan."""

    archetype: str
    target: str
    minutes: float
    naive_minutes: float
    proof_minutes: float
    tips: int
    tool_changes: int
    ways: int
    optimal: bool
    solve_s: float


class StripBench(BaseModel):
    """All plans; the worst time of the stack finder over every shaft and bore of the table, in
    milliseconds; the cases brute force agreed on, and those it did not."""

    plans: list[PlannedPart]
    stack_finder_ms: float
    brute_force_cases: int
    brute_force_misses: int


def strip_rows(bench: StripBench) -> tuple[list[str], list[list[str]]]:
    """Return the plans as a table: its head, its rows, what was measured at the end."""
    head = ["kind", "part", "min", "by the list", "tips", "tools", "proofs", "proved", "ms"]
    rows = [
        [
            one.archetype,
            one.target,
            f"{one.minutes:.1f}",
            f"{one.naive_minutes:.1f}",
            f"{one.tips}",
            f"{one.tool_changes}",
            f"{one.proof_minutes:.0f}",
            "yes" if one.optimal else "no",
            f"{1000 * one.solve_s:.0f}",
        ]
        for one in bench.plans
    ]
    proved = sum(one.optimal for one in bench.plans)
    slow = max(one.solve_s for one in bench.plans)
    told = [
        ["all", "proved", f"{proved} of {len(bench.plans)}"],
        ["all", "slowest plan, ms (goal 1000)", f"{1000 * slow:.0f}"],
        ["all", "stack finder, ms (goal 100)", f"{bench.stack_finder_ms:.0f}"],
        ["all", "brute force agrees", f"{bench.brute_force_cases}"],
        ["all", "brute force differs", f"{bench.brute_force_misses}"],
    ]
    return head, rows + [[*row, *[""] * (len(head) - len(row))] for row in told]


def bench_strip(seed: int, cases: int, say: Callable[[str], None]) -> StripBench:
    """Plan every part of every kind from closed, fill the seats of the whole seal table, and hold
    the search against brute force."""
    shelf = shipped_shelf()
    plans = []
    for name in shelf.archetypes:
        say(name)
        plans += _planned(shelf.machine(name), shelf.tables)
    rng = Random(seed)
    missed = sum(not _agrees(_made(rng)) for _ in range(cases))
    return StripBench(
        plans=plans,
        stack_finder_ms=_slowest_stack(shelf.tables),
        brute_force_cases=cases - missed,
        brute_force_misses=missed,
    )


def _planned(machine: MachineType, tables: Tables) -> list[PlannedPart]:
    found = []
    for repair in machine.repairs.values():
        if repair.do != "part":
            continue
        forget()
        begun = perf_counter()
        planned = plan(machine, tables, MachineState(), repair.way)
        took, best = perf_counter() - begun, planned.best
        owed = {proof for name in best.operations for proof in machine.operations[name].owes}
        owed |= set(machine.components[repair.component].owes)
        found.append(
            PlannedPart(
                archetype=machine.archetype,
                target=repair.component,
                minutes=round(best.minutes, 1),
                naive_minutes=round(naive_minutes(machine, tables, MachineState(), repair.way), 1),
                proof_minutes=sum(tables.strip.proofs[proof] for proof in owed),
                tips=best.tips,
                tool_changes=best.tool_changes,
                ways=len(planned.ways),
                optimal=best.optimal,
                solve_s=took,
            )
        )
    return found


def _slowest_stack(tables: Tables) -> float:
    sizes = sorted({(one.shaft_mm, one.bore_mm) for one in stock_of(tables.seals)})
    worst = 0.0
    for shaft, bore in sizes:
        seat = Seat(
            (Bore.model_validate({"from": 0, "to": DEEP_MM, "mm": bore}),),
            (Land.model_validate({"from": 0, "to": 2 * DEEP_MM, "mm": shaft}),),
        )
        begun = perf_counter()
        stacks(tables.seals, seat)
        worst = max(worst, perf_counter() - begun)
    return 1000 * worst


def _made(rng: Random) -> WorkToOrder:
    items = []
    for n in range(rng.randint(2, 7)):
        after = tuple(f"i{m}" for m in range(n) if rng.random() < 0.3)
        soaks = ((after[0], 12.0),) if after and rng.random() < 0.3 else ()
        posture = rng.choice([None, "upright", "tipped"])
        tool = rng.choice(["none", "screwdriver", "spanner"])
        items.append(WorkItem(f"i{n}", rng.choice([1.0, 4.0]), tool, posture, after, soaks))
    prices = ChangeoverMinutes((("upright", 2.0), ("tipped", 3.0)), 0.5)
    return WorkToOrder(tuple(items), "upright", prices, rng.choice([None, "upright"]))


def _agrees(work: WorkToOrder) -> bool:
    least = float("inf")
    for ids in permutations([item.id for item in work.items]):
        try:
            least = min(least, timed(work, ids).minutes)
        except NoOrder:
            continue
    return abs(shortest(work).minutes - least) < 0.06
