"""The panel without a job: every way of showing a code is looked up by real HTTP."""

import pytest
from tests.web.api.test_routes import api

from bottega.core.library.panel_record import PanelRecord
from bottega.web.panel.heard import pad_of

F7 = "/panel/nembrio-f7"


STROKES = "0:0:300 0:900:310 0:3600:300"
"""Two short strokes, a long dark, one: 2-1."""


def test_a_rhythm_is_heard_with_what_it_may_be(browser):
    page = browser.get(f"{F7}?rhythm={STROKES}/{STROKES}").text
    assert "Nembrio F7" in page
    assert "filling took too long" in page
    assert "What it may mean" in page
    assert "What to check first" in page
    part = browser.get(f"{F7}?fill=1&rhythm={STROKES}", headers={"hx-request": "true"}).text
    assert "<html" not in part
    assert 'data-written="2-1"' in part
    assert "data-written" not in page, "nothing to fill in beside it"
    unsure = browser.get(f"{F7}?rhythm={STROKES}/{STROKES} 0:4500:300").text
    assert "counted differently" in unsure
    assert "Tap another round" in unsure
    nothing = browser.get(f"{F7}?rhythm=0:0:1")
    assert nothing.status_code == 200
    assert "expected at least one for each of" in nothing.text


@pytest.mark.parametrize(
    ("sheet", "shown", "said"),
    [
        ("calvessa-dritta-8", "lumo", "filling took too long"),
        ("calvessa-dritta-8", "q" * 60, "expected 1 to 8 characters"),
        ("torvane-alta-10", "1.4", "filling took too long"),
        ("torvane-alta-10", "99.1", "found 99"),
        ("sestra-torre", "000x1", "expected - for a dark lamp"),
        ("sestra-torre", "1", "found 1 lamps"),
        ("ostrel-linea-t", "low 4", "low-4"),
        ("ostrel-linea-t", "low 11", "found 11"),
        ("quernia-compatta-5", "hhhll", "filling took too long"),
        ("virgola-asciutta-7", "m1", "7 bars a figure can form"),
    ],
)
def test_what_is_written_is_looked_up(browser, sheet, shown, said):
    page = browser.get(f"/panel/{sheet}", params={"shown": shown})
    assert page.status_code == 200
    assert said.lower() in page.text.lower()


def test_what_is_touched_is_looked_up_with_what_to_look_at_again(browser):
    half = browser.get("/panel/torvane-alta-10", params={"lit": "10000000/????????"}).text
    assert "1.4" in half
    bars = browser.get("/panel/calvessa-dritta-8", params={"bars": "abm"}).text
    assert "no character this display forms" in bars
    unsure = browser.get("/panel/sestra-torre", params={"lit": "0?????"}).text
    assert "Not sure yet. Look again at" in unsure


def test_every_panel_is_drawn_and_can_be_touched(browser, shelf):
    for sheet in shelf.sheets:
        page = browser.get(f"/panel/{sheet}")
        panel = shelf.sheet(sheet).panel
        if panel is None:
            assert page.status_code == 404
            continue
        assert page.text.count('class="face') == 1, sheet
        for key in panel.face.keys:
            assert f'data-part="{key}"' in page.text, (sheet, key)


def test_a_live_number_is_translated(browser):
    page = browser.get("/panel/calvessa-dritta-8", params={"number": "84"}).text
    assert "168 mm" in page
    assert "840 rpm" in page
    assert "nought only with an empty tub" in page
    wrong = browser.get("/panel/calvessa-dritta-8", params={"number": "much"})
    assert wrong.status_code == 200
    assert "expected the number the panel shows" in wrong.text


def test_a_lamps_record_is_sent_as_a_file(browser):
    def sent(content):
        file = {"file": ("lamp.csv", content)}
        return browser.post(F7, data={"token": browser.token()}, files=file).text

    good = b"time,lamp,on\n0,1,1\n.3,1,0\n.9,1,1\n1.2,1,0\n4,1,1\n4.3,1,0\n"
    assert "filling took too long" in sent(good)
    assert "Line 3: found 0.1 s after 1 s" in sent(b"time,lamp,on\n1,1,1\n.1,1,0\n")
    assert "expected CSV in UTF-8" in sent(b"\xff\xfe\x00time")
    assert "No file came along" in sent(b"")


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
    taps = decoded(sheet="nembrio-f7", taps=STROKES).json()
    assert taps[0]["code"] == "2-1"
    assert decoded(sheet="torvane-alta-10", lamps=[1, 4]).json()[0]["code"] == "1.4"
    assert decoded(sheet="calvessa-dritta-8", text="lumo").json()[0]["chance"] > 0.99
    strange = decoded(sheet="calvessa-dritta-8", text="qqqq").json()
    assert strange == [{"code": None, "name": None, "chance": 1}]
    assert decoded(sheet="ostrel-linea-t", lamps=[0, 4]).json()[0]["code"] == "low-4"
    assert decoded(sheet="ostrel-linea-t", text="low 4").json()[0]["code"] == "low-4"
    assert decoded(sheet="quernia-compatta-5", text="hhhll, hhhl").json()[0]["code"] == "hhhll"
    assert decoded(sheet="quernia-compatta-5", rounds=[[1, 1, 1, 0, 0]]).json()[0]["chance"] > 0.5
    assert decoded(sheet="nobody", text="x").status_code == 404
    wrong = decoded(sheet="nembrio-f7", rounds=[[2, 99]])
    assert wrong.status_code == 422
    assert "found 99 second figure" in wrong.text.lower()
    assert decoded(sheet="nembrio-f7").status_code == 422
