"""The library: what loads, and what is refused with file, line, key, found and expected."""

import shutil

import pytest

from bottega.core.library.errors import LibraryError
from bottega.core.library.shelf import DATA, UnknownMachine, read_shelf


@pytest.fixture
def folder(tmp_path):
    for sub in ("assemblies", "archetypes", "sheets", "on_rig", "wiring", "tables"):
        shutil.copytree(DATA / sub, tmp_path / sub)
    return tmp_path


def broken(folder, path, old, new):
    file = folder / path
    text = file.read_text(encoding="utf-8")
    assert old in text
    file.write_text(text.replace(old, new, 1), encoding="utf-8")
    with pytest.raises(LibraryError) as caught:
        read_shelf(folder)
    return caught.value.problems[0], text[: text.index(old)].count("\n") + 1


def test_the_slice_is_as_deep_as_asked(f7):
    assert len(f7.faults) >= 30
    assert len(f7.checks) >= 40
    assert sum(check.measure is not None for check in f7.checks.values()) >= 12
    assert len(f7.codes) >= 10
    assert f7.panel.kind == "strokes"


def test_every_distribution_sums_to_one(shelf):
    for machine in shelf.machines():
        for effect in machine.effects.values():
            assert sum(effect.background) == pytest.approx(1)
        for fault in machine.faults.values():
            assert all(sum(chances) == pytest.approx(1) for chances in fault.effects.values())
        for check in machine.checks.values():
            for k in range(len(machine.effects[check.effect].states)):
                assert sum(outcome.chances[k] for outcome in check.outcomes) == pytest.approx(1), (
                    check.id
                )


def test_everything_named_exists_and_is_placed(shelf):
    for machine in shelf.machines():
        assert set(machine.places) == set(machine.components)
        wanted = {op for c in machine.checks.values() for op in c.needs.off}
        wanted |= {op for c in machine.components.values() for op in c.reach.off}
        wanted |= {op for o in machine.operations.values() for op in o.after}
        assert wanted <= set(machine.operations)
        assert {part for c in machine.components.values() for part in c.connects} <= set(
            machine.components
        )
        assert {fault.component for fault in machine.faults.values()} <= set(machine.components)


def test_every_fault_is_seen_by_some_check_and_ended_by_some_repair(shelf):
    for machine in shelf.machines():
        read = {check.effect for check in machine.checks.values()}
        for fault in machine.faults.values():
            assert read & set(fault.effects), fault.id
            assert machine.repairs_of(fault.id), fault.id


def test_the_sheet_overrides_weights_values_and_prices(shelf):
    alone, sheet = shelf.machine("FB"), shelf.machine("FB", "nembrio-f7")
    assert sheet.faults["rotor_slips"].rate > alone.faults["rotor_slips"].rate
    assert "pump_coil_ohm" in sheet.values
    assert "pump_coil_ohm" not in alone.values
    assert sheet.parts["drain_pump"].price_eur == 44
    assert alone.revision != sheet.revision


@pytest.mark.parametrize(
    ("path", "old", "new", "found", "expected"),
    [
        ("assemblies/drain.yaml", "weight: 40", "weight: plenty", "'plenty'", "number"),
        ("assemblies/drain.yaml", "weight: 40", "weight: -4", "-4", "greater than 0"),
        ("assemblies/drain.yaml", "ageing: wear", "ageing: rust", "'rust'", "early"),
        (
            "assemblies/drain.yaml",
            "reads: rotor_feel",
            "reads: rotor_fell",
            "'rotor_fell'",
            "effect",
        ),
        ("assemblies/drain.yaml", "{jammed: often}", "{jamed: often}", "'jamed'", "steps"),
        ("assemblies/drain.yaml", "{jammed: often}", "{jammed: mostly}", "'mostly'", "always"),
        (
            "assemblies/drain.yaml",
            "{none: usually, slow: rarely}",
            "{none: 0.9, slow: 0.4}",
            "1.30",
            "at most 1",
        ),
        ("assemblies/drain.yaml", "tool: tray", "tool: trey", "'trey'", "tray"),
        (
            "sheets/nembrio-f7.yaml",
            "low: 165, high: 205",
            "low: 265, high: 205",
            "265",
            "low below high",
        ),
        (
            "sheets/nembrio-f7.yaml",
            'source: "Nembrio F7 sheet, page 3", grade: sheet}',
            "grade: sheet}",
            "nothing",
            "required",
        ),
    ],
)
def test_a_broken_file_is_refused_with_its_line(folder, path, old, new, found, expected):
    problem, line = broken(folder, path, old, new)
    assert problem.file == path.rpartition("/")[2]
    assert abs(problem.line - line) <= 1
    assert problem.key
    assert found in problem.found + problem.expected
    assert expected in problem.expected


def test_an_unknown_machine_names_the_nearest(shelf):
    with pytest.raises(UnknownMachine, match="nearest is 'nembrio-f7'"):
        shelf.machine("FB", "nembrio-f77")


@pytest.mark.parametrize(
    ("old", "new", "key", "expected"),
    [
        ("  rotor_play:", "  rotor_plays:", "effects.rotor_plays", "one of effects of drain.yaml"),
        ("  feed_pump:", "  fead_pump:", "checks.fead_pump", "one of checks of drain.yaml"),
        ("assembly: drain", "assembly: drane", "", "the name of an assembly"),
        ("    act: listen", "    act: hark", "checks.feed_pump.act", "'look', 'turn'"),
    ],
)
def test_a_recipe_of_nothing_is_refused_in_its_own_file(folder, old, new, key, expected):
    problem, line = broken(folder, "on_rig/drain.yaml", old, new)
    assert (problem.file, problem.key) == ("on_rig/drain.yaml", key)
    assert problem.line == line
    assert expected in problem.expected
