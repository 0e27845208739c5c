"""A job's file on its way in: that it is sent and read is seen, what is no job is said in its
place, and the job is opened."""

import json

import pytest
from playwright.sync_api import Page, expect
from tests.e2e.conftest import opened

pytestmark = pytest.mark.e2e


@pytest.fixture
def there(chromium, empty_shop):
    yield from opened(chromium, empty_shop, 390, 844, has_touch=True, is_mobile=True)


def send(page: Page, name: str, raw: bytes) -> None:
    page.get_by_label("Job file").set_input_files(
        {"name": name, "mimeType": "application/json", "buffer": raw}
    )
    page.get_by_role("button", name="Bring it in").tap()


def test_a_file_goes_in_with_its_way_seen(page: Page, there: Page):
    raw = page.request.get("/jobs/0412/export").body()
    there.goto("/")
    there.get_by_text("Bring in a job from a file").tap()
    send(there, "cut.json", raw[:200])
    expect(there.get_by_role("alert").filter(has_text="cut or is not JSON")).to_be_visible()
    expect(there.locator("[data-sending]")).to_be_hidden()
    held = []
    there.route("**/import", lambda route: held.append(route))
    send(there, "job.json", raw)
    expect(there.get_by_label("How much of the file is sent")).to_be_visible()
    held[0].continue_()
    there.wait_for_url("**/jobs/0412/**")
    assert json.loads(there.request.get("/api/v1/jobs/0412/export").body())["number"] == "0412"
