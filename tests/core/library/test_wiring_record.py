"""The wiring: facts that join, and what nothing feeds."""

import shutil

import pytest
from pydantic import ValidationError

from bottega.core.library.errors import LibraryError
from bottega.core.library.shelf import DATA, read_shelf
from bottega.core.library.wiring_record import WayRecord, points, unfed


def way(kind, first, second, of="board"):
    return WayRecord.model_validate({"is": kind, "of": of, "between": [first, second]})


def test_a_conductor_joins_two_points():
    with pytest.raises(ValidationError, match=r"found both ends at pump\.1, expected two points"):
        way("wire", "pump.1", "pump.1")
    with pytest.raises(ValidationError, match="String should match pattern"):
        way("wire", "pump 1", "pump.2")


def test_a_load_wants_a_way_to_live_and_another_to_neutral():
    ways = {
        "out": way("contact", "mains.L", "pump.1"),
        "pump": way("load", "pump.1", "pump.2"),
        "back": way("wire", "pump.2", "socket.N"),
        "wet": way("insulation", "mains.L", "fan.1"),
        "fan": way("load", "fan.1", "pump.2"),
    }
    assert unfed(ways) == ["fan"]
    assert unfed({name: one for name, one in ways.items() if name != "back"}) == ["pump", "fan"]
    assert points(ways)[:3] == ["mains.L", "pump.1", "pump.2"]


@pytest.mark.parametrize("kind", ["FB", "FD", "FI", "WD", "TS", "TD", "TG", "SL"])
def test_every_kind_s_loads_are_fed_and_belong_to_its_components(shelf, kind):
    machine = shelf.machine(kind)
    loads = [name for name, one in machine.wiring.items() if one.is_ == "load"]
    assert {"cold_coil", "pump_coil", "motor_coil"} <= set(loads)
    assert unfed(machine.wiring) == []
    assert all(set(one.of) & set(machine.components) for one in machine.wiring.values())


def test_a_sheet_has_its_own_conductors_and_one_that_feeds_nothing_is_refused(shelf):
    both_poles = shelf.machine("FB", "nembrio-f9").wiring["element_back"]
    assert both_poles.is_ == "contact"
    assert shelf.machine("FB", "nembrio-f7").wiring["element_back"].is_ == "wire"
    cut = shelf.sheets["nembrio-f9"].model_copy(update={"wiring": {"pump_back": None}})
    shelf = type(shelf)(
        shelf.tables, shelf.assemblies, shelf.archetypes, {"cut": cut}, {}, wirings=shelf.wirings
    )
    with pytest.raises(LibraryError, match="'pump_coil', a load that nothing feeds"):
        shelf.machine("FB", "cut")


@pytest.mark.parametrize(
    ("file", "text", "found"),
    [
        (
            "drain",
            "assembly: drain\nways:\n  a: {is: wire, of: pomp, between: [a.1, a.2]}\n",
            "pomp",
        ),
        ("nowhere", "assembly: nowhere\nways: {}\n", "nowhere"),
    ],
)
def test_a_wiring_of_nothing_is_named_by_its_line(tmp_path, file, text, found):
    for sub in ("assemblies", "archetypes", "sheets", "on_rig", "wiring", "tables"):
        shutil.copytree(DATA / sub, tmp_path / sub)
    (tmp_path / "wiring" / f"{file}.yaml").write_text(text, encoding="utf-8")
    with pytest.raises(LibraryError, match=rf"wiring/{file}\.yaml:\d+ .*'{found}'"):
        read_shelf(tmp_path)
