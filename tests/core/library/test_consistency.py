"""The full library: deep enough, whole, every fault found from what it would produce, every problem
reported."""

import pytest
from tests.engine import model_of

from bottega.core.diagnosis.evidence import Evidence, answered, said
from bottega.core.diagnosis.infer import infer
from bottega.core.diagnosis.prior import prior
from bottega.core.library.consistency import (
    check_library,
    inseparable,
    stats,
)
from bottega.core.library.shelf import read_shelf
from bottega.core.library.speaking import telling_checks
from bottega.core.panel.decoder import PanelError, decode, decode_text

ARCHETYPES = ["FB", "FD", "FI", "SL", "TD", "TG", "TS", "WD"]
FINDINGS = 8


def test_the_shipped_library_is_whole(shelf):
    assert check_library(shelf) == []


def test_it_is_as_deep_as_asked(shelf):
    counts = stats(shelf)
    total = counts["total"]
    assert sorted(shelf.archetypes) == ARCHETYPES
    assert total["faults"] >= 110
    assert total["checks"] >= 200
    assert total["measurements"] >= 60
    assert total["effects"] >= 120
    for name in ARCHETYPES:
        assert counts[name]["operations"] >= 30
        assert counts[name]["sheets"] >= 1
        assert counts[name]["service_steps"] >= (0 if name == "TG" else 12)
    for sheet in shelf.sheets:
        record = shelf.sheet(sheet)
        assert sheet == "pellandra-400" or len(record.codes) >= 12
        assert record.like or any(len(numbers) == 2 for numbers in record.parts.values())
        assert record.paper
        assert len(record.programmes) >= 2


@pytest.mark.parametrize("name", ARCHETYPES)
def test_no_pair_of_faults_is_inseparable_unless_repaired_together(shelf, name):
    assert [pair for pair in inseparable(shelf.machine(name)) if not pair.together] == []


def produced(machine, fault, effect, rows):
    """The answer a fault would produce: the likeliest of its likeliest state."""
    states = machine.faults[fault].effects[effect]
    k = max(range(len(states)), key=lambda i: states[i])
    return max(rows, key=lambda row: row[1][k])[0]


def findings_of(machine, fault):
    """What the customer would say of a fault, then its telling checks, eight in all."""
    told = []
    for complaint in machine.complaints.values():
        states = machine.faults[fault].effects.get(complaint.effect)
        if states and max(range(len(states)), key=lambda k: states[k]) > 0 and len(told) < 2:
            told.append(said(complaint.id, complaint, 0))
    for check_id, _ in telling_checks(machine, fault)[: FINDINGS - len(told)]:
        check = machine.checks[check_id]
        outcome = produced(
            machine, fault, check.effect, [(o.id, o.chances) for o in check.outcomes]
        )
        told.append(answered(check_id, check, outcome, 0))
    return told


@pytest.mark.parametrize("name", ARCHETYPES)
def test_every_fault_is_found_in_eight_findings(shelf, name):
    """Ten at random were asked for; all of them are tried, so that no seed is lucky."""
    machine = shelf.machine(name)
    model = model_of(machine)
    before = prior(model, 8, shelf.tables.engine)
    missed = []
    for fault in machine.faults:
        told = findings_of(machine, fault)
        assert len(told) <= FINDINGS
        chances = infer(model, before, Evidence(tuple(told))).fault_now()
        if max(chances, key=lambda f: chances[f]) != fault:
            missed.append(fault)
    assert missed == []


@pytest.mark.parametrize("name", ARCHETYPES)
def test_every_component_is_drawn(name, shelf):
    from bottega.web.drawing.section import plain
    from bottega.web.kit.page import make_environment

    environment = make_environment()
    machine = shelf.machine(name)
    svg = environment.get_template(f"drawing/{machine.drawing}.svg").render(
        drawing=plain(machine), viewbox="0 0 800 412", link="#", overlay=""
    )
    missing = [component for component in machine.components if f'id="part-{component}"' not in svg]
    assert missing == []
    assert all(0 <= p.x <= 640 and 0 <= p.y <= 412 for p in machine.places.values())


