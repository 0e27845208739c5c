"""What a shop has found corrects how often a fault is expected."""

import pytest
from tests.engine import model_of

from bottega.core.diagnosis.history import scales
from bottega.core.diagnosis.prior import prior


@pytest.fixture(scope="module")
def model(f7):
    return model_of(f7)


def test_a_shop_that_finds_it_often_expects_it_more_often(shelf, model, f7):
    engine = shelf.tables.engine
    scaled = scales(f7, {"rotor_slips": 6.0}, 40, engine)
    assert scaled["rotor_slips"] > 1 > scaled["bearings_worn"]
    assert scales(f7, {}, 0, engine) == dict.fromkeys(f7.faults, 1.0)
    assert scales(f7, {"rotor_slips": 1000.0}, 1000, engine)["rotor_slips"] == engine.history_most
    fault = model.fault_index("rotor_slips")
    plain, fed = (model.by_fault(prior(model, 7, engine, scale))[fault] for scale in (None, scaled))
    assert fed > 1.3 * plain


def test_as_often_as_expected_changes_nothing(shelf, f7):
    total = sum(fault.rate for fault in f7.faults.values())
    found = {name: 50 * fault.rate / total for name, fault in f7.faults.items()}
    assert set(scales(f7, found, 50, shelf.tables.engine).values()) == {1.0}
