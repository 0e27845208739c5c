"""Bearings, stock seals and the hub of a job, over HTTP."""

import re

import pytest
from tests.web.conftest import seq

from bottega.app.job.answer import diagnose

JOB = "0403"
"""The guesthouse's machine that roars."""


def test_a_worn_mark_is_one_bearing_with_its_drawing(reader):
    page = reader.get("/bearings?mark=62?5-2RS+C3").text
    assert "6205-2RS C3" in page
    assert "25 x 52 x 15" in page
    assert "true to scale" in page
    assert "⌀52" in page


def test_several_are_offered_and_one_is_chosen(reader):
    page = reader.get("/bearings?mark=6*5").text
    assert page.count("one=") == 5
    assert "true to scale" in reader.get("/bearings?mark=6*5&one=6305").text
    assert "25 x 52 x 15" in reader.get("/bearings?bore=25&outside=52").text


@pytest.mark.parametrize(
    ("query", "says"),
    [
        ("mark=7204", "fits no bearing"),
        ("bore=25&outside=53", "nearest is 6205"),
        ("bore=wide", "expected a number"),
        ("bore=-3", "expected 0 to"),
        ("mark=%3Cscript%3E", "expected a mark"),
    ],
)
def test_what_fits_nothing_is_said_in_its_place(reader, query, says):
    page = reader.get(f"/bearings?{query}")
    assert page.status_code == 200
    assert says in page.text
    assert "<script>" not in page.text.split("<main")[1]


def test_a_seat_is_filled(reader):
    page = reader.get("/seals?shaft=35&bore=52&depth=8&bore_2=65&depth_2=10").text
    first = page.split("Stacks that fill it")[1]
    assert first.index("35 x 52 x 8 AS") < first.index("35 x 65 x 10 A")
    assert "2 against water, 1 against grit" in page


@pytest.mark.parametrize(
    ("query", "says"),
    [
        ("shaft=35&bore=30&depth=8", "expected a seat larger than the shaft"),
        ("shaft=35&bore=52", "expected the depth of the seat"),
        ("shaft=35&bore=52&depth=8&bore_2=60", "depth of that step too"),
        ("shaft=35&bore=52&depth=a+lot", "expected a number"),
        ("shaft=35&bore=52&depth=0", "measure again"),
    ],
)
def test_a_seat_that_cannot_be_is_said_in_its_field(reader, query, says):
    page = reader.get(f"/seals?{query}").text
    assert says in page
    assert "data-field-error" in page


def test_a_shop_in_inches_finds_the_same(browser):
    browser.form("/shop", units="us")
    assert "6205" in browser.get("/bearings?bore=0.984&outside=2.047").text
    assert "6205" in browser.get("/bearings?bore=25+mm&outside=52+mm").text


def test_a_shop_in_inches_fills_the_same_seat_of_a_job(browser, demo):
    browser.form("/shop", units="us")
    page = browser.get(f"/jobs/{JOB}/hub").text
    assert 'value="1.378"' in page
    assert page.index("35 x 62 x 7 AS") < page.index("35 x 65 x 10 A")


@pytest.mark.parametrize("sheet", ["nembrio-f7", "torvane-alta-10", "pellandra-400"])
def test_every_kind_has_its_hub(browser, sheet):
    opened = browser.form("/call", machine=sheet, age_years="6", place="Slip", words="It roars.")
    number = opened.headers["location"].split("/")[2]
    page = browser.get(f"/jobs/{number}/hub").text
    assert "How it goes together" in page
    assert "push it home by its outer ring" in page
    assert "This one goes in" in page


def test_the_guesthouse_gets_a_stack_before_the_ferry(browser, demo):
    fit = browser.get(f"/jobs/{JOB}/fit").text
    assert f"/jobs/{JOB}/hub" in fit
    page = browser.get(f"/jobs/{JOB}/hub").text
    names = re.search(r'name="names"\s+value="([^"]+)"', page).group(1)
    seat = {"shaft": "35", "bore": "62", "depth": "8", "bore_2": "65", "depth_2": "11"}
    kept = browser.form(f"/jobs/{JOB}/hub/stack", seq(demo, JOB), names=names, **seat)
    assert kept.status_code == 303
    body = diagnose(demo, JOB).job.substitutes["bearings"]
    assert body.parts == ("35 x 62 x 7 AS", "35 x 65 x 10 A")
    assert body.on is None
    assert "bore of the seat 62" in body.seat
    assert "Stock parts for the bearings" in browser.get(f"/jobs/{JOB}/fit").text


def test_a_shop_that_fits_the_makers_only_wants_a_reason(browser, demo):
    browser.form("/shop", parts="makers")
    seat = {"shaft": "35", "bore": "62", "depth": "8", "bore_2": "65", "depth_2": "11"}
    names = "35 x 62 x 7 AS + 35 x 65 x 10 A"
    refused = browser.form(f"/jobs/{JOB}/hub/stack", seq(demo, JOB), names=names, **seat)
    assert "Say why" in refused.text
    refused = browser.form(f"/jobs/{JOB}/hub/stack", seq(demo, JOB), names="1 x 2 x 3 A", **seat)
    assert "expected a stack that fills this seat" in refused.text
    told = {"reason": "the ferry does not run", **seat}
    assert (
        browser.form(f"/jobs/{JOB}/hub/stack", seq(demo, JOB), names=names, **told).status_code
        == 303
    )


def test_how_the_seal_sits_is_measured_and_a_slip_is_asked_about(browser, demo):
    address = f"/jobs/{JOB}/hub/seating"
    page = browser.form(
        address, seq(demo, JOB), point_1="18 cm", point_2="1", point_3="1.1", point_4=""
    ).text
    assert "expected about 0.5 to 1.5" in page
    assert 'value="18 cm"' in page
    assert "three or more" in browser.form(address, seq(demo, JOB), point_1="1").text
    kept = browser.form(address, seq(demo, JOB), point_1="1", point_2="1.1", point_3="0.9")
    assert kept.status_code == 303
    assert ": sits." in browser.get(f"/jobs/{JOB}/hub").text
    assert "stand-out of the seal" in browser.get(f"/jobs/{JOB}/fit").text


def test_the_shelf_of_seals_is_a_setting(browser, demo):
    wrong = browser.form("/shop", seals="35x62x7, 1x2x3")
    assert "which no dealer stocks" in wrong.text
    assert "expected sizes such as" in browser.form("/shop", seals="some").text
    assert browser.form("/shop", seals="30 x 52 x 7").status_code == 303
    assert demo.settings.seals == ("30x52x7",)
    page = browser.get("/seals?shaft=35&bore=62&depth=8").text
    assert "here on" in page


def test_programs_find_bearings_and_fill_seats(reader):
    found = reader.get("/api/v1/bearings?mark=62?5").json()
    assert found == [{"mark": "6205", "bore_mm": 25, "outside_mm": 52, "width_mm": 15}]
    wrong = reader.get("/api/v1/bearings?mark=7204")
    assert (wrong.status_code, wrong.headers["content-type"]) == (422, "application/problem+json")
    [best, *_] = reader.get("/api/v1/seals?shaft=35&bore=52&depth=8&bore_2=65&depth_2=10").json()
    assert best["seals"] == ["35 x 52 x 8 AS", "35 x 65 x 10 A"]
    assert reader.get("/api/v1/seals").status_code == 422
