"""The rig's panel shows its schedule in time."""

import json

FACE = """<div x-data="rigpanel" data-schedule='{}'><div class="face">
  <i data-lamp-at="0"></i><i data-lamp-at="1"></i><b data-length="1"></b><b data-length="2"></b>
  <u data-digit><s data-bar="a"></s><s data-bar="g"></s></u></div></div>"""


def shown(**changed):
    return FACE.format(json.dumps({"kind": "lamps", "taps": [], "lit": [], "bars": [], **changed}))


def states(page, selector):
    return page.locator(selector).evaluate_all("all => all.map(e => e.dataset.state || '')")


def test_a_rhythm_is_played_and_begins_anew(written):
    page = written(shown(taps=[[0.5, 1, 0.5], [1.5, 1, 0.5]]), clock=True)
    page.clock.pause_at(page.evaluate("Date.now()") + 50)
    seen = []
    for _ in range(15):
        page.clock.run_for(500)
        seen.append(states(page, "[data-lamp-at]")[1] == "1")
    assert seen.count(True) >= 3
    lit = [n for n, on in enumerate(seen) if on]
    assert lit[1] - lit[0] == 2
    assert lit[2] - lit[0] == 11


def test_pages_of_lamps_a_bar_and_characters(written):
    page = written(shown(lit=[[1, 0], [0, 2]], bars=["g"]), clock=True)
    page.clock.run_for(100)
    assert states(page, "[data-lamp-at]") == ["1", "0"]
    assert states(page, "[data-bar]") == ["", "1"]
    page.clock.run_for(3000)
    assert states(page, "[data-lamp-at]") == ["0", "2"]
    page = written(shown(kind="bar", lit=[[1]]))
    assert states(page, "[data-length]") == ["1", "0"]
