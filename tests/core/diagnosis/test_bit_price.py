"""What bits cost: the cheapest first, dearer the more are wanted, never above the dearest."""

import numpy as np
from hypothesis import given
from hypothesis import strategies as st

from bottega.core.diagnosis.bit_price import LEAST_BITS, costs_of_bits
from bottega.core.library.shelf import shipped_shelf

ENGINE = shipped_shelf().tables.engine
CHECKS = st.lists(st.tuples(st.floats(0, 3), st.floats(0.01, 80)), max_size=12)


@given(CHECKS, st.floats(0, 12), st.floats(0, 12))
def test_more_bits_cost_more_and_none_more_than_the_dearest(checks, one, other):
    told, cost = (
        (np.array(column) for column in zip(*checks, strict=True))
        if checks
        else (
            np.zeros(0),
            np.zeros(0),
        )
    )
    price = costs_of_bits(told, cost, ENGINE)
    less, more = sorted((one, other))
    low, high = price.of(np.array([less, more])).tolist()
    assert -1e-9 <= low <= high + 1e-9
    assert high - low <= (more - less) * ENGINE.dearest_bit_eur + 1e-6


@given(CHECKS, st.floats(0, 6))
def test_no_order_of_the_checks_gets_the_bits_for_less(checks, wanted):
    """Taking whole checks in any order, and of the last a part, costs no less."""
    telling = [(bits / ENGINE.later_bits, eur) for bits, eur in checks if bits > LEAST_BITS]
    told, cost = np.array([c[0] for c in checks]), np.array([c[1] for c in checks])
    price = costs_of_bits(told, cost, ENGINE).of(np.array([wanted]))[0]
    for order in (telling, telling[::-1], sorted(telling)):
        left, paid = wanted, 0.0
        for bits, eur in order:
            part = min(left, bits)
            paid += part * min(eur / bits, ENGINE.dearest_bit_eur)
            left -= part
        assert price <= paid + left * ENGINE.dearest_bit_eur + 1e-6
