"""Readings at a check over HTTP: doubted at once, inconclusive, and the shop's own as a source."""

import re

import pytest
from tests.web.conftest import seq

from bottega.app.job.answer import diagnose

AT = "/jobs/0412/prove/reading"


def last(demo):
    return diagnose(demo, "0412").job.checked()[-1][1]


def test_what_looks_like_a_slip_is_asked_about_and_nothing_is_kept(browser, demo):
    before = seq(demo)
    page = browser.form(AT, before, check="measure_standpipe", typed="85")
    assert "It looks like a slip of the decimal comma; if so, type it again" in page.text
    assert 'value="85"' in page.text
    assert seq(demo) == before


def test_as_typed_is_the_first_answer_and_no_press_makes_a_bad_reading_good(browser, demo):
    """The only figure that a button keeps is the one that was typed."""
    page = browser.form(AT, seq(demo), check="measure_standpipe", typed="85").text
    assert re.findall(r'name="typed" value="([^"]*)"', page) == ["85"]
    first = page.index("It is 85 mm, as typed")
    assert "btn btn-first" in page[page.rindex("<button", 0, first) : first]


def test_a_low_insulation_is_kept_as_it_was_typed(browser, demo):
    """Nothing is asked: no slip is thought of where somebody may be hurt."""
    browser.form(AT, seq(demo), check="measure_machine_insulation", typed="0.4")
    body = last(demo)
    assert (body.check, body.reading.amount) == ("measure_machine_insulation", 0.4)
    assert body.outcome == "shorted"


def test_who_is_sure_keeps_it_as_typed(browser, demo):
    browser.form(AT, seq(demo), check="measure_standpipe", typed="85", sure="yes")
    body = last(demo)
    assert (body.reading.amount, body.outcome) == (85, "inconclusive")


def test_an_inconclusive_reading_is_kept_and_weighs_nothing(browser, demo):
    was = diagnose(demo, "0412")
    browser.form(AT, seq(demo), check="measure_standpipe", typed="300", sure="yes")
    now = diagnose(demo, "0412")
    assert last(demo).outcome == "inconclusive"
    assert len(set(last(demo).reading.weights.values())) == 1
    assert dict(now.ranking) == pytest.approx(dict(was.ranking), rel=1e-5)
    page = browser.get("/jobs/0412/prove").text
    assert "settles nothing" in page.lower()
    assert "no longer in the library" not in page


def test_that_it_settled_nothing_can_be_said_without_a_reading(browser, demo):
    done = browser.form(AT, seq(demo), check="measure_standpipe", settles="nothing", typed="")
    assert done.status_code == 303
    assert (last(demo).outcome, last(demo).reading) == ("inconclusive", None)
    assert diagnose(demo, "0412").plan.next.check.id != "measure_standpipe"


@pytest.mark.parametrize("typed", ["-3", "nan", "1e9", "3 volt", "inf", "12 kohm"])
def test_what_cannot_be_is_refused_and_stays_in_the_field(browser, demo, typed):
    before = seq(demo)
    page = browser.form(AT, before, check="measure_standpipe", typed=typed)
    assert "data-field-error" in page.text
    assert f'value="{typed}"' in page.text
    assert seq(demo) == before


def test_a_reading_that_settles_nothing_on_a_look_is_refused(browser, demo):
    page = browser.form(AT, seq(demo), check="turn_rotor", settles="nothing", typed="")
    assert page.status_code in (409, 422)


def test_a_refused_electrical_check_keeps_what_was_typed(browser, demo):
    page = browser.form(
        "/jobs/0406/proof/event",
        seq(demo, "0406"),
        kind="proved",
        proof="earth",
        went="well",
        insulation_mohm="20",
        earth_ohm="0,9",
        polarity="right",
    ).text
    assert "Found 0.9 ohm, expected at most 0.3" in page
