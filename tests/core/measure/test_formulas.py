"""Formulas of the bench, against worked examples of textbooks, standards and other formulas for the
same."""

import re
from inspect import signature
from math import inf, nan, pi, sqrt

import pytest
from hypothesis import given
from hypothesis import strategies as st

from bottega.core.library.shelf import shipped_shelf
from bottega.core.measure.capacitor import capacitor_band
from bottega.core.measure.formulas import FORMULAS, FormulaError, Known, known_inputs, worked_out

SHELF = shipped_shelf()
TABLE = SHELF.tables.formulas.formulas


USUAL = {"volts": 230.0, "ohm": 100.0, "total_w": 2000.0, "watts": 2000.0, "to_c": 40.0,
         "first_c": 20.0, "second_c": 50.0, "second_ohm": 11.0,
         "first_ohm": 12.0, "standpipe_mm": 800.0, "millimetres": 100.0,
         "idle_v": 230.0, "loaded_v": 224.0, "last_mm": 2.0, "rpm": 1400.0, "hertz": 50.0,
         "millilitres": 50.0, "seconds": 60.0, "now_mm": 20.0, "litres": 10.0,
         "cold_seconds": 30.0, "hot_seconds": 30.0}  # fmt: skip


def out(name: str, *given: float) -> dict[str, float]:
    return worked_out(name, TABLE[name], dict(zip(TABLE[name].asks, given, strict=True)))


