"""A job's changes: they flow through the stations, and are refused in place."""

import re
from datetime import timedelta

import pytest
from tests.app.steps import take_out
from tests.conftest import new_id
from tests.web.conftest import seq

from bottega.app.job.answer import diagnose
from bottega.app.job.record import new_event
from bottega.core.job.events import SetAside
from bottega.core.job.proofs import checks_owed


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
            {"kind": "repaired", "repair": "drain_pump.part", "part_number": "NB-4410"},
        ),
    ]
    for address, fields in steps:
        if fields.get("kind") == "repaired":
            take_out(demo, "0412", fields["repair"])
        answer = browser.form(f"/jobs/0412/{address}", seq(demo), **fields)
        assert answer.status_code == 303, answer.text[:400]
    assert answer.headers["location"] == "/jobs/0412/close"
    assert diagnose(demo, "0412").job.repairs[0].part_number == "NB-4410"


def test_flashes_and_undo(browser, demo):
    start = seq(demo, "0414")
    ok = browser.form("/jobs/0414/panel/flashes", start, seen_0="2-4", result="codes")
    assert ok.status_code == 303
    assert diagnose(demo, "0414").job.panel.codes == ("2-4",)
    assert browser.form("/jobs/0414/panel/undo", start + 1).status_code == 303
    assert diagnose(demo, "0414").job.panel is None
    strange = {"seen_0": "2-3", "result": "codes", "version": "17"}
    bad = browser.form("/jobs/0414/panel/flashes", start + 2, **strange)
    assert bad.status_code == 422
    assert "in no table" in bad.text
    assert 'value="2-3"' in bad.text
    assert 'value="17"' in bad.text
    assert "Keep it as unknown" in bad.text
    kept = browser.form("/jobs/0414/panel/flashes", start + 2, **{**strange, "result": "unknown"})
    assert kept.status_code == 303
    assert diagnose(demo, "0414").job.panel.unlisted == ("2-3",)
    assert "2-3 (in no table)" in browser.get("/jobs/0414/panel").text


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


def fitted(browser, demo):
    """Bring the houseboat's job to a fitted pump and return its debts that a check settles."""
    for body in (
        {"kind": "decided", "choice": "refer"},
        {"kind": "state_changed", "what": "power", "to": "off"},
        {"kind": "state_changed", "what": "water", "to": "out"},
        {"kind": "took_off", "operation": "filter_flap"},
        {"kind": "took_off", "operation": "filter_cap"},
        {"kind": "checked", "check": "turn_rotor", "outcome": "free"},
        {"kind": "took_off", "operation": "base_cover"},
        {"kind": "state_changed", "what": "posture", "to": "tipped"},
        {"kind": "took_off", "operation": "pump_out"},
        {"kind": "repaired", "repair": "drain_pump.part"},
    ):
        browser.form("/jobs/0412/prove/event", seq(demo), **body)
    answer = diagnose(demo, "0412")
    assert answer.job.repairs
    return checks_owed(answer.job, answer.machine)


def test_the_figures_say_what_the_job_costs_with_a_check_and_without_it(browser, demo):
    """What is said is what the plan expects: with the next check, and with it never made."""
    plan = diagnose(demo, "0412").plan
    page = browser.get("/jobs/0412/prove").text
    figures = page[page.index("The figures") : page.index("So it saves")]
    said = [float(amount) for amount in re.findall(r"€([\d.]+)", figures)]
    step = plan.next
    expected = [plan.expected_cost, step.cost, plan.expected_cost + step.saving]
    assert f"saves about €{demo.settings.money(step.saving):.0f}" in page
    assert said == pytest.approx([demo.settings.money(eur) for eur in expected], abs=0.51)


def test_a_check_repeated_as_a_proof_leads_back_to_what_is_owed(browser, demo):
    check = sorted(fitted(browser, demo))[0]
    page = browser.get(f"/jobs/0412/prove?check={check}").text
    assert "Owed for the repair" in page
    assert "costs more than it saves" not in page
    normal = diagnose(demo, "0412").machine.checks[check].outcomes[0].id
    body = {"kind": "checked", "check": check, "outcome": normal}
    done = browser.form(f"/jobs/0412/prove/event?check={check}", seq(demo), **body)
    assert done.headers["location"] == "/jobs/0412/proof"


