"""The decision keeps its quote."""

import pytest
from tests.app.steps import prove_the_pump

from bottega.app.decide.decision import decision
from bottega.app.errors import BadValue


def test_the_quote_of_the_decision_is_kept_with_it(workshop, houseboat):
    answer = prove_the_pump(workshop, houseboat)
    decided = decision(workshop, answer, "repair", "drain_pump.part", reason="proved")
    assert decided.total == pytest.approx(sum(line.amount for line in decided.lines), abs=0.011)
    with pytest.raises(BadValue, match="expected one that is offered"):
        decision(workshop, answer, "repair", "belt.part", reason="")
