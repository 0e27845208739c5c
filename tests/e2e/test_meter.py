"""The meter in a real browser: leads laid on the rig, a reading that settles and is kept without a
hand, a walk, and the service run's watch."""

import re

from playwright.sync_api import Page, expect
from tests.e2e.waits import listens

JOB = "0418"
CHECK = "measure_machine_insulation"


def reach(page: Page) -> None:
    """Bring the machine to where the check can be made."""
    page.goto(f"/jobs/{JOB}/prove?check={CHECK}")
    first = page.locator("[data-reach] button").first
    while page.locator("[data-reach]").count():
        before = page.locator("[data-reach] li").count()
        volts = page.locator("[data-reach] [name=measured_v]")
        if volts.count():
            volts.fill("3")
        may = page.locator("[data-reach] [name=ticked]")
        if may.count():
            may.check()
        first.click()
        expect(page.locator("[data-reach] li")).not_to_have_count(before)
    expect(page.locator(".meter")).to_be_visible()


def test_a_reading_settles_and_touching_again_keeps_it(page: Page) -> None:
    reach(page)
    page.get_by_role("button", name="Listen to the meter").click()
    meter = page.locator(".meter")
    expect(meter.locator("[data-figure]")).to_have_text("OL")
    page.get_by_role("button", name="Lay the leads").click()
    expect(meter).to_have_attribute("data-state", "settled")
    expect(meter.locator("[data-verdict]")).to_have_text("insulated")
    assert float(meter.locator("[data-figure]").inner_text()) > 1
    assert (
        float(meter.locator("[data-figure]").evaluate("e => getComputedStyle(e).fontSize")[:-2])
        >= 60
    )
    page.get_by_role("button", name="Lift them").click()
    expect(meter.locator("[data-words]")).to_have_text("touch again to keep it")
    page.get_by_role("button", name="Lay the leads").click()
    expect(page.locator("body")).to_contain_text(re.compile("MΩ, insulated|MΩ, passes"))
    page.keyboard.press("w")


def test_a_walk_keeps_each_stop_by_itself(page: Page) -> None:
    reach(page)
    page.goto(f"/jobs/{JOB}/walk?checks=measure_fuse_ohm,{CHECK}")
    for done in (1, 2):
        expect(page.locator(".meter")).to_have_attribute("data-state", re.compile("open|lifted"))
        page.get_by_role("button", name="Lay the leads").click()
        expect(page.locator(".meter")).to_have_attribute("data-state", "settled")
        page.get_by_role("button", name="Lift them").click()
        expect(page.locator("#walk .stamp-done")).to_have_count(done)
    expect(page.get_by_role("link", name="Back to the job")).to_be_visible()


def test_a_bucket_and_a_watch_on_the_phone(phone: Page) -> None:
    phone.goto("/measure/bucket")
    watch = phone.locator("[data-watch]")
    assert watch.bounding_box()["height"] >= 60
    watch.click()
    expect(watch).to_have_text("Stop the watch")
    expect(phone.locator("[data-shown]")).to_have_text(re.compile(r"0:0[1-9]"))
    watch.click()
    phone.get_by_role("button", name="Work it out").click()
    assert float(phone.locator("[data-result=l_min]").inner_text().replace("\u2009", "")) > 5


def test_only_one_tap_runs_while_its_watch_does(phone: Page) -> None:
    phone.goto("/measure/bucket_both")
    cold = phone.get_by_role("button", name="Open the cold tap")
    hot = phone.get_by_role("button", name="Open the hot tap")
    cold.click()
    hot.click()
    expect(phone.get_by_text("First shut the cold tap")).to_be_visible()
    phone.get_by_role("button", name="Shut the cold tap").click()
    hot.click()
    expect(phone.get_by_role("button", name="Shut the hot tap")).to_be_visible()
    expect(cold).to_be_visible()


def test_bobs_are_counted_by_a_thumb(phone: Page) -> None:
    phone.goto("/measure/swing_by_count")
    count = phone.get_by_role("button", name="Count one")
    for _ in range(3):
        count.click()
    expect(phone.locator("[name=bobs]")).to_have_value("3")
    phone.get_by_role("button", name="Work it out").click()
    expect(phone.locator("[data-result=ratio]")).to_have_text("4.47")


def test_a_service_step_is_timed_judged_and_the_run_goes_on_by_keys(page: Page) -> None:
    page.goto("/jobs/0412/service")
    ready = page.get_by_role("region", name="Before it runs").get_by_role("button")
    while ready.count():
        listens(page)
        before = ready.count()
        page.keyboard.press("k")
        expect(ready).to_have_count(before - 1)
    listens(page)
    first = page.locator("main section.sheet h2").first.inner_text()
    page.keyboard.press("t")
    expect(page.locator("[data-watch]").first).to_have_text("Stop the watch")
    page.keyboard.press("t")
    page.keyboard.press("1")
    expect(page.locator(".stamp-done")).to_have_count(1)
    expect(page.locator("main section.sheet h2").first).not_to_have_text(first)
