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


def test_a_code_is_said_state_by_state_in_words(browser, demo):
    """Rows of the chosen effect's states; nobody types a sign of equality."""
    page = browser.get(f"{F7}/edit?reads=relay_weld").text
    assert 'name="stored_1"' in page
    assert "welded" in page
    code = {"code": "8-1", "shows": "8 1", "name": "relay rests closed", "reads": "relay_weld"}
    refused = browser.form(f"{F7}/code", **code)
    assert refused.status_code == 422
    assert "for at least one state" in refused.text
    assert 'value="relay rests closed"' in refused.text
    assert browser.form(f"{F7}/code", **code, stored_1="often").status_code == 303
    record = demo.machine("FB", "nembrio-f7").codes["8-1"].record
    assert dict(record.stored) == {"welded": "often"}
    changed = browser.get(f"{F7}/edit").text.split("data-changed")[1]
    assert "relay rests closed" in changed


def test_a_part_number_joins_those_a_part_has(browser, demo):
    part = {"component": "drain_pump", "number": "NB-4410-3", "price": "51", "tell": "blue plug"}
    assert browser.form(f"{F7}/part", **part).status_code == 303
    numbers = demo.machine("FB", "nembrio-f7").part_numbers["drain_pump"]
    assert [n.number for n in numbers] == ["NB-4410", "NB-4410-2", "NB-4410-3"]
    assert numbers[-1].tell == "blue plug"
    assert "NB-4410-3" in browser.get(f"{F7}/edit").text.split("data-changed")[1]
    first = {"component": "thermistor", "number": "NB-9", "price": "8"}
    assert browser.form(f"{F7}/part", **first).status_code == 303
    for wrong in ({"price": "free"}, {"price": "0"}, {"number": " "}, {"component": "soul"}):
        assert browser.form(f"{F7}/part", **{**first, **wrong}).status_code == 422
    assert len(demo.machine("FB", "nembrio-f7").part_numbers["thermistor"]) == 1


def test_a_value_takes_the_unit_of_its_measurement(browser, demo):
    value = {key: text for key, text in VALUE.items() if key != "unit"}
    assert browser.form(f"{F7}/value", **value, unit="").status_code == 303
    assert demo.machine("FB", "nembrio-f7").values[VALUE["key"]].unit == "ohm"


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