@pytest.mark.parametrize(
    ("name", "given", "gives"),
    [
        # 2 kW at 230 V: 26.45 ohm, 8.70 A (any textbook of physics)
        ("element_ohm", (230, 2000), {"ohm": 26.45}),
        ("power_at_mains", (26.45, 230), {"watts": 2000, "ampere": 8.696}),
        # the power falls with the square of the volts: 10 % less gives 81 %
        ("power_at_mains", (26.45, 207), {"watts": 1620}),
        ("heating_watts", (2060, 60), {"watts": 2000}),
        # ten litres by 25 K take 1.0444 MJ: 522 s of 2 kW
        ("warming", (10, 2000, 15, 40, 0), {"minutes": 8.703, "rise_c_min": 2.8726}),
        ("effective_watts", (10, 15, 40, 522.2, 0, 2500), {"watts": 2000, "plate_percent": 80}),
        ("effective_watts", (10, 15, 15, 522.2, 150, 2000), {"plate_percent": 0}),
        # half a degree in ten minutes is the room or the probe, not an element
        ("effective_watts", (10, 15, 15.5, 600, 150, 1000), {"plate_percent": 6.96}),
        # ten ohm at 20 °C are 12.16 at 75 °C (IEC 60028's coefficient)
        ("copper_at_20", (12.1615, 75), {"ohm_20": 10}),
        ("three_windings", (10, 10, 11), {"ratio": 1.1, "off_percent": 6.452}),
        ("main_against_start", (8, 12), {"ratio": 1.5, "both_ohm": 20}),
        # resistance method of IEC 60335-1: 10 ohm at 20 °C, 12.5 after, room 22 °C
        ("winding_rise", (10, 20, 12.5, 22), {"rise_k": 61.625}),
        ("quotient", (12, 4), {"ratio": 3}),
        # the common 10 kilo-ohm, beta 3950: 3588 ohm at 50 °C
        ("thermistor_ohm", (10000, 3950, 50), {"ohm": 3588}),
        ("thermistor_c", (10000, 3950, 3588), {"celsius": 50}),
        ("thermistor_curve", (10000, 25, 3588, 50), {"beta_k": 3950, "r25_ohm": 10000}),
        ("thermistor_ratio", (3950, 25, 50), {"ratio": 2.787}),
        ("capacitor_band", (16, 5, 10), {"low_uf": 15.2, "high_uf": 17.6}),
        # time constant 4.7 s; ln(325/50) = 1.872 of them; 24.8 J
        ("discharge", (470, 325, 10000, 50), {"seconds": 8.797, "first_w": 10.56, "joule": 24.82}),
        # 16 microfarad at 50 Hz: 198.9 ohm (any textbook)
        ("capacitor_running", (16, 230, 50), {"ohm": 198.94, "ampere": 1.1561}),
        ("capacitor_running", (16, 230, 60), {"ampere": 1.1561 * 60 / 50}),
        ("capacitor_by_current", (1.1561, 230, 50), {"microfarad": 16}),
        ("bucket", (5, 30), {"l_min": 10}),
        ("drops", (50, 60), {"ml_min": 50}),
        ("bucket_both", (5, 30, 4, 48), {"cold_l_min": 10, "hot_l_min": 5, "weaker_l_min": 5}),
        # eight tries of a thing that happens three times in ten: 94 in a hundred have seen it
        ("run_on_tally", (8, 0), {"ran_on_percent": 0, "shown_percent": 94.235}),
        ("run_on_tally", (4, 1), {"ran_on_percent": 25}),
        ("detents", (8, 2), {"per_turn": 4}),
        ("clicks", (6, 30), {"per_minute": 12, "counted": 6}),
        ("time_to_level", (15, 10, 360), {"seconds": 90, "time_out_percent": 25}),
        # the millimetre of water is 9.80665 Pa at 1000 kg/m3; the tub's is 20 °C warm
        ("column_pascal", (100,), {"pascal": 980.665 * 0.998}),
        ("sensor_signal", (44000, -1800, 100), {"signal": 44000 - 1800 * 0.97870}),
        ("sensor_level", (44000, -1800, 42238.3), {"millimetres": 100}),
        ("sensor_span", (44000, 43119.2, -1800, 100), {"moved": -880.8, "right_percent": 50}),
        ("siphons", (200, 350, 1), {"can": 1}),
        ("siphons", (200, 350, 0), {"can": 1}),
        ("siphons", (400, 350, 1), {"can": 1}),
        ("siphons", (400, 350, 0), {"can": 0}),
        ("belt_ratio", (285, 22), {"ratio": 12.955}),
        ("belt_slip", (12500, 980, 12.5), {"quotient": 1.02041, "slip_percent": 2}),
        ("tacho_rpm", (80, 8), {"rpm": 600}),
        # four poles: 1500 at 50 Hz, 1800 at 60 Hz (IEC 60034-1)
        ("synchronous", (50, 4, 1425), {"field_rpm": 1500, "slip_percent": 5}),
        ("synchronous", (60, 4, 1710), {"field_rpm": 1800, "slip_percent": 5}),
        # the rule of centrifuges: 1.118e-5 times the radius in cm times rpm squared
        ("wall_force", (1200, 480), {"g": 1.118e-5 * 24 * 1200**2, "wall_m_s": pi * 0.48 * 20}),
        ("unbalance", (0.5, 480, 1200), {"newton": 1895, "weighs_kg": 193.2}),
        # damping ratio 0.1 has the decrement 0.6315: 1.880 from bob to bob
        ("swing_by_heights", (40, 40 / 1.8804, 1), {"ratio": 1.8804, "damping": 0.1}),
        ("swing_by_heights", (40, 5, 3), {"ratio": 2}),
        ("swing_by_count", (1,), {"ratio": 20}),
        # between three bobs lie two swings: the root of twenty from one to the next
        ("swing_by_count", (3,), {"ratio": 20**0.5}),
        ("brush_left", (36, 20, 10, 8, 4), {"left_mm": 10, "wear_mm_year": 2, "years": 5}),
        ("brush_left", (36, 8, 10, 8, 4), {"left_mm": 0, "years": 0, "cycles": 0}),
        ("voltage_drop", (230, 224), {"volts": 6, "percent": 2.6087}),
        ("loop_ohm", (230, 224, 9), {"ohm": 0.6667, "short_ampere": 345}),
        ("leakage_ma", (230, 1), {"milliampere": 0.23}),
        ("earth_ohm", (1500, 10), {"ohm": 0.15}),
    ],
)
def test_worked_examples(name: str, given: tuple[float, ...], gives: dict[str, float]) -> None:
    found = out(name, *given)
    assert {key: found[key] for key in gives} == {
        key: pytest.approx(value, rel=1e-3, abs=1e-9) for key, value in gives.items()
    }


