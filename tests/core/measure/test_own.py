"""The shop's own good readings as a limit."""

import pytest
from tests.core.measure.test_bad_stays_bad import MEASURED, SHELF, outcome, parts

from bottega.core.measure.own import may_be_own, own_window


@pytest.mark.parametrize(("kind", "name"), MEASURED)
def test_safety_and_one_sided_limits_are_never_the_shops_own(kind, name):
    _, check, quantity, _ = parts(kind, name)
    one_sided = check.measure.side != ""
    volts_or_insulation = quantity.unit in ("volt", "megaohm")
    if one_sided or volts_or_insulation:
        assert not may_be_own(check.measure, quantity)


def test_five_good_insulations_never_pass_none():
    """The readings of a shop that made 0 megohm pass: reckoned in logarithms the limit is above
    nought, and they are no source for insulation at all."""
    window = own_window([15, 40, 200, 700, 999], "megaohm")
    assert window.low > 0
    limits = next(iter(SHELF.tables.limits.sets.values()))
    for typed in ("0", "0.02", "50 k", "0.4"):
        assert outcome("FB", "measure_machine_insulation", typed, limits=limits) == "shorted"
