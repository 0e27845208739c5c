"""Two jobs on machines of physics, from the call to the proof, in a real browser: the leading check
is done at the machine, and one reading of each is taken by the meter without a hand. Five more are
worked without a screen in ``tests/app/test_rig_jobs.py``."""

import re
import shutil
from collections.abc import Iterator
from pathlib import Path

import pytest
from playwright.sync_api import Browser, Page, expect
from tests.e2e.conftest import DESK, opened
from tests.e2e.shop import served

from bottega.app.workshop import open_workshop
from bottega.store.rigs import RigTicket

CASES = {
    "houseboat": ("rotor_slips", 0.9, "measure_pump_coil"),
    "nospin": ("belt_off", 0.9, "measure_windings"),
}
"""By the job: what is wrong, how badly, and what is measured beside it."""
MOST = 40


@pytest.fixture(scope="module")
def two(demo_shop: Path, tmp_path_factory: pytest.TempPathFactory) -> Iterator[str]:
    """The demo shop with two more machines on its rig."""
    folder = tmp_path_factory.mktemp("two") / "shop"
    shutil.copytree(demo_shop, folder)
    workshop = open_workshop(folder)
    for name, (fault, severity, _) in CASES.items():
        seed = f"jobs:{name}"  # of machines whose belt is not misread: one look in fifty is
        workshop.rigs.keep(RigTicket(name, "FB", "nembrio-f7", seed, {fault: severity}))
    workshop.close()
    with served(folder, meter=True) as base:
        yield base


@pytest.fixture
def bench(chromium: Browser, two: str) -> Iterator[Page]:
    yield from opened(chromium, two, **DESK)


def settled(page: Page) -> None:
    """Wait until nothing is under way."""
    expect(page.locator(".htmx-request")).to_have_count(0)


def reach(page: Page) -> bool:
    """Do the first of what has to be done before; return whether there was something."""
    first = page.locator("#main [data-reach] button")
    if not first.count():
        return False
    volts = page.locator("#main [data-reach] [name=measured_v]")
    if volts.count():
        volts.fill("3")
    may = page.locator("[data-reach] [name=ticked]")
    if may.count():
        may.check()
    seq = page.locator("#main [name=seen]").first.input_value()
    first.first.click()
    expect(page.locator(f"#main [name=seen][value='{seq}']")).to_have_count(0)
    return True


def measured(page: Page, number: str, check: str) -> None:
    """Take one reading by the meter, and keep it by touching the points again."""
    page.goto(f"/jobs/{number}/prove?check={check}")
    while reach(page):
        page.goto(f"/jobs/{number}/prove?check={check}")
    page.get_by_role("button", name="Listen to the meter").click()
    page.get_by_role("button", name="Lay the leads").click()
    expect(page.locator(".meter")).to_have_attribute("data-state", "settled")
    page.get_by_role("button", name="Lift them").click()
    expect(page.locator(".meter [data-words]")).to_have_text("touch again to keep it")
    seq = page.locator("#main [name=seen]").first.input_value()
    page.get_by_role("button", name="Lay the leads").click()
    expect(page.locator(f"#main [name=seen][value='{seq}']")).to_have_count(0)


@pytest.mark.parametrize("name", CASES)
def test_what_leads_is_done_at_the_machine_until_it_is_proved(bench: Page, name: str) -> None:
    fault, _, check = CASES[name]
    bench.goto(f"/rigs/{name}")
    bench.get_by_role("button", name="Call about it").click()
    bench.wait_for_url(re.compile(r"/jobs/\d+"))
    number = re.search(r"/jobs/(\d+)", bench.url).group(1)
    measured(bench, number, check)
    for _ in range(MOST):
        bench.goto(f"/jobs/{number}/prove")
        settled(bench)
        if reach(bench):
            continue
        seq = bench.locator("#main [name=seen]").first
        before = seq.input_value() if seq.count() else ""
        done = bench.get_by_role("button", name="Do it at the machine on the rig")
        aside = bench.get_by_role("button", name="Not now")
        if not done.count() and not aside.count():
            break
        (done if done.count() else aside).first.click()
        expect(bench.locator(f"#main [name=seen][value='{before}']")).to_have_count(0)
    else:
        pytest.fail("it did not come to an end")
    bench.goto(f"/jobs/{number}/prove")
    expect(bench.locator("select[name=weigh] option:checked")).to_contain_text(LEADS[fault])


LEADS = {
    "rotor_slips": "rotor slips",
    "belt_off": "off",
}
