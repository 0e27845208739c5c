"""The report says what was shown and what was not."""

from tests.app.steps import prove_the_pump

from bottega.app.decide.decision import not_known
from bottega.app.job.answer import diagnose
from bottega.app.report.report import report_of


def test_a_report_says_what_was_shown_and_what_was_not(workshop, houseboat):
    early = report_of(diagnose(workshop, houseboat))
    assert any("not ruled out" in line for line in early.unknown)
    report = report_of(prove_the_pump(workshop, houseboat))
    assert "rotor slips" in report.verdict
    assert report.reasons[0][0] == "Turn the pump rotor by hand: turns freely, no steps"
    assert report.readings[0].shown == "184 ohm"
    assert not_known(report.answer)
