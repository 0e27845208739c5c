"""The panel without a job: every way of showing a code is looked up by real HTTP."""

import pytest
from tests.web.api.test_routes import api

from bottega.core.library.sheet import PanelRecord
from bottega.web.panel.heard import pad_of

F7 = "/panel/nembrio-f7"


def test_a_rhythm_is_heard_with_what_it_may_be(browser):
    page = browser.get(f"{F7}?rhythm=0:0 0:500 1:1500/0:0 0:500 1:1500").text
    assert "Nembrio F7" in page
    assert "filling took too long" in page
    part = browser.get(f"{F7}?fill=1&rhythm=0:0 0:500 1:1500", headers={"hx-request": "true"}).text
    assert "<html" not in part
    assert 'data-counts="2 1"' in part
    assert "data-counts" not in page, "nothing to fill in beside it"
    unsure = browser.get(f"{F7}?rhythm=0:0 0:500 1:1500/0:0 0:500 1:1500 1:2000").text
    assert "counted differently" in unsure
    assert "Tap another round" in unsure
    nothing = browser.get(f"{F7}?rhythm=0:0")
    assert nothing.status_code == 200
    assert "expected at least one for each of" in nothing.text


@pytest.mark.parametrize(
    ("sheet", "shown", "said"),
    [
        ("calvessa-dritta-8", "bA1", "filling took too long"),
        ("torvane-alta-10", "1,4", "filling took too long"),
        ("sestra-torre", "00011", "filling took too long"),
        ("sestra-torre", "000x1", "expected whole numbers"),
        ("sestra-torre", "1", "found 1 counts"),
        ("ostrel-linea-t", "q05", "one step away"),
        ("ostrel-linea-t", "q" * 300, "expected 1 to 8 characters"),
    ],
)
def test_what_is_typed_is_looked_up(browser, sheet, shown, said):
    page = browser.get(f"/panel/{sheet}", params={"shown": shown})
    assert page.status_code == 200
    assert said.lower() in page.text.lower()


def test_a_panel_of_more_lamps_than_keys_has_one_to_tap_for_each():
    panel = PanelRecord(kind="flash_trains", lamps=("a", "b", "c", "d"), how="", entry=(), clear=())
    pad = pad_of(panel)
    assert [(key.label, key.key) for key in pad.keys] == [
        ("a", "f"),
        ("b", "j"),
        ("c", "l"),
        ("d", ""),
    ]


def test_no_sheet_and_no_panel_are_said(browser):
    assert browser.get("/panel/nobody").status_code == 404
    timer = browser.get("/panel/pellandra-400")
    assert timer.status_code == 404
    assert "shows no codes" in timer.text


def test_every_way_is_decoded_over_the_api(browser):
    def decoded(**shown):
        return api(browser, "/panel/decode", shown)

    rounds = decoded(sheet="nembrio-f7", rounds=[[2, 1], [2, 1], [2, 2]]).json()
    assert rounds[0]["code"] == "2-1"
    assert 0.5 < rounds[0]["chance"] < 1
    taps = decoded(sheet="nembrio-f7", taps="0:0 0:500 1:1500").json()
    assert taps[0]["code"] == "2-1"
    assert decoded(sheet="torvane-alta-10", lamps=[1, 4]).json()[0]["code"] == "1.4"
    assert decoded(sheet="calvessa-dritta-8", text="bA1").json()[0]["chance"] == 1
    near = decoded(sheet="ostrel-linea-t", text="q05").json()
    assert near[0] == {"code": None, "name": None, "chance": None}
    assert len(near) > 1
    assert {reading["chance"] for reading in near} == {None}
    assert decoded(sheet="nobody", text="x").status_code == 404
    wrong = decoded(sheet="nembrio-f7", rounds=[[2, 99]])
    assert wrong.status_code == 422
    assert "found 99 white" in wrong.text.lower()
    assert decoded(sheet="nembrio-f7").status_code == 422