def test_after_a_fit_nobody_is_told_to_hand_it_on(browser, demo):
    fitted(browser, demo)
    answer, before = diagnose(demo, "0412"), seq(demo)
    left = [name for name in answer.machine.checks if name not in answer.job.set_aside]
    for n, name in enumerate(left):
        event = new_event(demo, SetAside(check=name, why="not_now"), "Ilaria Venn", new_id())
        demo.log.append("0412", event, before + n)
    page = browser.get("/jobs/0412/prove").text
    assert "hand it on" not in page
    assert "still owed" in page
    assert 'href="/jobs/0412/proof"' in page


def test_undo_asks_before_it_takes_back_what_weighs(browser, demo):
    fitted(browser, demo)
    before = seq(demo)
    asked = browser.form("/jobs/0412/prove/undo", before)
    page = browser.get(asked.headers["location"]).text
    assert seq(demo) == before
    assert "Take this back? Fit a new drain pump" in page
    event = re.search(r"ask=([^&]+)", asked.headers["location"]).group(1)
    browser.form("/jobs/0412/prove/event", before, kind="withdrawn", event=event)
    assert not diagnose(demo, "0412").job.repairs
    assert "Withdrawn: Fit a new drain pump" in browser.get("/jobs/0412/prove").text


def test_undo_takes_back_a_small_thing_at_once_and_names_it(browser, demo):
    browser.form("/jobs/0412/prove/event", seq(demo), kind="noted", text="mine")
    before = seq(demo)
    done = browser.form("/jobs/0412/prove/undo", before)
    assert "ask" not in done.headers["location"]
    assert "Withdrawn: Note" in browser.get("/jobs/0412/prove").text


def test_a_stored_charge_is_red_while_it_lasts_and_then_to_be_measured(browser, demo):
    address = "/jobs/0408/safe/event"
    browser.form(address, seq(demo, "0408"), kind="state_changed", what="power", to="off")
    demo.clock.at -= timedelta(minutes=10)
    page = browser.get("/jobs/0408/safe").text
    assert "charged" in page
    assert "may still be charged" in page
    demo.clock.at += timedelta(days=3)
    page = browser.get("/jobs/0408/safe").text
    assert "measure!" in page
    assert "measure!" in page
    assert "Measure before touching" in page


def test_a_complaint_is_put_right_or_added_to_and_the_page_says_which(browser, demo):
    says = {"kind": "complained", "text": "no: it leaks at the door", "said": "says_door_drip"}
    assert "which counts no more" in browser.get("/jobs/0412/call").text
    browser.form("/jobs/0412/call/event", seq(demo), **says)
    assert diagnose(demo, "0412").job.complaint.said == ("says_door_drip",)
    page = browser.get("/jobs/0412/call").text
    assert "put right since:" in page
    assert "“no: it leaks at the door”" in page
    more = {"kind": "complained", "adds": "true", "text": "and it hums", "said": "says_hums"}
    browser.form("/jobs/0412/call/event", seq(demo), **more)
    assert diagnose(demo, "0412").job.complaint.said == ("says_door_drip", "says_hums")
    page = browser.get("/jobs/0412/call").text
    assert "“no: it leaks at the door and it hums”" in page
    assert "Customer adds: “and it hums”" in page


def test_a_programme_that_never_gets_to_a_check_is_told_by_where_it_stops(browser):
    page = browser.get("/jobs/0412/prove?check=watch_spin").text
    link = re.search(r'href="([^"]*check=watch_stops_in[^"]*)">It never gets that far', page)[1]
    assert "note at which point it stops" in browser.get(link.replace("&amp;", "&")).text
    coil = browser.get("/jobs/0412/prove?check=measure_pump_coil").text
    assert "It never gets that far" not in coil
