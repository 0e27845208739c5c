"""The call: taken, previewed while it is typed, and sent back with what was typed."""

import pytest

from bottega.app.job.answer import diagnose

CALL = {
    "machine": "nembrio-f7",
    "text": "It does not drain and hums",
    "age_years": "7",
    "place": "Quay",
    "customer": "",
    "history": "moved; new hose",
    "power": "on",
    "taps": "open",
    "water": "in",
    "arrival": "",
}


def test_a_call_is_taken_and_opened(browser, demo):
    answer = browser.form("/call", **CALL)
    assert answer.status_code == 303
    job = diagnose(demo, answer.headers["location"].rsplit("/", 1)[1]).job
    assert set(job.complaint.said) == {"says_water_stays", "says_hums"}
    assert job.opened.history == ("moved", "new hose")


def test_the_ranking_stands_while_the_call_is_typed(browser, demo):
    before = demo.log.numbers()
    page = browser.form("/call/preview", **{**CALL, "place": "", "age_years": ""})
    assert page.status_code == 200
    assert "Drain pump: rotor slips" in page.text
    assert "the visit comes to" in page.text
    assert demo.log.numbers() == before


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ({"age_years": "old"}, "age years"),
        ({"place": ""}, "place"),
        ({"machine": "ghost"}, "Which machine"),
        ({"machine": ""}, "Which machine"),
        ({"machine": "FB", "plate_volts": "9000"}, "volts"),
    ],
)
def test_a_bad_call_comes_back_with_what_was_typed(browser, demo, change, words):
    before = demo.log.numbers()
    page = browser.form("/call", **{**CALL, **change})
    assert page.status_code == 422
    assert words in page.text
    assert "It does not drain and hums" in page.text
    assert demo.log.numbers() == before
