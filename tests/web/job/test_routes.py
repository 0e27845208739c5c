"""A job's changes: they flow through the stations, and are refused in place."""

import pytest
from tests.conftest import new_id
from tests.web.conftest import seq

from bottega.app.job.answer import diagnose


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
