"""When a reading has settled, sample by sample."""

from hypothesis import given
from hypothesis import strategies as st

from bottega.core.library.shelf import shipped_shelf
from bottega.core.measure.settling import OPEN_SAMPLES, SAMPLES, Settler

QUANTITIES = shipped_shelf().tables.quantities
OHM, VOLT = QUANTITIES["resistance"], QUANTITIES["ac_volts"]


def states(settler: Settler, *amounts: float | None) -> list[str]:
    return [settler.take(amount).state for amount in amounts]


def test_it_moves_and_then_has_settled():
    settler = Settler(OHM)
    assert states(settler, 90, 150, 180, 183, 183.5, 183.4, 183.6)[-2:] == ["moving", "settled"]
    assert abs(settler.take(183.5).settled - 183.5) < 0.5


def test_touching_again_keeps_what_had_settled():
    settler = Settler(OHM)
    states(settler, *[184.0] * SAMPLES)
    lifted = settler.take(None)
    assert (lifted.state, lifted.settled, lifted.kept) == ("lifted", 184.0, False)
    again = settler.take(20.0)
    assert (again.kept, again.settled) == (True, 184.0)
    assert settler.take(21.0).kept is False


def test_a_slip_of_the_probe_is_no_open_circuit():
    settler = Settler(OHM)
    assert set(states(settler, *[None] * (OPEN_SAMPLES - 1))) == {"lifted"}
    assert settler.take(None).state == "open"


def test_volts_of_nothing_are_lifted_and_never_open():
    settler = Settler(VOLT)
    assert set(states(settler, *[0.1] * 20)) == {"lifted"}
    assert states(settler, *[230.0] * SAMPLES)[-1] == "settled"


def test_another_value_under_the_probes_is_not_taken_for_the_first():
    settler = Settler(OHM)
    states(settler, *[184.0] * SAMPLES)
    assert settler.take(90.0).settled is None
    assert states(settler, 90, 90, 90)[-1] == "settled"


def test_after_forgetting_nothing_is_kept():
    settler = Settler(OHM)
    states(settler, *[184.0] * SAMPLES, None)
    settler.forget()
    assert settler.take(184.0).kept is False


@given(st.lists(st.floats(1, 1e6), min_size=SAMPLES, max_size=40))
def test_what_has_settled_lies_among_the_last_samples(amounts):
    settler = Settler(OHM)
    for n, amount in enumerate(amounts):
        heard = settler.take(amount)
        if heard.state == "settled":
            last = amounts[max(0, n + 1 - SAMPLES) : n + 1]
            assert min(last) * 0.999999 <= heard.settled <= max(last) * 1.000001
