"""A job's file by upload."""

import re

from tests.web.conftest import seq

from bottega.app.job.answer import diagnose
from bottega.app.job.file import export_job
from bottega.core.job.proofs import owed


def test_import_by_upload(browser, empty, demo, tmp_path):
    raw = export_job(demo, "0412").model_dump_json().encode()
    there = browser.post(
        "/import", data={"token": browser.token()}, files={"file": ("job.json", raw)}
    )
    assert there.status_code == 409
    cut = browser.post(
        "/import", data={"token": browser.token()}, files={"file": ("job.json", raw[:200])}
    )
    assert cut.status_code == 422
    assert "cut or is not JSON" in cut.text


def test_a_job_goes_out_and_comes_in_with_its_photos(browser, demo):
    raw = browser.get("/jobs/0412/export.zip").content
    there = browser.post(
        "/import", data={"token": browser.token()}, files={"file": ("job.zip", raw)}
    )
    assert there.status_code == 409
    assert "here already" in there.text
    cut = browser.post(
        "/import", data={"token": browser.token()}, files={"file": ("job.zip", raw[:200])}
    )
    assert cut.status_code == 422
    assert "no job with photos" in cut.text


def test_a_report_is_for_the_customer_first(reader, shop):
    page = reader.get("/jobs/0398/report").text
    customer, _, technician = page.partition("data-technicians-page")
    assert "dB" not in re.sub("<[^>]+>", " ", customer)
    assert "dB" in technician
    year = diagnose(shop, "0398").job.events[0].at.year
    assert str(year) in customer


def test_a_report_says_the_kind_of_machine_once_and_what_is_still_owed(reader, shop):
    for number in shop.log.numbers():
        answer = diagnose(shop, number)
        page = reader.get(f"/jobs/{number}/report").text.lower()
        assert page.count(answer.machine.about.lower()) == 1, number
        left = [d for d in owed(answer.job, answer.machine) if d.waivable and not d.settled]
        assert page.count("not done yet") == len(left)


def test_a_reading_in_inches_is_told_as_typed_and_as_kept(browser, demo):
    sent = browser.form(
        "/jobs/0412/prove/reading", seq(demo), check="measure_standpipe", typed="36 inch"
    )
    assert sent.status_code == 303
    assert "36 inch, that is 914.4 mm" in browser.get("/jobs/0412/report").text
    assert "36 inch, that is 914.4 mm" in browser.get("/jobs/0412/prove").text


def test_one_part_has_one_price_and_an_old_quote_keeps_its_currency(browser, demo):
    """On the quote, at *Fit* and on the report; also after the shop has gone over to another
    currency."""
    browser.form("/jobs/0412/decide/decide", seq(demo), repair="drain_pump.part", reason="agreed")
    decided = diagnose(demo, "0412").job.decided
    part, total = f"€{decided.lines[2].amount:.2f}", f"€{decided.total:.2f}"
    assert part in browser.get("/jobs/0412/fit").text
    for currency in ("EUR", "USD"):
        assert browser.form("/shop", currency=currency).status_code == 303
        for page in ("report", "decide"):
            assert total in browser.get(f"/jobs/0412/{page}").text
        assert part in browser.get("/jobs/0412/report").text
