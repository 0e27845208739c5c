"""The service run over HTTP: made ready, led, timed out, broken off, resumed; and records read."""

import re

import pytest
from tests.web.conftest import seq
from tests.web.job.test_watch import taken

from bottega.app.job.answer import diagnose
from bottega.app.service.run import steps_led
from bottega.core.machine.service import READY

JOB = "0412"
AT = f"/jobs/{JOB}/service"


@pytest.fixture
def ready(browser, demo):
    """The job with its machine brought into the state a run needs."""
    for what, to in diagnose(demo, JOB).job.state.lacks(READY):
        browser.form(f"{AT}/ready", seq(demo, JOB), what=what, to=to)
    return browser


def verdict(browser, demo, step, **typed):
    return browser.form(f"{AT}/verdict", seq(demo, JOB), step=step, **typed)


def led(demo, step):
    return next(one for one in steps_led(diagnose(demo, JOB)) if one.id == step)


def test_the_steps_stand_in_the_sheets_order_with_their_limits(reader):
    page = reader.get(f"{AT}?step=step_drain").text
    assert "One short press of start goes on to the next step" in page
    assert "120 s" in page
    assert "Stop it at once" in page
    assert reader.get(f"{AT}?step=step_none").status_code == 404


def test_no_verdict_before_the_machine_is_ready(browser, demo):
    before = seq(demo, JOB)
    page = verdict(browser, demo, "step_drain", outcome="strong")
    assert "Not yet. First:" in page.text
    assert seq(demo, JOB) == before


def test_a_machine_that_is_tipped_is_stood_up_before_it_is_plugged_in(browser, demo):
    for what, to in (("water", "out"), ("posture", "tipped")):
        browser.form(f"{AT}/ready", seq(demo, JOB), what=what, to=to)
    page = browser.get(AT).text
    assert page.index("Stand it upright") < page.index("Plug it in")
    for _ in range(3):
        found = re.search(r'name="what" value="(\w+)">\s*<input[^>]*name="to" value="(\w+)"', page)
        what, to = found.groups()
        assert browser.form(f"{AT}/ready", seq(demo, JOB), what=what, to=to).status_code == 303
        page = browser.get(AT).text
    assert diagnose(demo, JOB).job.state.meets(READY)


def test_a_verdict_is_a_finding_and_the_run_goes_on(ready, demo):
    was = dict(diagnose(demo, JOB).ranking)
    one = led(demo, "step_drain")
    worst = one.check.outcomes[-1]
    done = verdict(ready, demo, "step_drain", outcome=worst.id, seconds="40", note="hums")
    assert done.status_code == 303
    body = diagnose(demo, JOB).job.checked()[-1][1]
    assert (body.check, body.step, body.seconds) == (one.check.id, "step_drain", 40)
    assert dict(diagnose(demo, JOB).ranking) != pytest.approx(was)
    page = ready.get(AT).text
    assert "40 s" in page
    assert "service step drain pump, 40 s" in ready.get(f"/jobs/{JOB}/prove").text


def test_a_step_that_took_too_long_cannot_be_called_well(ready, demo):
    before, best = seq(demo, JOB), led(demo, "step_drain").check.outcomes[0].id
    page = verdict(ready, demo, "step_drain", outcome=best, seconds="130")
    assert "expected at most 120 s" in page.text
    assert 'value="130"' in page.text
    assert seq(demo, JOB) == before


def test_a_speed_out_of_its_band_cannot_be_called_well(ready, demo):
    outcomes = led(demo, "step_spin_full").check.outcomes
    page = verdict(ready, demo, "step_spin_full", outcome=outcomes[1].id, amount="200")
    assert "First: let the water out" in page.text
    ready.form(f"{AT}/ready", seq(demo, JOB), what="water", to="out", step="step_spin_full")
    page = verdict(ready, demo, "step_spin_full", outcome=outcomes[0].id, amount="200")
    assert "that is not well" in page.text
    verdict(ready, demo, "step_spin_full", outcome=outcomes[1].id, amount="200")
    assert "200 rpm of" in diagnose(demo, JOB).job.checked()[-1][1].note


def test_a_run_that_is_broken_off_counts_for_what_it_showed_and_is_taken_up_again(ready, demo):
    verdict(ready, demo, "step_lamps", outcome=led(demo, "step_lamps").check.outcomes[0].id)
    was = dict(diagnose(demo, JOB).ranking)
    verdict(ready, demo, "step_keys", outcome="inconclusive", seconds="5", note="smoke")
    assert led(demo, "step_keys").broken_off
    assert dict(diagnose(demo, JOB).ranking) == pytest.approx(was)
    assert led(demo, "step_lamps").went
    assert "broken off" in ready.get(AT).text
    first = next(one for one in steps_led(diagnose(demo, JOB)) if not one.went)
    assert f'aria-label="{first.step.name}"' in ready.get(AT).text


@pytest.mark.parametrize(
    ("typed", "says"),
    [
        ({"outcome": "purple"}, "expected one of"),
        ({"seconds": "-4", "outcome": "strong"}, "expected 0 to"),
        ({"seconds": "long", "outcome": "strong"}, "expected a number"),
    ],
)
def test_what_cannot_be_is_said_at_the_step(ready, demo, typed, says):
    before = seq(demo, JOB)
    assert says in verdict(ready, demo, "step_drain", **typed).text
    assert seq(demo, JOB) == before


def test_the_watch_gives_the_reading_of_a_step_that_is_timed(ready, demo):
    one = led(demo, "step_cold")
    assert one.check.measure.quantity == "duration"
    verdict(ready, demo, "step_cold", seconds="90", typed="")
    body = diagnose(demo, JOB).job.checked()[-1][1]
    assert (body.reading.amount, body.step) == (90, "step_cold")


