"""No reading that condemns is made harmless: every measurement of every kind of machine, and the
cases that an outside reader of the tables found."""

import pytest

from bottega.core.library.sheet import Plate
from bottega.core.library.shelf import shipped_shelf
from bottega.core.library.vocabulary import INCONCLUSIVE
from bottega.core.measure.judge import expected_window, judge, volts_said
from bottega.core.measure.plausible import doubts
from bottega.core.measure.reading import Measured, ReadingError, parse_reading

SHELF = shipped_shelf()
MEASURED = [
    (kind, check.id)
    for kind in SHELF.archetypes
    for check in SHELF.machine(kind).checks.values()
    if check.measure is not None
]
FACTORS = (1e-6, 1e-4, 1e-3, 0.01, 0.1, 0.3, 0.6, 0.9, 1.2, 2, 7, 10, 50, 999, 1e4, 1e6)


def parts(kind, name):
    machine = SHELF.machine(kind)
    check = machine.checks[name]
    quantity = SHELF.tables.quantities[check.measure.quantity]
    window = expected_window(machine, check, Plate(heater_w=2000, capacity_kg=7), 230.0)
    return machine, check, quantity, window


def outcome(kind, name, typed, mains_v=230.0, *, limits=None):
    machine, check, quantity, _ = parts(kind, name)
    window = expected_window(machine, check, Plate(), mains_v, own=None, limits=limits)
    return judge(check, parse_reading(typed, quantity, bounds=True), window, quantity).outcome


@pytest.mark.parametrize(("kind", "name"), MEASURED)
def test_no_guess_is_made_where_a_limit_stands_on_one_side_or_danger_is_at_stake(kind, name):
    """Of any amount, typed bare: no slip of comma or prefix is thought of."""
    machine, check, quantity, window = parts(kind, name)
    if not (check.measure.side or quantity.guarded):
        return
    for factor in FACTORS:
        typed = f"{(window.high or 1) * factor:.6g}"
        measured = parse_reading(typed, quantity, within=False)
        assert doubts(machine, check, measured, window, quantity=quantity) == []


@pytest.mark.parametrize(("kind", "name"), MEASURED)
def test_what_lies_beyond_a_limit_never_counts_as_right(kind, name):
    """Beyond a limit that is judged, by more than the meter's own accuracy, the answer is another
    one than within."""
    _, check, quantity, window = parts(kind, name)
    right = check.measure.outcome_of("in")
    beyond = {
        "low": window.low * (1 - 4 * quantity.accuracy) - 4 * quantity.floor,
        "high": window.high * (1 + 4 * quantity.accuracy) + 4 * quantity.floor,
    }
    for band, amount in beyond.items():
        if check.measure.outcome_of(band) == right or (band == "low" and amount < quantity.least):
            continue
        found = judge(check, Measured("", amount, quantity.unit), window, quantity)
        assert found.outcome != right


def test_the_limits_a_shop_chose_reach_what_is_measured():
    sets = SHELF.tables.limits.sets
    heating, new = sets["heating"], sets["as_new"]
    assert outcome("FB", "measure_element_earth", "0.5", limits=heating) == "insulated"
    assert outcome("FB", "measure_element_earth", "0.5", limits=new) == "leaks"
    assert outcome("FB", "measure_earth", "0.45", limits=heating) == "loose"
    machine, check, *_ = parts("FB", "measure_earth")
    held = [
        expected_window(machine, check, Plate(), 230.0, own=None, limits=s).high
        for s in (heating, new)
    ]
    assert held == [0.3, 0.1]


@pytest.mark.parametrize(
    ("kind", "name", "typed", "expected"),
    [
        ("FB", "measure_outlet", "400", INCONCLUSIVE),
        ("FB", "measure_outlet", "205", INCONCLUSIVE),
        ("FB", "measure_outlet", "230", "live"),
        ("FB", "measure_outlet", "3", "dead"),
        ("FB", "measure_board_supply", "325", INCONCLUSIVE),
        ("FD", "measure_bus", "200", INCONCLUSIVE),
        ("FB", "motor_supply", "85", "present"),
        ("FB", "motor_supply", "0.5", "absent"),
        ("FB", "measure_drop", "180", "dead"),
        ("FB", "measure_tacho", "0.5", "shorted"),
        ("TG", "measure_capacitor", "OL", INCONCLUSIVE),
        ("TG", "measure_capacitor", "90", INCONCLUSIVE),
        ("FB", "measure_valve_leak", "0", "shuts"),
        ("FB", "measure_valve_leak", "50", "runs on"),
        ("FB", "measure_earth", "0.4", "loose"),
    ],
)
def test_both_ends_of_a_quantity_are_told_apart(kind, name, typed, expected):
    assert outcome(kind, name, typed) == expected


def test_two_ohm_in_a_wire_of_the_element_are_not_through():
    """At 7.6 A they turn 116 W into heat (P = I²R)."""
    wires = [name for kind, name in MEASURED if kind == "FB" and name.endswith("_wires")]
    assert wires
    for name in wires:
        check = SHELF.machine("FB").checks[name]
        assert outcome("FB", name, "2") != check.measure.outcome_of("in")
        assert outcome("FB", name, "0.1") == check.measure.outcome_of("in")


def test_coils_are_judged_for_the_mains_they_are_made_for():
    """A valve of the same watts has a quarter of the ohm on half the volts (R = U²/P)."""
    assert outcome("FB", "measure_cold_coil", "900", 115.0) == "in band"
    assert outcome("FB", "measure_cold_coil", "900", 230.0) == "shorted"


def test_what_volts_out_of_their_window_are_is_said():
    assert volts_said(230, 207, 253) == ""
    assert volts_said(400, 207, 253).startswith("Dangerous")
    assert volts_said(260, 207, 253) == "Too much"
    assert volts_said(180, 207, 253).startswith("Too little")
    assert volts_said(2, 207, 253) == "Nothing there"


def test_a_bound_that_may_be_either_side_of_a_limit_settles_nothing():
    assert outcome("FB", "measure_machine_insulation", "> 1000") == "passes"
    with pytest.raises(ReadingError, match="expected the number itself"):
        outcome("FB", "measure_earth", "> 0.1")
    with pytest.raises(ReadingError, match="expected the number itself"):
        outcome("FB", "measure_machine_insulation", "< 50")
