"""Every route that changes something: it works, it refuses in place with 4xx, and it is guarded."""

import json

import pytest
from tests.conftest import new_id

from bottega.app.job.answer import diagnose
from bottega.app.job.file import export_job

CALL = {
    "machine": "nembrio-f7",
    "text": "It does not drain and hums",
    "age_years": "7",
    "place": "Quay",
    "customer": "",
    "history": "moved; new hose",
    "power": "on",
    "taps": "open",
    "water": "in",
    "arrival": "",
}


def seq(demo, number="0412"):
    return diagnose(demo, number).seq


def test_a_call_is_taken_and_opened(browser, demo):
    answer = browser.form("/call", **CALL)
    assert answer.status_code == 303
    job = diagnose(demo, answer.headers["location"].rsplit("/", 1)[1]).job
    assert set(job.complaint.said) == {"says_water_stays", "says_hums"}
    assert job.opened.history == ("moved", "new hose")


def test_the_ranking_stands_while_the_call_is_typed(browser, demo):
    before = demo.log.numbers()
    page = browser.form("/call/preview", **{**CALL, "place": "", "age_years": ""})
    assert page.status_code == 200
    assert "Drain pump: rotor slips" in page.text
    assert "the visit comes to" in page.text
    assert demo.log.numbers() == before


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ({"age_years": "old"}, "age years"),
        ({"place": ""}, "place"),
        ({"machine": "ghost"}, "Which machine"),
        ({"machine": ""}, "Which machine"),
        ({"machine": "FB", "plate_volts": "9000"}, "volts"),
    ],
)
def test_a_bad_call_comes_back_with_what_was_typed(browser, demo, change, words):
    before = demo.log.numbers()
    page = browser.form("/call", **{**CALL, **change})
    assert page.status_code == 422
    assert words in page.text
    assert "It does not drain and hums" in page.text
    assert demo.log.numbers() == before


def test_events_flow_through_the_stations(browser, demo):
    steps = [
        ("prove/event", {"kind": "took_off", "operation": "filter_flap"}),
        ("prove/event", {"kind": "state_changed", "what": "water", "to": "out"}),
        ("prove/event", {"kind": "took_off", "operation": "filter_cap"}),
        ("prove/reading", {"check": "measure_pump_coil", "typed": "0.184 k"}),
        ("prove/event", {"kind": "checked", "check": "turn_rotor", "outcome": "free"}),
        ("decide/decide", {"repair": "drain_pump.part", "reason": "proved"}),
        (
            "fit/event",
            {"kind": "repaired", "repair": "drain_pump.part", "part_number": "NB-4410-2"},
        ),
    ]
    for address, fields in steps:
        answer = browser.form(f"/jobs/0412/{address}", seq(demo), **fields)
        assert answer.status_code == 303, answer.text[:400]
    assert answer.headers["location"] == "/jobs/0412/close"
    assert diagnose(demo, "0412").job.repairs[0].part_number == "NB-4410-2"


def test_flashes_and_undo(browser, demo):
    start = seq(demo, "0414")
    ok = browser.form("/jobs/0414/panel/flashes", start, amber_0="2", white_0="4", result="codes")
    assert ok.status_code == 303
    assert diagnose(demo, "0414").job.panel.codes == ("2-4",)
    assert browser.form("/jobs/0414/panel/undo", start + 1).status_code == 303
    assert diagnose(demo, "0414").job.panel is None
    bad = browser.form(
        "/jobs/0414/panel/flashes", start + 2, amber_0="2", white_0="3", result="codes"
    )
    assert bad.status_code == 422
    assert "in no table" in bad.text
    assert 'value="3"' in bad.text


@pytest.mark.parametrize(
    ("address", "fields", "status", "words"),
    [
        (
            "prove/event",
            {"kind": "checked", "check": "turn_rotor", "outcome": "free"},
            409,
            "not open yet",
        ),
        (
            "prove/event",
            {"kind": "checked", "check": "turn_drum", "outcome": "purple"},
            409,
            "expected one of",
        ),
        ("prove/event", {"kind": "nonsense"}, 422, "kind"),
        ("prove/event", {}, 422, "does not say what happened"),
        ("prove/reading", {"check": "measure_standpipe", "typed": "ten"}, 422, "expected a number"),
        ("prove/reading", {"check": "measure_standpipe", "typed": "900 V"}, 422, "expected mm"),
        ("decide/decide", {"repair": "moon.part"}, 422, "expected one that is offered"),
        (
            "handover/event",
            {"kind": "handed_over", "advice": "keep this text"},
            409,
            "keep this text",
        ),
        (
            "safe/event",
            {"kind": "state_changed", "what": "posture", "to": "tipped"},
            409,
            "water in the tub",
        ),
    ],
)
def test_refusals_come_back_in_place_and_change_nothing(
    browser, demo, address, fields, status, words
):
    before = seq(demo)
    page = browser.form(f"/jobs/0412/{address}", before, **fields)
    assert page.status_code == status
    assert words in page.text
    assert 'id="job"' in page.text
    assert seq(demo) == before


