"""Bodies of the API: validated by a thread, refused with their first errors, and described."""

import asyncio

import pytest
from fastapi import Depends, FastAPI
from fastapi.testclient import TestClient
from pydantic import BaseModel, field_validator
from tests.web.api.test_routes import api

from bottega.web.api.sent import MOST_ITEMS, read


class Part(BaseModel):
    """A part of a body; counts where a loop runs while it is validated."""

    figure: int

    @field_validator("figure")
    @classmethod
    def away_from_the_loop(cls, figure):
        with pytest.raises(RuntimeError, match="no running event loop"):
            asyncio.get_running_loop()
        return figure


class Whole(BaseModel):
    parts: list[Part]


@pytest.fixture(scope="module")
def client():
    app = FastAPI()

    @app.post("/")
    def count(whole: Whole = Depends(read(Whole))):
        return len(whole.parts)

    return TestClient(app)


def test_a_body_is_validated_away_from_the_loop(client):
    assert client.post("/", json={"parts": [{"figure": 1}] * 3}).json() == 3


@pytest.mark.parametrize(
    ("raw", "said"),
    [
        (b'{"sheet": 7}', "Found 7 at body.sheet"),
        (b'{"sheet": "x", "rounds": [[true, "a"]]}', "at body.rounds.0.1"),
        (b'{"sheet": ', "cut or is not JSON at line 1"),
        (b"[" * 300 + b"]" * 300, "brackets within each other"),
        (b"[" + b"1," * MOST_ITEMS + b"1]", f"expected at most {MOST_ITEMS}"),
        (b"\xff\xfe", "is not JSON"),
        (b"]" * 2_000_000, "is not JSON"),
    ],
)
def test_what_does_not_fit_is_said(browser, raw, said):
    headers = {"content-type": "application/json"}
    answer = browser.post("/api/v1/panel/decode", content=raw, headers=headers)
    assert answer.status_code == 422
    assert said in answer.json()["detail"]


def test_the_description_has_every_body_whole(browser):
    paths = browser.get("/api/v1/openapi.json").json()["paths"]
    for path in ("/jobs", "/jobs/{number}/events", "/jobs/{number}/readings", "/panel/decode"):
        content = paths[f"/api/v1{path}"]["post"]["requestBody"]["content"]
        schema = content["application/json"]["schema"]
        assert schema["additionalProperties"] is False
        assert "$ref" not in str(schema)
    job = paths["/api/v1/jobs"]["post"]["requestBody"]["content"]["application/json"]["schema"]
    assert job["properties"]["opened"]["required"] == ["machine", "place"]
    assert api(browser, "/jobs", {"opened": {}}).status_code == 422
