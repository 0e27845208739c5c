"""The library held against the table of what may never be, without a job: it is clean, and each
rule finds what it is there for."""

from dataclasses import replace

import pytest

from bottega.core.library.records import Needs
from bottega.core.machine.audit import check_safety, of_machine

KINDS = ["FB", "FD", "FI", "SL", "TD", "TG", "TS", "WD"]


def test_the_library_breaks_no_row(shelf):
    assert check_safety(shelf) == []


def found(shelf, kind, check, **changes):
    """Return what is found of a machine whose check is made otherwise."""
    machine = shelf.machine(kind)
    other = replace(machine.checks[check], **changes)
    worse = replace(machine, checks={**machine.checks, check: other})
    return [text for key, text, _ in of_machine(worse, shelf.tables) if check in key]


@pytest.mark.parametrize(
    ("kind", "check", "changes", "says"),
    [
        ("TG", "watch_stroke", {"who": "technician"}, "live_open"),
        ("FB", "turn_drum", {"needs": Needs(power="on")}, "by_hand_live"),
        (
            "FB",
            "turn_drum",
            {"needs": Needs(power="on"), "acts": ("turn_by_hand",)},
            "by_hand_live",
        ),
        ("FB", "watch_all", {"needs": Needs(power="off")}, "power off, and the act 'run'"),
        ("FB", "measure_element", {"acts": ("feed",), "needs": Needs(power="off")}, "fed_alone"),
        ("FB", "look_bellows", {"needs": Needs(power="off")}, "door_full"),
        (
            "TD",
            "measure_sensor_toggle",
            {"needs": Needs(power="on", off=("rear_panel",))},
            "which is underneath",
        ),
        ("FB", "lamp_test", {"needs": Needs(power="off")}, "panel"),
    ],
)
def test_each_rule_finds_what_it_is_there_for(shelf, kind, check, changes, says):
    assert any(says in text for text in found(shelf, kind, check, **changes))


def test_an_operation_at_a_face_nobody_comes_at_is_found(shelf):
    machine = shelf.machine("TS")
    record = machine.operations["pump_out"]
    upright = record.model_copy(
        update={"needs": record.needs.model_copy(update={"posture": "upright"})}
    )
    worse = replace(machine, operations={**machine.operations, "pump_out": upright})
    told = [text for key, text, _ in of_machine(worse, shelf.tables) if "pump_out" in key]
    assert any("underneath" in text for text in told)


@pytest.mark.parametrize("kind", KINDS)
def test_what_carries_an_earth_wire_owes_the_earth(shelf, kind):
    """Whoever had a plug with the earth's wire off measures the earth before it is plugged in."""
    machine = shelf.machine(kind)
    for name, plug in machine.connectors.items():
        if any(pin.goes == "earth" for pin in plug.pins.values()) and machine.out.get(name):
            owed = {p for op in machine.out[name] for p in machine.operations[op].owes}
            owed |= set(machine.components[name].owes)
            assert "earth" in owed, name


@pytest.mark.parametrize("kind", KINDS)
def test_every_kind_has_an_earth_that_is_measured_and_a_customer_who_is_heard(shelf, kind):
    machine = shelf.machine(kind)
    check = machine.checks["measure_earth"]
    assert "earth tester" in shelf.tables.tools[check.tool].name
    assert machine.complaints["says_tingle"].effect in machine.faults["earth_loose"].effects
    assert machine.faults["earth_loose"].severity == "dangerous"


@pytest.mark.parametrize("kind", ["SL", "TG"])
def test_what_has_no_heater_has_no_relay_of_one(shelf, kind):
    machine = shelf.machine(kind)
    assert not {"board_relay_welded"} & set(machine.faults)
    assert not {"measure_relay_ohm", "measure_relays"} & set(machine.checks)


@pytest.mark.parametrize("kind", ["TS", "TD", "TG", "SL"])
def test_a_tub_is_unhooked_last_and_by_two(shelf, kind):
    machine = shelf.machine(kind)
    assert machine.operations["tub_out"].after == ("tub_unhooked",)
    assert machine.operations["tub_unhooked"].people == 2
    assert {"basket_out", "sump_off"} <= set(machine.operations["tub_unhooked"].after)
    assert machine.operations["rods_out"].people == 2


def test_a_stacked_centre_is_worked_on_from_the_front(shelf):
    """Of what is read below, only gearcase and bearings still lay it down."""
    machine = shelf.machine("SL")
    laid = {name for name, check in machine.checks.items() if check.needs.posture == "tipped"}
    assert laid <= {"bearings_in_hand", "look_seal_face", "gearcase_in_hand"}
