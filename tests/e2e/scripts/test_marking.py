"""A tap on the drawing is told in the drawing's own units."""

from urllib.parse import parse_qs, urlsplit

import pytest

BODY = """<div data-marking style="position: absolute; left: 30px; top: 40px">
  <svg class="section" width="400" height="200" viewBox="0 0 800 400">
  <a hx-get="/mark" href="/mark"><rect width="800" height="400"></rect></a></svg></div>"""


@pytest.mark.parametrize(("x", "y"), [(0.25, 0.5), (0.9, 0.1)])
def test_the_mark_is_where_the_finger_was(written, x, y):
    page = written(BODY, {"/mark*": "marked"})
    with page.expect_request("**/mark*") as asked:
        page.locator("svg").click(position={"x": 400 * x, "y": 200 * y})
    sent = parse_qs(urlsplit(asked.value.url).query)
    assert float(sent["mx"][0]) == pytest.approx(800 * x, abs=2)
    assert float(sent["my"][0]) == pytest.approx(400 * y, abs=2)
