"""A job whose entries break what may never be: it loads, is shown as it was, says so, and leads to
*Make safe* before anything else."""

import re
from html import unescape

import pytest
from tests.conftest import new_id
from tests.web.conftest import seq
from tests.web.job.test_watch import taken

from bottega.app.job.answer import diagnose
from bottega.app.job.record import new_event
from bottega.app.job.standing import breaking_of, unsafe_of
from bottega.core.job.events import Checked, StateChanged, TookOff


def words(page):
    return re.sub(r"\s+", " ", unescape(re.sub(r"<[^>]+>", " ", page)))


def kept(demo, number, *bodies):
    """Store events as an older release or a file would: nothing holds them back."""
    for body in bodies:
        demo.log.append(number, new_event(demo, body, "Ilaria Venn", new_id()), seq(demo, number))


@pytest.fixture
def old(demo):
    """A front loader with its filter out, water run in, plugged in: all noted long ago."""
    number = taken(demo, "FB")
    kept(
        demo,
        number,
        StateChanged(what="power", to="off"),
        TookOff(operation="filter_flap"),
        TookOff(operation="filter_cap"),
        StateChanged(what="power", to="on"),
        Checked(check="watch_all", outcome="to its end"),
    )
    return number


def test_it_loads_and_says_what_breaks(browser, demo, old):
    page = browser.get(f"/jobs/{old}/prove").text
    said = words(page)
    assert "Not safe as it stands." in said
    assert said.count("Kept as it was noted; it would be refused today") == 2
    answer = diagnose(demo, old)
    marked = set(breaking_of(demo, answer))
    events = {e.event.id: e.body for e in answer.job.live}
    assert {type(events[name]) for name in marked} == {StateChanged, Checked}


def test_make_safe_comes_before_any_check_and_the_list_says_so(browser, demo, old):
    page = browser.get(f"/jobs/{old}/prove").text
    assert f'href="/jobs/{old}/safe"' in re.search(r'<a class="btn btn-first"[^>]+>', page).group()
    assert "Make it safe" in words(browser.get("/").text)
    kept(demo, old, StateChanged(what="power", to="off"))
    assert unsafe_of(demo, diagnose(demo, old)) == []
    assert "Not safe as it stands." not in words(browser.get(f"/jobs/{old}/prove").text)


def test_a_chosen_check_is_still_shown(browser, demo, old):
    page = browser.get(f"/jobs/{old}/prove?check=look_floor").text
    assert "Not safe as it stands." in words(page)


def test_what_the_demo_holds_breaks_nothing(demo):
    for number in demo.log.numbers():
        answer = diagnose(demo, number)
        assert breaking_of(demo, answer) == {}, number
