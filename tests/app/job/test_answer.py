"""The answer of a job: a proved pump leads, and the ledger says why."""

from tests.app.steps import prove_the_pump

from bottega.app.decide.decision import choices
from bottega.app.job.ledger import ledger


def test_the_houseboat_ends_at_the_pump(workshop, houseboat):
    answer = prove_the_pump(workshop, houseboat)
    assert answer.ranking[0][0] == "rotor_slips"
    assert answer.ranking[0][1] > 0.95
    assert choices(workshop, answer)[0].repair.id == "drain_pump.part"
    row = next(r for r in ledger(answer) if "coil" in r.what)
    assert "184 ohm, in band (165 to 205, sheet)" in row.detail
    assert any("rotor" in r.what and r.decibans > 10 for r in ledger(answer))
