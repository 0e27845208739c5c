"""Formulas worked out with what they are given, in the order of their record."""

import pytest

from bottega.core.library.shelf import shipped_shelf
from bottega.core.measure.formulas import worked_out

TABLE = shipped_shelf().tables.formulas.formulas


def out(name: str, *given: float) -> dict[str, float]:
    """Return what a formula gives."""
    return worked_out(name, TABLE[name], dict(zip(TABLE[name].asks, given, strict=True)))


def gives_as_expected(name: str, given: tuple[float, ...], gives: dict[str, float]) -> None:
    """Hold a worked example against the formula, to a thousandth."""
    found = out(name, *given)
    assert {key: found[key] for key in gives} == {
        key: pytest.approx(value, rel=1e-3, abs=1e-9) for key, value in gives.items()
    }
