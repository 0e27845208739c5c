"""Sheets on screen: from new to a file, and every refusal with its lines and its text."""

import json

from bottega.app.job.answer import diagnose

F7 = "/library/FB/nembrio-f7"
VALUE = {
    "key": "pump_coil_ohm",
    "low": "170",
    "high": "210",
    "unit": "ohm",
    "grade": "measured",
    "source": "a new pump",
}


def test_a_sheet_from_new_to_file(browser, demo):
    made = browser.form(
        "/library/new", maker="Brix", model="Uno 3", archetype="FI", plate_heater_w="1200"
    )
    assert made.headers["location"] == "/library/FI/brix-uno-3/edit"
    assert browser.get("/library/FI/brix-uno-3").status_code == 200
    again = browser.form("/library/new", maker="Brix", model="Uno 3", archetype="FI")
    assert again.status_code == 422
    assert "already" in again.text
    back = browser.form(f"{F7}/value", job="0412", **VALUE)
    assert back.headers["location"] == "/jobs/0412"
    assert "the sheet has been changed since" in browser.get("/jobs/0412/prove").text.lower()
    file = browser.get(f"{F7}/yaml")
    assert "a new pump" in file.text
    assert file.text in browser.get("/library/sheets.yaml").text + "\n"


def test_a_sheet_for_a_job_that_has_none(browser, demo):
    page = browser.get("/library/new?job=0410").text
    assert 'value="1900"' in page
    made = browser.form(
        "/library/new", maker="Brix", model="Due", archetype="FB", job="0410", plate_heater_w="1900"
    )
    assert made.headers["location"] == "/library/FB/brix-due/edit?job=0410"
    assert diagnose(demo, "0410").machine.title == "Brix Due"
    assert browser.get("/jobs/0410/prove").status_code == 200


def test_a_broken_sheet_comes_back_with_its_lines_and_its_text(browser, demo):
    text = browser.get(f"{F7}/yaml").text.replace("low: 165", "low: high up")
    page = browser.form(f"{F7}/raw", seen=0, text=text)
    assert page.status_code == 422
    assert "low: high up" in page.text
    assert f"line {text[: text.index('low: high up')].count(chr(10)) + 1}" in page.text
    assert browser.form(f"{F7}/value", **{**VALUE, "low": "x"}).status_code == 422
    assert browser.form(f"{F7}/dance").status_code == 404
    assert browser.form("/library/FB/ghost/value", **VALUE).status_code == 404
    assert demo.sheets.of("nembrio-f7") == []


def test_a_code_table_is_previewed_before_it_is_kept(browser, demo):
    table = b"code;shows;name;reads;stored\n8-1;8 1;relay rests closed;relay_weld;welded=often\n"
    shown = browser.post(
        f"{F7}/csv", data={"token": browser.token()}, files={"file": ("t.csv", table)}
    )
    assert "1 codes, as they would go in" in shown.text
    assert demo.sheets.of("nembrio-f7") == []
    row = {"code": "8-1", "shows": "8 1", "name": "relay", "reads": "relay_weld"}
    rows = json.dumps([{**row, "stored": "welded=often", "family": ""}])
    assert browser.form(f"{F7}/codes", rows=rows).status_code == 303
    assert "8-1" in browser.get(F7).text
    assert browser.form(f"{F7}/codes", rows="nonsense").status_code == 422


def test_an_import_that_collides_asks(browser, demo):
    raw = browser.get(f"{F7}/yaml").text
    asked = browser.post(
        "/library/import", data={"token": browser.token()}, files={"file": ("s.yaml", raw.encode())}
    )
    assert asked.status_code == 409
    assert "take it as a new one" in asked.text
    taken = browser.form("/library/import", text=raw, **{"choice_nembrio-f7": "new"})
    assert taken.status_code == 303
    assert browser.get("/library/FB/nembrio-f7-2").status_code == 200
    broken = browser.post(
        "/library/import", data={"token": browser.token()}, files={"file": ("s.yaml", b"a: [")}
    )
    assert broken.status_code == 422
