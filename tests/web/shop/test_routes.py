"""The shop's page: settings, members, who works here, units."""

import pytest
from tests.web.conftest import seq

from bottega.app.job.answer import diagnose


def test_settings_members_author_and_theme(browser, demo):
    assert browser.form("/shop", currency="USD", mains_v="120").status_code == 303
    assert demo.settings.currency == "USD"
    assert browser.form("/shop", mains_v="lots").status_code == 422
    assert browser.form("/shop/member", name="Ned Ash", role="technician").status_code == 303
    assert browser.form("/shop/member", name="", role="").status_code == 422
    assert (
        browser.form("/shop/author", author="Ned Ash", back="//evil.example").headers["location"]
        == "/"
    )
    browser.form("/jobs/0412/prove/event", seq(demo), kind="noted", text="mine")
    assert diagnose(demo, "0412").job.events[-1].author == "Ned Ash"
    browser.form("/shop/theme", theme="cellar", back="/")
    assert 'data-theme="cellar"' in browser.get("/").text


def test_a_shop_on_us_customary_units_reads_and_types_inches(browser, demo):
    address = "/jobs/0412/prove?check=measure_standpipe"
    assert "Expected 500 to 1,000 mm" in browser.get(address).text.replace("1000", "1,000")
    browser.form("/shop", units="us", mains_v="120", mains_hz="60", currency="USD")
    page = browser.get(address).text
    assert "Expected 20 to 39 in" in page
    reading = {"check": "measure_standpipe", "typed": "36", "unit": "inch"}
    done = browser.form("/jobs/0412/prove/reading", seq(demo), **reading)
    assert done.status_code == 303
    body = diagnose(demo, "0412").job.checked()[-1][1]
    assert body.reading.amount == pytest.approx(914.4)
    assert body.reading.typed == "36 inch"
    assert "36 in, within" in browser.get(address).text
    assert "36 in<" in browser.get("/jobs/0412/report").text
    browser.form("/shop", units="metric", mains_v="230", mains_hz="50", currency="EUR")
    assert "36 inch, that is 914.4 mm" in browser.get(address).text
    assert diagnose(demo, "0412").job.checked()[-1][1].reading == body.reading
    assert "36 inch" in browser.get("/jobs/0412/prove").text


def test_figures_of_a_hundred_are_typed_in_per_cent(browser, demo):
    assert 'name="tax_rate" value="22"' in browser.get("/shop").text
    assert browser.form("/shop", tax_rate="19,5").status_code == 303
    assert demo.settings.tax_rate == pytest.approx(0.195)
    refused = browser.form("/shop", tax_rate="95")
    assert refused.status_code == 422
    assert "0 to 60" in refused.text


def test_what_jobs_take_is_gathered_and_stands_beside_the_plan(reader):
    page = reader.get("/times").text
    assert "Plan, there and back" in page
    assert "Fit a new" in page
    assert 'href="/times"' in reader.get("/shop").text


def test_without_a_repair_the_times_say_so(empty):
    assert "No repair is noted yet" in empty.get("/times").text


def test_a_school_is_chosen_with_its_reasons_beside_it_and_stands_at_the_fitting(browser, demo):
    page = browser.get("/shop").text
    assert "no leak runs over it" in page
    job = "0406"
    assert browser.form("/shop", school_band="above").status_code == 303
    assert "at twelve o&#39;clock" in browser.get(f"/jobs/{job}/fit").text
    refused = browser.form("/shop", school_band="nowhere")
    assert refused.status_code == 422
    assert "expected" in refused.text
    assert "at twelve o&#39;clock" in browser.get(f"/jobs/{job}/fit").text