def record(browser, text, demo):
    return browser.post(
        f"{AT}/record",
        data={"token": browser.token()},
        files={"file": ("run.csv", text.encode() if isinstance(text, str) else text, "text/csv")},
    )


def test_a_record_says_what_it_shows_and_is_not_kept(browser, demo):
    before, watts = seq(demo, JOB), diagnose(demo, JOB).machine.plate.heater_w
    rows = "\n".join(f"{s},{60 + watts * (20 <= s < 200)},{15 + s / 60},20" for s in range(260))
    page = record(browser, "seconds,watts,water_c,level_l\n" + rows, demo).text
    assert "1 K/min</span>" in page
    assert f"{60 + watts:.0f}" in page
    assert "what goes into the water" in page
    assert page.count("it agrees") == 2
    assert seq(demo, JOB) == before


def test_a_record_of_ten_thousand_switchings_is_listed_in_part(browser, demo):
    rows = "\n".join(f"{s},{500 * (s // 5 % 2)}" for s in range(20_000))
    page = record(browser, "seconds,watts\n" + rows, demo).text
    assert page.count("Switched at") == 60
    assert "3939 switchings" in page
    assert len(page) < 60_000


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("", "No file came along"),
        ("seconds,watts\n0,1\n5,1\n3,1", "expected a clock that goes on"),
        (b"\xff\xfe\x00", "expected CSV in UTF-8"),
        ("time;power\n1;2", "expected one with seconds"),
    ],
)
def test_a_record_that_cannot_be_is_said(browser, demo, text, says):
    assert says in record(browser, text, demo).text


def test_a_record_with_a_gap_says_so(browser, demo):
    rows = "\n".join(f"{s},5" for s in [*range(20), *range(200, 220)])
    assert "1 gap in the record" in record(browser, "seconds,watts\n" + rows, demo).text


def test_the_rig_does_a_step_once_its_service_mode_is_entered(browser, demo):
    page = browser.form("/jobs/0418/service/start", seq(demo, "0418"), step="step_drain")
    assert "Not yet. First:" in page.text
    for what, to in diagnose(demo, "0418").job.state.lacks(READY):
        browser.form("/jobs/0418/service/ready", seq(demo, "0418"), what=what, to=to)
    page = browser.form("/jobs/0418/service/start", seq(demo, "0418"), step="step_drain")
    assert "not in its service mode" in page.text
    assert browser.form(f"{AT}/start", seq(demo, JOB), step="step_drain").status_code == 404


def test_door_and_lid_are_part_of_how_a_machine_stands(browser, demo):
    """A door at the front stays shut while water may stand above its sill."""
    door = {"kind": "state_changed", "what": "door", "to": "open"}
    refused = browser.form(f"/jobs/{JOB}/safe/event", seq(demo, JOB), **door)
    assert "above the sill of the door" in refused.text
    for fields in ({"kind": "state_changed", "what": "water", "to": "out"}, door):
        browser.form(f"/jobs/{JOB}/safe/event", seq(demo, JOB), **fields)
    assert diagnose(demo, JOB).job.state.door == "open"
    page = browser.get(AT).text
    assert "Shut it, as for a wash" in page
    assert "Opened as for loading" in browser.get(f"/jobs/{JOB}/prove").text


def test_a_load_that_is_not_the_plates_does_not_agree(browser, demo):
    rows = "\n".join(f"{s},{60 + 900 * (20 <= s < 200)}" for s in range(260))
    assert "that does not agree" in record(browser, "seconds,watts\n" + rows, demo).text


def test_the_pass_band_is_drawn_into_what_is_recorded(browser, demo):
    page = browser.get("/jobs/0418/service?step=step_spin_full").text
    assert page.count("data-band") == 1
    assert "data-band" in browser.get("/jobs/0418/service/live?step=step_heat").text
    assert "data-band" not in browser.get("/jobs/0418/service/live?step=step_drain").text
    assert browser.get(f"{AT}/live").status_code == 404


def test_a_shop_in_us_units_reads_steps_and_records_in_them(browser, demo):
    browser.form("/shop", units="us", mains_v="120", mains_hz="60", currency="USD")
    assert "6.34 gal" in browser.get(f"{AT}?step=step_drain").text
    rows = "\n".join(f"{s},{15 + s / 60}" for s in range(260))
    assert "1.8 °F/min" in record(browser, "seconds,water_c\n" + rows, demo).text
    library = browser.get("/library/FB/nembrio-f7").text
    assert "6.34 gal" in library


def test_a_run_with_a_danger_not_settled_is_declared_by_name(browser, demo):
    """A cabinet that gives a shock: whoever runs it in service mode answers for it."""
    number = taken(demo, "FB", "It gives me an electric shock.", ("says_tingle",))
    browser.form(
        f"/jobs/{number}/safe/event",
        seq(demo, number),
        kind="state_changed",
        what="power",
        to="off",
    )
    assert diagnose(demo, number).danger is not None
    address = f"/jobs/{number}/service"
    for what, to in diagnose(demo, number).job.state.lacks(READY):
        if what != "power":
            browser.form(f"{address}/ready", seq(demo, number), what=what, to=to)
    page = browser.get(address).text
    assert "I may: the local rule lets me." in page
    refused = browser.form(f"{address}/ready", seq(demo, number), what="power", to="on")
    assert "can hurt people" in refused.text
    check = re.search(r'name="for_check" value="(\w+)"', page).group(1)
    named = {"for_check": check, "qualified": "Ilaria Venn", "ticked": "true"}
    declared = browser.form(f"{address}/ready", seq(demo, number), what="power", to="on", **named)
    assert declared.status_code == 303
    assert diagnose(demo, number).job.state.live_test == check
