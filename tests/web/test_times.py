"""The page of times: medians, and the shop's own minutes taken by its plans."""

from bottega.core.strip.pace import ALL


def test_the_plans_minutes_are_the_shops_own_when_it_wants_that_and_the_librarys_again(
    browser, demo
):
    page = browser.get("/times").text
    assert "count with the library" in page
    assert "Count with our own minutes" in page
    assert browser.form("/times/pace", pace="own").status_code == 303
    assert ALL in dict(demo.settings.pace)
    assert "count with the shop" in browser.get("/times").text
    assert browser.form("/times/pace", pace="library").status_code == 303
    assert demo.settings.pace == ()
