"""The shop's page: settings, members, who works here, units."""

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


def test_a_shop_on_us_customary_units_reads_inches_beside_millimetres(browser, demo):
    address = "/jobs/0412/prove?check=measure_standpipe"
    assert "mm, that is" not in browser.get(address).text
    browser.form("/shop", units="us", mains_v="120", mains_hz="60", currency="USD")
    assert "Expected 500 to 1000 mm, that is 19.7 to 39.4 in" in browser.get(address).text