def test_the_friction_of_a_hose_agrees_with_hazen_and_williams():
    """The other rule of plumbers, 10.67 L Q^1.852 / (C^1.852 d^4.87) with C 140 for plastic."""
    for l_min in (10, 15, 20):
        q, d = l_min / 60_000, 0.019
        hazen = 10.67 * 2 * q**1.852 / (140**1.852 * d**4.87)
        found = out("drain_head", 850, 100, 2, 19, l_min)
        assert found["friction_m"] == pytest.approx(hazen, rel=0.12)
        assert found["head_m"] == pytest.approx(0.75 + found["friction_m"])


def test_slow_water_has_the_friction_of_hagen_and_poiseuille():
    """32 nu v L / (g d²), below Reynolds 2000."""
    found = out("drain_head", 850, 100, 2, 19, 1)
    speed = 1 / 60_000 / (pi * 0.019**2 / 4)
    assert found["friction_m"] == pytest.approx(32 * 1e-6 * speed * 2 / (9.80665 * 0.019**2))


def test_what_brakes_a_drum_takes_all_its_energy():
    """The braking moment times the angle turned through is half J omega squared."""
    found = out("coast_down", 7, 480, 1200, 40)
    omega = 1200 * 2 * pi / 60
    turned = omega * 40 / 2
    energy = found["inertia_kg_m2"] * omega**2 / 2
    assert found["brake_nm"] * turned == pytest.approx(energy)
    assert found["inertia_kg_m2"] == pytest.approx(7 * 0.24**2)


def test_damping_is_that_of_the_equation_of_motion():
    """A tub on a spring, stepped through: the heights of its bobs give back its damping."""
    damping, omega, dt = 0.15, 2 * pi, 1e-4
    x, v, peaks, before = 40.0, 0.0, [40.0], 0.0
    for _ in range(int(3.2 / dt)):
        v += (-2 * damping * omega * v - omega * omega * x) * dt
        x += v * dt
        if before > 0 >= v:
            peaks.append(x)
        before = v
    found = out("swing_by_heights", peaks[0], peaks[2], 2)
    assert found["damping"] == pytest.approx(damping, rel=0.02)
    assert found["damping"] < sqrt(1)


@given(st.floats(1000, 100_000), st.floats(2500, 5000), st.floats(-10, 95))
def test_a_thermistor_is_read_both_ways(r25: float, beta: float, celsius: float) -> None:
    ohm = out("thermistor_ohm", r25, beta, celsius)["ohm"]
    assert out("thermistor_c", r25, beta, ohm)["celsius"] == pytest.approx(celsius, abs=1e-6)


@pytest.mark.parametrize("name", sorted(FORMULAS))
def test_every_formula_is_written_as_it_works(name: str) -> None:
    """The record's inputs are the function's, in its order, and the function has a docstring."""
    record, work = TABLE[name], FORMULAS[name]
    assert list(record.asks) == list(signature(work).parameters)
    assert work.__doc__
    usual = {key: USUAL.get(key, 5.0) if asks.usual is None else asks.usual
             for key, asks in record.asks.items()}  # fmt: skip
    assert set(worked_out(name, record, usual)) == set(record.gives)


@pytest.mark.parametrize("name", sorted(FORMULAS))
@pytest.mark.parametrize("wrong", [nan, inf, -1e9, 1e15])
def test_what_cannot_be_is_refused_in_its_field(name: str, wrong: float) -> None:
    record = TABLE[name]
    for key in record.asks:
        given = {k: asks.most for k, asks in record.asks.items()} | {key: wrong}
        with pytest.raises(FormulaError) as caught:
            worked_out(name, record, given)
        assert caught.value.field == key


