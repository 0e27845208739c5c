"""How fast the rig runs, how well it keeps heat and water, how much of the library it can show."""

import ast
from collections.abc import Callable
from concurrent.futures import ProcessPoolExecutor
from os import cpu_count
from pathlib import Path
from time import perf_counter

from pydantic import BaseModel

from bottega.benchmark.chosen import Redrawn, hangs_on_chosen
from bottega.benchmark.mildest import Mildest, mildest
from bottega.benchmark.policy import ready, workshop
from bottega.benchmark.worked import EXAMPLES
from bottega.rig import machine as machine_module
from bottega.rig.circuit import JOINTS
from bottega.rig.faults import injectable
from bottega.rig.machine import Machine, machine_of
from bottega.rig.parameters import joints, loads
from bottega.rig.programmes import SHORT, programmes_of
from bottega.rig.values import Values

TIMED = ("nembrio-f7", "cottons_60")
PHYSICS = Path(machine_module.__file__).parent
ONLY_TOLD = ("quantities", "asking", "values", "specimen", "memory", "traces")
"""Modules that tell of a machine and make nothing of it happen."""
ROUNDING_W = 1e-6
TIMED_S = 3600.0
"""The wash that is timed: its sheet, its programme, an hour of it."""


class Ended(BaseModel):
    """One programme of one kind: how many sound machines ran it, to its end and without a code."""

    sheet: str
    programme: str
    machines: int
    ended: int
    without_code: int
    worst_minutes: float


class RigBench(BaseModel):
    """What was measured; errors are shares of what was put in."""

    seed: int
    sim_minutes_per_s: float
    balance_heat: float
    balance_water: float
    watts_over_va: int
    """Steps of sound machines in which more watts than volts times amperes flowed."""
    unread_parameters: int
    """Values that no physics reads: what only looks, hands and recipes speak of."""
    examples: int
    """Worked examples: cases whose figure was found by hand."""
    examples_held: int
    faults_injectable: int
    faults: int
    checks_with_recipe: int
    checks: int
    sound: list[Ended]
    visible_at_mildest: list[Mildest] = []
    redrawn: list[Redrawn] = []


def bench_rig(
    seed: int, specimens: int, say: Callable[[str], None], *, faulty: int = 0, draws: int = 0
) -> RigBench:
    """Return the rig's speed, balances and reach; with ``specimens`` above nought also how many
    sound machines of each sheet end each programme without a code; with ``faulty`` the grey zone on
    so many machines of each fault; with ``draws`` what hangs on the chosen figures of its code."""
    shelf = workshop().shelf
    say("an hour of wash")
    speed = max(_timed(seed + n) for n in range(3))
    say("heat and water")
    energy, water = balances(seed)
    say("watts against volts and amperes")
    over = sum(watts_over_va(seed, sheet) for sheet in shelf.sheets)
    machines = [shelf.machine(name) for name in shelf.archetypes]
    faults = {fault for machine in machines for fault in machine.faults}
    checks = {check.id: check for machine in machines for check in machine.checks.values()}
    told = [c for c in checks.values() if c.on_rig is not None and c.on_rig.act != "social"]
    return RigBench(
        seed=seed,
        sim_minutes_per_s=round(speed, 1),
        balance_heat=energy,
        balance_water=water,
        watts_over_va=over,
        unread_parameters=len(unread()),
        examples=len(EXAMPLES),
        examples_held=sum(one.held for one in EXAMPLES),
        faults_injectable=len(injectable(dict.fromkeys(faults))),
        faults=len(faults),
        checks_with_recipe=len(told),
        checks=len(checks),
        sound=_sound(seed, specimens, say) if specimens else [],
        visible_at_mildest=[mildest(kind, seed, faulty, say) for kind in shelf.archetypes]
        if faulty
        else [],
        redrawn=[hangs_on_chosen(kind, seed, draws, say) for kind in shelf.archetypes]
        if draws
        else [],
    )


def _timed(seed: int) -> float:
    sheet, programme = TIMED
    shelf = workshop().shelf
    machine = machine_of(shelf.machine(shelf.sheet(sheet).archetype, sheet), f"timed:{seed}")
    start = perf_counter()
    machine.run(programme, most_s=TIMED_S)
    return machine.now.seconds / 60 / (perf_counter() - start)


def balances(seed: int) -> tuple[float, float]:
    """Return the largest error of heat and of water over every sheet, each as a share of what
    came in."""
    shelf, worst_heat, worst_water = workshop().shelf, 0.0, 0.0
    for sheet in shelf.sheets:
        machine = machine_of(shelf.machine(shelf.sheet(sheet).archetype, sheet), f"balance:{seed}")
        machine.run(SHORT)
        worst_heat = max(worst_heat, heat_error(machine))
        worst_water = max(worst_water, water_error(machine))
    return worst_heat, worst_water


