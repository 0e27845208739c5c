"""Hold a library against the table of what may never be together, without a job: every check, step
of a service mode, proof and operation, from where its own needs lead."""

from collections.abc import Iterable, Iterator
from dataclasses import replace

from bottega.core.library.checks import both
from bottega.core.library.errors import Problem
from bottega.core.library.machine_type import Check, MachineType
from bottega.core.library.records import Needs
from bottega.core.library.references import placed
from bottega.core.library.shelf import Shelf
from bottega.core.library.tables import Tables
from bottega.core.library.vocabulary import Act
from bottega.core.machine.invariants import Standing, broken, opened, standing
from bottega.core.machine.reach import Reaching
from bottega.core.machine.service import READY, acts_of
from bottega.core.machine.state import MachineState

ARRIVES = MachineState(power="on", taps="open", water="in", drum="loaded", charge="held")
"""The worst a machine may stand in when a step is planned: whatever its needs do not name is so."""
RUNNING: frozenset[Act] = frozenset({"run", "fill", "pump", "heat"})
"""What a machine does by itself, for which it has to be plugged in."""

BY_HAND = ("Turn", "Rock", "Push", "Pull", "Hold", "Spin", "Lift", "Shake")
"""With these words begin the names of checks in which a hand moves what the motor may move."""

Found = Iterator[tuple[str, str, str]]
"""Problems: the key, what was found, what was expected."""


def check_safety(shelf: Shelf) -> list[Problem]:
    """Return every check, step, proof and operation of a library that breaks the table, with file
    and line; an empty list when none does."""
    found: dict[tuple[str, str, str], Problem] = {}
    for machine in sorted(shelf.machines(), key=lambda one: one.sheet or ""):
        home = machine.sheet or machine.archetype
        for problem in of_machine(machine, shelf.tables):
            found.setdefault(problem, placed(shelf, home, *problem))
    return list(found.values())


def of_machine(machine: MachineType, tables: Tables) -> Found:
    """Yield what of one machine breaks the table."""
    reaching = Reaching(machine, tables)
    yield from _checks(machine, tables, reaching)
    yield from _service(machine, tables, reaching)
    yield from _proofs(machine, tables, reaching)
    yield from _operations(machine, tables, reaching)


def _checks(machine: MachineType, tables: Tables, reaching: Reaching) -> Found:
    for check in machine.checks.values():
        if check.who == "customer":
            continue
        there = _arrived(machine, reaching, check.needs)
        live = check.needs.power == "on"
        lifted = live and check.who == "qualified"
        fed = "yes" if machine.components[check.component].may_be_fed else "no"
        for act in check.acts or ("look",):
            here = replace(there, doing=act, fed=fed)
            yield from _broken(f"checks.{check.id}", tables, here, lifted)
        yield from _contradicts(machine, check)
        under = [op for op in check.needs.off if machine.operations[op].face == "below"]
        if live and there.posture == "upright" and under:
            found = f"'{under[0]}', which is underneath, open on a machine that stands plugged in"
            yield f"checks.{check.id}.needs", found, "another place to measure at"


def _contradicts(machine: MachineType, check: Check) -> Found:
    """Yield where what a check does cannot be done with what it needs."""
    key = f"checks.{check.id}.needs"
    power = check.needs.power
    runs = sorted(RUNNING & set(check.acts))
    if runs and power == "off":
        yield key, f"power off, and the act '{runs[0]}'", "power on, or no such act"
    if "feed" in check.acts and power == "on":
        yield key, "the machine plugged in while a part is fed by itself", "power off"
    if "panel" in check.acts and power != "on":
        yield key, "the act 'panel' with no power", "power on"
    taken_out = machine.out.get(check.component, ())
    turns = any("moving" in machine.operations[op].opens for op in taken_out)
    if turns and check.name.split()[0] in BY_HAND and "turn_by_hand" not in check.acts:
        yield f"checks.{check.id}.acts", f"“{check.name}” without its act", "turn_by_hand"


def _service(machine: MachineType, tables: Tables, reaching: Reaching) -> Found:
    for name, step in machine.service.items():
        check = machine.checks.get(step.answers)
        needs = both(READY, check.needs) if check else READY
        there = _arrived(machine, reaching, needs)
        lifted = check is not None and check.who == "qualified"
        for act in dict.fromkeys(acts_of(step)):
            yield from _broken(f"service.{name}", tables, replace(there, doing=act), lifted)


def _proofs(machine: MachineType, tables: Tables, reaching: Reaching) -> Found:
    for name, proof in tables.proofs.proofs.items():
        there = _arrived(machine, reaching, proof.needs)
        doing = "run" if proof.needs.power == "on" else "look"
        yield from _broken(f"proofs.{name}", tables, replace(there, doing=doing), False)


def _operations(machine: MachineType, tables: Tables, reaching: Reaching) -> Found:
    for name, record in machine.operations.items():
        first = Needs(**{**record.needs.model_dump(), "off": record.after})
        there = _arrived(machine, reaching, first)
        off = (*reaching.closure(record.after), name)
        face = "" if record.face == "bench" else record.face
        doing = "touch" if record.needs.charge else ""
        here = replace(there, open=opened(machine, off), face=face, doing=doing)
        yield from _broken(f"operations.{name}", tables, here, False)


def _arrived(machine: MachineType, reaching: Reaching, needs: Needs) -> Standing:
    start = ARRIVES if machine.charge else replace(ARRIVES, charge="none")
    return standing(machine, reaching.arrived(start, needs))


def _broken(
    key: str, tables: Tables, here: Standing, lifted: bool
) -> Iterable[tuple[str, str, str]]:
    for row in broken(tables.invariants.rows, here, lifted):
        yield key, f"what breaks the row '{row.row}' ({row.why})", row.instead
