"""What one observation says by itself."""

from tests.engine import model_of

from bottega.core.diagnosis.alone import after_check


def test_a_slipping_rotor_is_seen_and_no_look_up_is_certain_of_it(f7, shelf):
    alone = after_check(model_of(f7), f7.checks["turn_rotor"], "free", shelf.tables.engine)
    assert alone.faults[0][0] == "rotor_slips"
    assert 0.9 < alone.faults[0][1] < 1
