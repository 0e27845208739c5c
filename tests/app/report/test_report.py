"""The report says what was shown and what was not."""

from tests.app.steps import prove_the_pump

from bottega.app.decide.decision import not_known
from bottega.app.job.answer import diagnose
from bottega.app.report.report import report_of
from bottega.core.diagnosis.words import fault_title


def test_a_report_says_what_was_shown_and_what_was_not(workshop, houseboat):
    early = report_of(diagnose(workshop, houseboat), 0.85)
    assert any("not ruled out" in line for line in early.unknown)
    report = report_of(prove_the_pump(workshop, houseboat), 0.85)
    assert "rotor slips" in report.verdict
    assert report.reasons[0][0] == "Pump rotor: turns freely, no steps"
    assert report.readings[0].shown == "184 Ω"
    assert report.shown_by[0] == report.reasons[0][0]
    assert not_known(report.answer)


def test_the_cause_a_report_names_is_that_of_the_repair_made(shop):
    for number in shop.log.numbers():
        answer = diagnose(shop, number)
        made = [r.repair for r in answer.job.repairs if r.repair in answer.machine.repairs]
        covered = {f for name in made for f, _ in answer.machine.repairs[name].covers}
        if covered and answer.job.decided.choice != "nothing_wrong":
            titles = [fault_title(answer.machine, fault) for fault in covered]
            assert any(title in report_of(answer, 0.85).verdict for title in titles), number
