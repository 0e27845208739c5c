"""Texts and ways fit the kind of machine and how it stands: all kinds, all checks and repairs, from
every state."""

import re
from itertools import product

import pytest

from bottega.core.machine.reach import Reaching
from bottega.core.machine.state import MachineState

FRONT = ("FB", "FD", "FI", "WD")
TOP = ("SL", "TD", "TG", "TS")
NOT_ON_TOP = re.compile(r"\b(glass door|door|porthole|emergency hose|bellows|door glass)\b", re.I)
NOT_IN_FRONT = re.compile(r"\b(lid|basket|agitator|wash plate|centre post)\b", re.I)
STANDING = {
    "top", "panel_off", "board_cover", "lid_off", "plate_off", "agitator_cap", "tub_cover",
    "basket_out", "washer_top", "dispenser_out", "weights_off", "front_panel", "door_off",
    "rods_out", "tub_out",
}  # fmt: skip
"""Operations nobody does on a machine that lies."""
STATES = [
    MachineState(power=power, water=water, posture=posture)
    for power, water, posture in product(
        ("on", "off"), ("in", "out", "unknown"), ("upright", "tipped")
    )
    if not (posture == "tipped" and (power == "on" or water != "out"))
]


def texts(machine, tables):
    """Return all that is said on the screens about a kind of machine, with where it is from."""
    for check in machine.checks.values():
        for text in (check.name, check.caution, check.why, *check.steps):
            yield f"check {check.id}", text
        for outcome in check.outcomes:
            yield f"outcome {check.id}", outcome.label
    for name, operation in machine.operations.items():
        for text in (operation.name, operation.caution, operation.mark, operation.back):
            yield f"operation {name}", text
    for name, fault in machine.faults.items():
        for text in (fault.name, fault.ask_why):
            yield f"fault {name}", text
    for name, complaint in machine.complaints.items():
        yield f"complaint {name}", complaint.record.says
    for name, repair in machine.repairs.items():
        yield f"repair {name}", repair.name
    for name, component in machine.components.items():
        for text in (component.name, component.function):
            yield f"component {name}", text
    for field, changes in tables.changes.items():
        for change in changes.values():
            for text in (change.name, change.caution, change.done):
                yield f"state {field}", text


def test_no_text_names_what_this_kind_of_machine_does_not_have(shelf):
    wrong = []
    for machine in shelf.machines():
        lacks = NOT_IN_FRONT if machine.archetype in FRONT else NOT_ON_TOP
        wrong += [
            (machine.archetype, where, text)
            for where, text in texts(machine, shelf.tables)
            if text and lacks.search(text)
        ]
    assert wrong == []


@pytest.mark.parametrize("kind", [*FRONT, *TOP])
@pytest.mark.parametrize("start", STATES, ids=lambda s: f"{s.power}-{s.water}-{s.posture}")
def test_every_way_fits_how_the_machine_stands(shelf, kind, start):
    machine = shelf.machine(kind)
    reaching = Reaching(machine, shelf.tables)
    wanted = [check.needs for check in machine.checks.values()]
    wanted += [repair.needs for repair in machine.repairs.values()]
    for needs in wanted:
        here = start
        for step in reaching.reach(start, needs).steps:
            if step.kind == "operation":
                assert step.to not in STANDING or here.posture == "upright", step
                here = MachineState(**{**vars(here), "off": (*here.off, step.to)})
                continue
            assert (step.what, here.water) != ("water", step.to), "water that is out is let out"
            if step.to == "tipped":
                assert here.water == "out"
            if (step.what, step.to) == ("power", "on"):
                assert here.posture == "upright"
            here = here.changed(step.what, step.to, machine.charge is not None)
        assert here.meets(needs)


def test_nothing_is_drained_to_measure_what_lies_outside_the_water(shelf):
    for machine in shelf.machines():
        reaching = Reaching(machine, shelf.tables)
        full = MachineState(power="off", water="in")
        for name in ("measure_element", "measure_element_earth", "measure_thermistor"):
            if name in machine.checks:
                steps = reaching.reach(full, machine.checks[name].needs).steps
                changed = {step.what for step in steps}
                assert "water" not in changed or "posture" in changed, (machine.archetype, name)
        if "element.part" in machine.repairs:
            steps = reaching.reach(full, machine.repairs["element.part"].needs).steps
            assert ("water", "out") in [(step.what, step.to) for step in steps]


def test_rubber_and_plastic_are_not_oiled_struck_or_heated(shelf):
    """What is tried on a joint that sticks goes by what it is made of; every joint has its own."""
    joints = shelf.tables.joints
    for kind in ("inner band", "spring band", "pin", "cap", "clip"):
        ladder = " ".join(joints.of(kind).stuck)
        assert not re.search(r"\b(oil|impact|hammer|tap|heat|flame|drill|lever)", ladder, re.I), (
            kind
        )
        assert joints.of(kind).soak_minutes == 0
    used = {f.kind for m in shelf.machines() for o in m.operations.values() for f in o.fasteners}
    assert all(joints.of(kind) is not joints.kinds["other"] for kind in used)
