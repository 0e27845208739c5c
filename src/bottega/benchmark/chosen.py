"""How much of the rig hangs on what was chosen: every chosen figure of its code drawn anew within
its range, and whether machines still do and show the same."""

import ast
import sys
from collections.abc import Callable, Iterator
from concurrent.futures import ProcessPoolExecutor
from contextlib import contextmanager
from importlib import import_module
from itertools import pairwise
from os import cpu_count
from pathlib import Path
from random import Random
from types import ModuleType

from pydantic import BaseModel

from bottega.benchmark.mildest import states_of
from bottega.benchmark.policy import ready, workshop
from bottega.core.library.machine_type import MachineType
from bottega.rig import machine as machine_module
from bottega.rig.faults import injectable
from bottega.rig.machine import machine_of
from bottega.rig.programmes import SHORT
from bottega.rig.quantities import card_s

CHOSEN_WITHIN = 0.25
"""The range of what is chosen in the rig's code: a quarter of itself to each side."""
GRAVE = 0.8
"""How severe the faults are that are looked at; chosen, well beyond the grey zone."""
PHYSICS = Path(machine_module.__file__).parent
Task = tuple[str, int, int]
"""Kind, seed, number of the draw."""


class Redrawn(BaseModel):
    """Of one kind, over so many draws of all chosen figures at once."""

    kind: str
    draws: int
    ended: int
    """Draws in which a sound machine ran every function to its end without a code."""
    changed: int
    """Effects that a fault tells otherwise than a sound machine, over all faults and draws."""
    kept: int
    """Those of them that are told the same with the drawn figures."""

    @property
    def kept_share(self) -> float:
        """Return the share of what faults change that is told the same."""
        return self.kept / self.changed if self.changed else 1.0


def chosen() -> dict[str, float]:
    """Return every figure of the rig's code whose docstring says that it was chosen, by name."""
    found: dict[str, float] = {}
    for path in sorted(PHYSICS.glob("[!_]*.py")):
        body = ast.parse(path.read_text(encoding="utf-8")).body
        module = import_module(f"bottega.rig.{path.stem}")
        for line, said in pairwise(body):
            if isinstance(line, ast.Assign) and "chosen" in _words(said).lower():
                found |= {name: getattr(module, name) for name in _names(line)}
    return {name: value for name, value in found.items() if isinstance(value, float)}


def _words(node: ast.stmt) -> str:
    value = node.value if isinstance(node, ast.Expr) else None
    return value.value if isinstance(value, ast.Constant) and isinstance(value.value, str) else ""


def _names(line: ast.Assign) -> list[str]:
    return [node.id for to in line.targets for node in ast.walk(to) if isinstance(node, ast.Name)]


def _rig_modules() -> list[ModuleType]:
    return [module for name, module in sys.modules.items() if name.startswith("bottega.rig.")]


@contextmanager
def redrawn(figures: dict[str, float]) -> Iterator[None]:
    """Let the rig work with other figures of these names for a while, in every module that has
    them; what a card says of a programme's length goes with them."""
    places = [(at, name) for at in _rig_modules() for name in figures if hasattr(at, name)]
    before = [(at, name, getattr(at, name)) for at, name in places]
    try:
        for at, name in places:
            setattr(at, name, figures[name])
        card_s.cache_clear()
        yield
    finally:
        for at, name, value in before:
            setattr(at, name, value)
        card_s.cache_clear()


def drawn(seed: str) -> dict[str, float]:
    """Return one draw of every chosen figure, each anywhere in its range."""
    random = Random(seed)
    return {
        name: value * random.uniform(1 - CHOSEN_WITHIN, 1 + CHOSEN_WITHIN)
        for name, value in chosen().items()
    }


def hangs_on_chosen(kind: str, seed: int, draws: int, say: Callable[[str], None]) -> Redrawn:
    """Return what a kind still does and shows when every chosen figure is drawn anew, so many
    times."""
    say(f"{kind}: {len(chosen())} chosen figures, drawn {draws} times")
    tasks = [(kind, seed, draw) for draw in range(draws)]
    with ProcessPoolExecutor(cpu_count(), initializer=ready) as pool:
        ran = list(pool.map(_one_draw, tasks))
    ended, changed, kept = (sum(each) for each in zip(*ran, strict=True))
    return Redrawn(kind=kind, draws=draws, ended=ended, changed=changed, kept=kept)


def _one_draw(task: Task) -> tuple[int, int, int]:
    kind, seed, draw = task
    machine = workshop().shelf.machine(kind)
    name = f"chosen:{seed}:{draw}"
    figures = drawn(f"{name}:figures")
    with redrawn(figures):
        ended = _ends(machine, name)
    sound, changed, kept = states_of(machine, name, {}), 0, 0
    for fault in injectable(machine.faults):
        as_it_is = states_of(machine, name, {fault: GRAVE})
        with redrawn(figures):
            other = states_of(machine, name, {fault: GRAVE})
        told = [each for each in as_it_is if as_it_is[each] != sound.get(each)]
        changed += len(told)
        kept += sum(as_it_is[each] == other.get(each) for each in told)
    return ended, changed, kept


def _ends(machine: MachineType, seed: str) -> bool:
    run = machine_of(machine, seed)
    run.run(SHORT)
    return run.board.done and run.board.stopped is None and not run.board.codes
