"""A pump that slips, believed in."""

import pytest
from tests.engine import model_of

from bottega.core.diagnosis.evidence import Evidence, answered, said
from bottega.core.diagnosis.infer import infer
from bottega.core.diagnosis.prior import prior


@pytest.fixture
def belief(shelf, f7):
    model = model_of(f7)
    told = (
        said("a", f7.complaints["says_water_stays"], 0),
        answered("b", f7.checks["turn_rotor"], "free", 0),
    )
    return infer(model, prior(model, 7, shelf.tables.engine), Evidence(told))
