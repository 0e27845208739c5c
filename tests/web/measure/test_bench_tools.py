"""What is worked out at the bench, without a job and beside a check, over HTTP."""

import re

import pytest
from tests.web.conftest import seq

from bottega.app.job.answer import diagnose
from bottega.core.measure.formulas import FORMULAS


def result(page: str, name: str) -> str:
    return re.search(rf'data-result="{name}">([^<]*)<', page).group(1)


def test_every_formula_is_at_one_address_with_its_drawing(reader):
    page = reader.get("/measure").text
    for name in FORMULAS:
        assert f'href="/measure/{name}"' in page
        shown = reader.get(f"/measure/{name}")
        assert shown.status_code == 200, name
        letters = re.findall(r"<circle r=\"10\" ?/>\s*<text[^>]*>([A-Z])</text>", shown.text)
        asked = re.findall(r'class="stamp" aria-hidden="true">([A-Z])<', shown.text)
        assert sorted(letters) == asked, f"{name}: the drawing shows {letters}"


def test_a_figure_with_a_comma_is_worked_out(reader):
    page = reader.get("/measure/bucket?litres=7,5&seconds=45").text
    assert result(page, "l_min") == "10"


@pytest.mark.parametrize(
    ("query", "says"),
    [
        ("litres=abc&seconds=45", "expected a number"),
        ("litres=-1&seconds=45", "expected 0 to 60"),
        ("litres=nan&seconds=45", "expected a number"),
        ("litres=5&seconds=0", "expected 1 to 3600"),
        ("litres=5&seconds=", "expected the time taken"),
    ],
)
def test_what_cannot_be_is_said_in_its_field(reader, query, says):
    page = reader.get(f"/measure/bucket?{query}").text
    assert says in page
    assert "data-result" not in page


def test_an_unknown_formula_is_not_found(reader):
    assert reader.get("/measure/perpetuum").status_code == 404


def test_a_shop_in_gallons_reads_the_same_flow(browser):
    browser.form("/shop", units="us", mains_v="120", mains_hz="60", currency="USD")
    page = browser.get("/measure/bucket?litres=1.98129&seconds=45").text
    assert result(page, "l_min") == "2.64"
    assert "gal/min" in page


def test_what_the_job_knows_stands_beside_the_check(reader, shop):
    plate = diagnose(shop, "0412").machine.plate
    page = reader.get("/jobs/0412/prove?check=measure_element").text
    assert result(page, "ohm") == f"{plate.volts**2 / plate.heater_w:.3g}"
    assert "rating plate" in page


def test_a_worked_out_reading_is_kept_as_one(browser, demo):
    page = browser.get("/jobs/0412/beside/bucket_flow/bucket?litres=5&seconds=41").text
    assert "Keep 7.32 l/min as the reading" in page
    typed = re.search(r'name="typed" value="([^"]+)"', page).group(1)
    seen = int(re.search(r'name="seen" value="(\d+)"', page).group(1))
    kept = browser.form("/jobs/0412/prove/reading", seen=seen, check="bucket_flow", typed=typed)
    assert kept.status_code == 303
    body = list(diagnose(demo, "0412").job.checked())[-1][1]
    assert body.reading.amount == pytest.approx(5 / 41 * 60, rel=1e-4)
    assert browser.get("/jobs/0412/beside/bucket_flow/discharge").status_code == 404


def test_a_tally_of_tries_answers_the_check_it_belongs_to(browser, demo):
    for what, to in (("power", "on"), ("taps", "open")):
        browser.form("/jobs/0412/service/ready", seq(demo), what=what, to=to)
    page = browser.get("/jobs/0412/beside/pull_plug_filling/run_on_tally?tries=4&ran_on=1").text
    assert "Answer: water runs on, even for seconds (25 %)" in page
    form = {"kind": "checked", "check": "pull_plug_filling", "outcome": "runs on"}
    assert browser.form("/jobs/0412/prove/event", seq(demo), **form).status_code == 303
    body = diagnose(demo, "0412").job.checked()[-1][1]
    assert (body.check, body.outcome) == ("pull_plug_filling", "runs on")


def test_programs_work_out_formulas_too(reader, shop):
    answer = reader.get("/api/v1/measure/element_ohm?volts=230&watts=2000")
    assert answer.json()["gives"]["ohm"] == {"amount": 26.45, "unit": "ohm"}
    assert "Joule" in answer.json()["source"]
    wrong = reader.get("/api/v1/measure/element_ohm?volts=230&watts=much")
    assert (wrong.status_code, wrong.headers["content-type"]) == (422, "application/problem+json")
    assert reader.get("/api/v1/measure/element_ohm?volts=9&watts=2000").status_code == 422
    assert reader.get("/api/v1/measure/none").status_code == 404
