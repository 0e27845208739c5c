"""The API: from library to diagnosis, errors of one shape, only JSON, a whole description."""

import json

import pytest
from tests.conftest import new_id
from tests.web.conftest import seq

from bottega.core.job.kinds import KINDS

F7 = "/library/FB/nembrio-f7"


def api(browser, address, body, **headers):
    browser.token()
    return browser.post(
        f"/api/v1{address}",
        content=json.dumps(body),
        headers={"content-type": "application/json", **headers},
    )


def test_the_sets_of_faults_reach_the_api(browser):
    sets = browser.get("/api/v1/jobs/0412/diagnosis").json()["sets"]
    assert sets[0]["faults"] == ["rotor_slips"]
    assert sets == sorted(sets, key=lambda item: -item["probability"])


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
    def test_errors_are_problem_json_of_one_shape(self, browser, demo, address, body, *, status):
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


def test_the_description_has_the_schema_of_every_kind_of_event(reader):
    """By the union alone: a kind that is added there is described."""
    paths = reader.get("/api/v1/openapi.json").json()["paths"]
    asked = paths["/api/v1/jobs/{number}/events"]["post"]["requestBody"]["content"]
    body = asked["application/json"]["schema"]["properties"]["body"]
    told = {one["properties"]["kind"]["const"]: one for one in body["oneOf"]}
    assert set(told) == set(KINDS)
    assert told["checked"]["required"] == ["check", "outcome"]
    assert "$ref" not in json.dumps(body)