def test_a_bad_reading_stays_in_its_field(browser, demo):
    page = browser.form(
        "/jobs/0412/prove/reading", seq(demo), check="measure_standpipe", typed="ten feet or so"
    )
    assert 'value="ten feet or so"' in page.text


def test_a_stale_form_is_refused_and_the_same_id_is_stored_once(browser, demo):
    start = seq(demo)
    note = {"kind": "noted", "text": "hello"}
    assert browser.form("/jobs/0412/prove/event", start - 1, **note).status_code == 409
    assert browser.form("/jobs/0412/prove/event", **note).status_code == 409
    same = new_id()
    for _ in range(2):
        assert (
            browser.form("/jobs/0412/prove/event", start, event_id=same, **note).status_code == 303
        )
    assert seq(demo) == start + 1


def test_import_by_upload(browser, empty, demo, tmp_path):
    raw = export_job(demo, "0412").model_dump_json().encode()
    there = browser.post(
        "/import", data={"token": browser.token()}, files={"file": ("job.json", raw)}
    )
    assert there.status_code == 409
    cut = browser.post(
        "/import", data={"token": browser.token()}, files={"file": ("job.json", raw[:200])}
    )
    assert cut.status_code == 422
    assert "cut or is not JSON" in cut.text


def test_settings_members_author_and_theme(browser, demo):
    assert browser.form("/shop", currency="USD", mains_v="120").status_code == 303
    assert demo.settings.currency == "USD"
    assert browser.form("/shop", mains_v="lots").status_code == 422
    assert browser.form("/shop/member", name="Ned Ash", role="technician").status_code == 303
    assert browser.form("/shop/member", name="", role="").status_code == 422
    assert (
        browser.form("/shop/author", author="Ned Ash", back="//evil.example").headers["location"]
        == "/"
    )
    browser.form("/jobs/0412/prove/event", seq(demo), kind="noted", text="mine")
    assert diagnose(demo, "0412").job.events[-1].author == "Ned Ash"
    browser.form("/shop/theme", theme="cellar", back="/")
    assert 'data-theme="cellar"' in browser.get("/").text


def test_a_shop_on_us_customary_units_reads_inches_beside_millimetres(browser, demo):
    address = "/jobs/0412/prove?check=measure_standpipe"
    assert "mm, that is" not in browser.get(address).text
    browser.form("/shop", units="us", mains_v="120", mains_hz="60", currency="USD")
    assert "Expected 500 to 1000 mm, that is 19.7 to 39.4 in" in browser.get(address).text


def test_the_sets_of_faults_reach_the_api(browser):
    sets = browser.get("/api/v1/jobs/0412/diagnosis").json()["sets"]
    assert sets[0]["faults"] == ["rotor_slips"]
    assert sets == sorted(sets, key=lambda item: -item["probability"])


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


CHANGES = [
    f"{F7}/value",
    "/library/new",
    "/library/import",
    "/call",
    "/call/preview",
    "/import",
    "/shop",
    "/shop/member",
    "/shop/author",
    "/shop/theme",
    "/jobs/0412/prove/event",
    "/jobs/0412/prove/reading",
    "/jobs/0412/panel/flashes",
    "/jobs/0412/decide/decide",
    "/jobs/0412/prove/undo",
]


@pytest.mark.parametrize("address", CHANGES)
def test_changes_want_the_sessions_token_and_the_same_origin(browser, demo, address):
    before = seq(demo)
    browser.get("/")
    file = {"files": {"file": ("x", b"{}")}} if address == "/import" else {}
    assert browser.post(address, data={"token": "guessed"}, **file).status_code == 403
    token = browser.token()
    for headers in ({"Origin": "http://evil.example"}, {"Sec-Fetch-Site": "cross-site"}):
        assert (
            browser.post(address, data={"token": token}, headers=headers, **file).status_code == 403
        )
    assert seq(demo) == before


def test_every_answer_carries_the_content_policy(browser):
    for address in ("/", "/nowhere", "/api/v1/library", "/static/app.css"):
        policy = browser.get(address).headers["content-security-policy"]
        assert "script-src 'self'" in policy
        assert "unsafe" not in policy