def test_every_code_of_every_sheet_decodes_to_itself(shelf):
    for sheet, record in shelf.sheets.items():
        machine = shelf.machine(record.archetype, sheet)
        for code in machine.codes.values():
            seen = (
                decode_text(machine, code.record.text.upper())
                if code.record.text
                else decode(machine, code.record.show)
            )
            assert seen.code is code, (sheet, code.id)


def test_other_ways_of_showing(shelf):
    torre, alta, dritta = (
        shelf.machine(a, s)
        for a, s in (("SL", "sestra-torre"), ("TS", "torvane-alta-10"), ("FD", "calvessa-dritta-8"))
    )
    assert decode(torre, (1, 1, 1, 1, 1, 1)).code is None
    assert decode(alta, (32, 32)).code is None
    with pytest.raises(PanelError, match="expected 0 to 36"):
        decode(alta, (37, 1))
    with pytest.raises(PanelError, match="expected 0 to 2"):
        decode(torre, (3, 0, 0, 0, 0, 0))
    misread = decode_text(dritta, "lumi")
    assert misread.code is None
    assert {"lumo"} <= {code.id for code in misread.near}
    with pytest.raises(PanelError, match="characters"):
        decode_text(dritta, "much too long")
    with pytest.raises(PanelError, match="expected low then high"):
        decode_text(shelf.machine("FI", "quernia-compatta-5"), "x")


def test_how_would_i_know(f7):
    assert telling_checks(f7, "rotor_slips")[0][0] in (
        "turn_rotor",
        "time_emptying",
        "watch_emptying",
    )


@pytest.mark.parametrize(
    ("path", "old", "new", "words"),
    [
        (
            "assemblies/belt.yaml",
            "after: [rear_panel]\n    back",
            "after: [pulley_off]\n    back",
            "in a circle",
        ),
        (
            "assemblies/drain.yaml",
            "off: [filter_cap]",
            "off: [filter_cup]",
            "unknown operation 'filter_cup'",
        ),
        (
            "assemblies/drum_front.yaml",
            "tool: screwdriver\n    fasteners",
            "fasteners",
            "a screw without a tool",
        ),
        (
            "assemblies/drain.yaml",
            "reads: pipe_height",
            "reads: pipe_siphon",
            "no check finds|not told apart|outcome",
        ),
        ("archetypes/FB.yaml", "  drain_pump: {x: 308, y: 362}\n", "", "without a place"),
        (
            "sheets/nembrio-f7.yaml",
            "pump_coil_ohm: {low",
            "pump_cool_ohm: {low",
            "no measurement uses",
        ),
        ("sheets/nembrio-f7.yaml", "show: [2, 4]", "show: [2, 1]", "shown like '2-1'"),
        ("sheets/nembrio-f7.yaml", "show: [2, 4]", "show: [2, 40]", "found 40 second figure"),
        ("sheets/nembrio-f7.yaml", "kind: strokes", "kind: melody", "expected 0 for first figure"),
        ("sheets/nembrio-f7.yaml", "kind: strokes", "kind: display", "what the display shows"),
        (
            "assemblies/machine.yaml",
            "states: [normal, slow, none], background: 0.001",
            "states: [normal, slow, none], background: 0.04",
            "0.04 on a machine with nothing wrong, of what is complained of",
        ),
        (
            "assemblies/machine.yaml",
            "  suds: {name: suds",
            "  froth: {name: froth, states: [none, some]}\n  suds: {name: suds",
            "nothing causes",
        ),
    ],
)
def test_problems_are_reported_with_file_and_line(folder, path, old, new, words):
    import re

    from bottega.core.library.errors import LibraryError

    file = folder / path
    text = file.read_text(encoding="utf-8")
    assert old in text
    file.write_text(text.replace(old, new, 1), encoding="utf-8")
    try:
        problems = check_library(read_shelf(folder))
    except LibraryError as error:
        problems = error.problems
    hits = [p for p in problems if re.search(words, p.found)] or [
        p for p in problems if re.search(words, str(p))
    ]
    assert hits
    assert hits[0].file.endswith(".yaml")
