"""Capacitors: bands, discharge, currents: worked examples from textbooks and standards."""

import re

import pytest
from tests.core.measure.worked import gives_as_expected

from bottega.core.measure.capacitor import capacitor_band


@pytest.mark.parametrize(
    ("name", "given", "gives"),
    [
        ("capacitor_band", (16, 5, 10), {"low_uf": 15.2, "high_uf": 17.6}),
        # time constant 4.7 s; ln(325/50) = 1.872 of them; 24.8 J
        ("discharge", (470, 325, 10000, 50), {"seconds": 8.797, "first_w": 10.56, "joule": 24.82}),
        # 16 microfarad at 50 Hz: 198.9 ohm (any textbook)
        ("capacitor_running", (16, 230, 50), {"ohm": 198.94, "ampere": 1.1561}),
        ("capacitor_running", (16, 230, 60), {"ampere": 1.1561 * 60 / 50}),
        ("capacitor_by_current", (1.1561, 230, 50), {"microfarad": 16}),
    ],
)
def test_worked_examples(name: str, given: tuple[float, ...], gives: dict[str, float]) -> None:
    gives_as_expected(name, given, gives)


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