def test_a_body_over_the_limit_is_refused_before_it_is_read(browser):
    answer = browser.post(
        "/import", content=b"x" * 3_000_000, headers={"content-type": "application/octet-stream"}
    )
    assert answer.status_code == 413


def test_pages_hold_no_inline_script_or_style(browser):
    for address in (
        "/",
        "/call",
        f"{F7}/edit",
        "/library/which",
        "/jobs/0412/prove",
        "/jobs/0412/panel",
        "/jobs/0391/report",
        "/shop",
        "/library/FB",
    ):
        page = browser.get(address).text
        assert " style=" not in page
        assert "<style" not in page
        assert "<script>" not in page
        assert " onclick=" not in page


def api(browser, address, body, **headers):
    browser.token()
    return browser.post(
        f"/api/v1{address}",
        content=json.dumps(body),
        headers={"content-type": "application/json", **headers},
    )


class TestApi:
    def test_from_library_to_diagnosis(self, browser, demo):
        listed = browser.get("/api/v1/library").json()
        assert {"archetype": "FB", "sheet": "nembrio-f7"}.items() <= next(
            m for m in listed if m["sheet"] == "nembrio-f7"
        ).items()
        opened = {
            "machine": "nembrio-f7",
            "age_years": 7,
            "place": "Quay",
            "power": "off",
            "water": "out",
        }
        made = api(
            browser,
            "/jobs",
            {
                "event_id": new_id(),
                "opened": opened,
                "complaint": "it hums and does not drain",
            },
        )
        assert made.status_code == 201
        number, at = made.json()["number"], made.json()["seq"]
        event = {
            "id": new_id(),
            "seen": at,
            "body": {"kind": "took_off", "operation": "filter_flap"},
        }
        assert api(browser, f"/jobs/{number}/events", event).json()["seq"] == at + 1
        assert api(browser, f"/jobs/{number}/events", event).json()["seq"] == at + 1
        height = {
            "id": new_id(),
            "check": "measure_standpipe",
            "typed": "90",
            "unit": "cm",
        }
        assert api(browser, f"/jobs/{number}/readings", height).status_code == 201
        read = browser.get(f"/api/v1/jobs/{number}/diagnosis").json()
        assert read["ranking"][0]["fault"] == "rotor_slips"
        assert read["next"][0]["outcomes"]
        whole = browser.get(f"/api/v1/jobs/{number}/export").json()
        whole["number"] = "0999"
        for n, item in enumerate(whole["events"]):
            item["id"] = f"copy-{n:05d}"
        assert api(browser, "/jobs/import", whole).json()["number"] == "0999"

    @pytest.mark.parametrize(
        ("address", "body", "status"),
        [
            ("/jobs", {"event_id": new_id(), "opened": {"machine": "ghost"}}, 422),
            ("/jobs", {"event_id": "x"}, 422),
            (
                "/jobs/9999/events",
                {"id": new_id(), "body": {"kind": "noted", "text": "x"}},
                404,
            ),
            (
                "/jobs/0412/events",
                {"id": new_id(), "body": {"kind": "handed_over"}},
                409,
            ),
            (
                "/jobs/0412/events",
                {"id": new_id(), "seen": 0, "body": {"kind": "noted", "text": "x"}},
                409,
            ),
            (
                "/jobs/0412/readings",
                {"id": new_id(), "check": "measure_standpipe", "typed": "90"},
                422,
            ),
            (
                "/jobs/0412/readings",
                {
                    "id": new_id(),
                    "check": "measure_standpipe",
                    "typed": "90",
                    "unit": "V",
                },
                422,
            ),
            ("/jobs/import", {"format": "bottega-job", "version": 99}, 422),
        ],
    )
    def test_errors_are_problem_json_of_one_shape(self, browser, demo, address, body, status):
        before = seq(demo)
        answer = api(browser, address, body)
        assert answer.status_code == status
        assert answer.headers["content-type"] == "application/problem+json"
        assert {"type", "title", "status", "detail"} <= set(answer.json())
        assert seq(demo) == before

    def test_only_json_from_here(self, browser):
        assert browser.post("/api/v1/jobs", data={"a": 1}).status_code == 403
        assert api(browser, "/jobs", {}, Origin="http://evil.example").status_code == 403

    def test_the_description_names_every_route_and_nothing_outside(self, browser):
        described = browser.get("/api/v1/openapi.json").json()
        page = browser.get("/api/v1/docs").text
        for path in described["paths"]:
            assert path in page
        assert "http://" not in page.replace("http://www.w3.org", "")
        assert browser.get("/api/v1/schema/job.json").json()["title"] == "JobFile"
        assert browser.get("/api/v1/schema/sheet.json").json()["title"] == "SheetFile"