def test_figures_that_contradict_each_other_are_refused():
    for name, figures in {
        "warming": (10, 200, 15, 40, 300),
        "heating_watts": (100, 200),
        "thermistor_curve": (10000, 25, 9000, 25.5),
        "swing_by_heights": (5, 40, 1),
        "brush_left": (20, 36, 10, 8, 4),
        "voltage_drop": (224, 230),
        "drain_head": (100, 850, 2, 19, 15),
        "sensor_level": (44000, 0, 43000),
        "run_on_tally": (2, 3),
    }.items():
        with pytest.raises(FormulaError) as caught:
            out(name, *figures)
        assert caught.value.field == "", name


def test_inputs_are_known_from_the_first_place_that_has_them():
    record = TABLE["power_at_mains"]
    facts = {
        "shop.mains_v": Known(230, "shop"),
        "reading.mains_v": Known(221, "socket"),
        "reading.element_ohm": Known(1e9, "open"),
    }
    assert known_inputs(record, facts) == {"volts": Known(221, "socket")}


def test_every_formula_has_its_place_beside_a_check_or_a_fitting_of_some_machine():
    machines = [SHELF.machine(name) for name in SHELF.archetypes]
    checks = {check for machine in machines for check in machine.checks}
    parts = {part for machine in machines for part in machine.parts}
    for name, record in TABLE.items():
        places = {*record.beside, *record.reads, *record.answers}
        assert places or record.fitting, name
        assert places <= checks, f"{name}: {sorted(places - checks)}"
        assert set(record.fitting) <= parts, f"{name}: {sorted(set(record.fitting) - parts)}"


def test_what_a_formula_reads_has_the_unit_of_the_check():
    for name, record in TABLE.items():
        for archetype in SHELF.archetypes:
            machine = SHELF.machine(archetype)
            for check, output in record.reads.items():
                if check in machine.checks:
                    measure = machine.checks[check].measure
                    unit = SHELF.tables.quantities[measure.quantity].unit
                    assert record.gives[output].unit in (unit, "dimensionless"), name


def test_what_a_formula_answers_are_outcomes_of_the_check():
    for name, record in TABLE.items():
        for archetype in SHELF.archetypes:
            machine = SHELF.machine(archetype)
            for check, answered in record.answers.items():
                if check in machine.checks:
                    known = {outcome.id for outcome in machine.checks[check].outcomes}
                    assert set(answered.from_) <= known, name


@pytest.mark.parametrize(
    ("name", "amount", "outcome"),
    [
        ("run_on_tally", 0, "shuts"),
        ("run_on_tally", 12.5, "runs on"),
        ("detents", 0, "free"),
        ("detents", 2, "steps"),
        ("clicks", 0, "silent"),
        ("clicks", 1, "one click"),
        ("clicks", 2, "clicks again and again"),
        ("effective_watts", -3, "none"),
        ("effective_watts", 40, "slow"),
        ("effective_watts", 95, "normal"),
    ],
)
def test_a_figure_answers_by_where_it_lies(name, amount, outcome):
    assert next(iter(TABLE[name].answers.values())).outcome(amount) == outcome


def test_a_sheet_and_the_formula_give_a_capacitor_one_band(shelf):
    """What a sheet says of its capacitor is what its marking and class of tolerance give."""
    said = re.compile(r"(\d+) µF within (\d+) %")
    windows = [
        m.values["run_capacitor_uf"] for m in shelf.machines() if "run_capacitor_uf" in m.values
    ]
    marked = [(w, said.search(w.source)) for w in windows if w and said.search(w.source)]
    assert len(marked) >= 4
    for window, (microfarad, percent) in [(w, map(float, m.groups())) for w, m in marked]:
        band = capacitor_band(microfarad, percent, percent)
        assert (window.low, window.high) == pytest.approx((band.low_uf, band.high_uf))