def watts_over_va(seed: int, sheet: str) -> int:
    """Return in how many steps of a programme a sound machine took more watts than volts times
    amperes."""
    shelf = workshop().shelf
    machine = machine_of(shelf.machine(shelf.sheet(sheet).archetype, sheet), f"power:{seed}")
    over = 0

    def look(one: Machine) -> None:
        nonlocal over
        over += one.now.watts > one.now.volts * one.now.ampere + ROUNDING_W

    machine.telemetry = look
    machine.run(SHORT)
    return over


def unread() -> set[str]:
    """Return the values that no module of the physics reads by name. Those of loads and joints,
    whose names are put together, count as read, and those by which a table opens a joint or joins
    two points."""
    read = {name for joint in joints().values() for name in joint.opened_by}
    read |= {f"{name}_ohm" for name in JOINTS.values()}
    for path in sorted(PHYSICS.glob("*.py")):
        if path.stem not in ONLY_TOLD:
            tree = ast.parse(path.read_text(encoding="utf-8"))
            read |= {node.attr for node in ast.walk(tree) if isinstance(node, ast.Attribute)}
    together = tuple(f"{load}_" for load in loads())
    return {
        name
        for name in Values.__dataclass_fields__
        if name not in read and not name.startswith(together) and not name.endswith("_mm2")
    }


def heat_error(machine: Machine) -> float:
    """Return what is missing of a machine's heat, as a share of what was put in and carried in."""
    warmth = machine.warmth
    through = (
        abs(warmth.put_in) + abs(warmth.carried_in) + abs(warmth.carried_out) + abs(warmth.lost)
    )
    left = warmth.put_in + warmth.carried_in - warmth.carried_out - warmth.lost - warmth.stored
    return abs(left) / max(through, 1.0)


def water_error(machine: Machine) -> float:
    """Return what is missing of a machine's water, as a share of what came in."""
    now = machine.now
    left = now.water_in_l + now.water_by_hand_l - now.water_out_l - now.leaked_l
    left -= machine.warmth.litres + machine.warmth.steamed_l + machine.air.holds_l
    return abs(left) / max(now.water_in_l, 1.0)


def _sound(seed: int, specimens: int, say: Callable[[str], None]) -> list[Ended]:
    shelf = workshop().shelf
    tasks = [
        (sheet, programme, seed, specimens)
        for sheet in shelf.sheets
        for programme in programmes_of(shelf.machine(shelf.sheet(sheet).archetype, sheet))
    ]
    found = []
    with ProcessPoolExecutor(cpu_count(), initializer=ready) as pool:
        for one in pool.map(_ran, tasks):
            say(f"{one.sheet} {one.programme}: {one.ended} of {one.machines} ended")
            found.append(one)
    return found


def _ran(task: tuple[str, str, int, int]) -> Ended:
    sheet, programme, seed, specimens = task
    shelf = workshop().shelf
    kind = shelf.machine(shelf.sheet(sheet).archetype, sheet)
    ended = clean = 0
    longest = 0.0
    for n in range(specimens):
        machine = machine_of(kind, f"sound:{seed}:{n}")
        machine.run(programme)
        ended += machine.board.stopped is None and machine.board.done
        clean += not machine.board.codes
        longest = max(longest, machine.now.seconds / 60)
    return Ended(
        sheet=sheet,
        programme=programme,
        machines=specimens,
        ended=ended,
        without_code=clean,
        worst_minutes=round(longest, 1),
    )


def rig_rows(bench: RigBench) -> tuple[list[str], list[list[str]]]:
    """Return the figures as a table: its head, its rows."""
    rows = [
        ["simulated minutes a second", f"{bench.sim_minutes_per_s:.0f}", ">= 60"],
        ["heat missing, share", f"{bench.balance_heat:.1e}", "<= 1 %"],
        ["water missing, share", f"{bench.balance_water:.1e}", "<= 1 %"],
        ["steps with more watts than volts times amperes", str(bench.watts_over_va), "0"],
        ["values no physics reads", str(bench.unread_parameters), "0"],
        ["worked examples held", f"{bench.examples_held} of {bench.examples}", "all"],
        ["faults it can have", f"{bench.faults_injectable} of {bench.faults}", ">= 120"],
        ["checks with a recipe", f"{bench.checks_with_recipe} of {bench.checks}", "all but social"],
    ]
    rows += [
        [
            f"{one.sheet}, {one.programme}",
            f"{one.ended} of {one.machines} ended, {one.without_code} without a code",
            "all",
        ]
        for one in bench.sound
    ]
    rows += [
        [
            f"{one.kind}, faults seen on some machines at their mildest",
            f"{one.in_between:.0%} of {len(one.shows)}",
            ">= 80 %",
        ]
        for one in bench.visible_at_mildest
    ]
    rows += [
        [
            f"{one.kind}, what faults change told the same with all chosen figures drawn anew",
            f"{one.kept_share:.1%} of {one.changed}, {one.ended} of {one.draws} sound ones ended",
            "as it comes out",
        ]
        for one in bench.redrawn
    ]
    return ["measure", "found", "goal"], rows
