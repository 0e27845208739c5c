"""The station *Panel*: clear, run, read again; attempts; calibration; what is shown of all that."""

import pytest
from tests.web.job.test_routes import seq

from bottega.app.job.answer import diagnose

NUMBER = "0414"
"""A front loader whose sheet has a panel, taken and not looked at yet."""


def note(browser, demo, number=NUMBER, **fields):
    answer = browser.form(f"/jobs/{number}/panel/event", seq(demo, number), **fields)
    assert answer.status_code == 303, answer.text[:400]


def read(browser, demo, result="codes", number=NUMBER, **fields):
    address = f"/jobs/{number}/panel/flashes"
    answer = browser.form(address, seq(demo, number), result=result, **fields)
    assert answer.status_code == 303, answer.text[:400]


def page(browser, number=NUMBER):
    return browser.get(f"/jobs/{number}/panel").text


def test_the_round_leads_from_clearing_to_what_came_back(browser, demo):
    assert "see what comes back" not in page(browser)
    read(browser, demo, seen_0="3-2", seen_1="5-1")
    assert "struck ten times" in page(browser)
    note(browser, demo, kind="codes_cleared")
    assert "Now run the programme" in page(browser)
    note(browser, demo, kind="checked", check="lamp_test", outcome="all light")
    assert "It has run since the clear" in page(browser)
    before = diagnose(demo, NUMBER).belief.fault_now()
    read(browser, demo, seen_0="3-2")
    shown = page(browser)
    assert "<strong>Came back:</strong> 3-2" in shown
    assert "Stayed away: 5-1" in shown
    assert shown.count("emptying took too long") >= 2, "both readings stay in sight"
    assert "run since the clear" in shown
    answer = diagnose(demo, NUMBER)
    after = answer.belief.fault_now()

    def share(chances, code):
        effect = answer.machine.codes[code].effect
        faults = answer.machine.faults
        return sum(p for f, p in chances.items() if f in faults and effect in faults[f].effects)

    assert share(after, "3-2") / share(after, "5-1") > share(before, "3-2") / share(before, "5-1")


def test_attempts_are_counted_advised_and_ended(browser, demo):
    machine = diagnose(demo, NUMBER).machine
    advice = demo.shelf.tables.panel.entry_advice
    for n in range(1, machine.panel.stop_after + 1):
        note(browser, demo, kind="entry_tried")
        shown = page(browser)
        assert f"{n} attempt" in shown
        assert advice[(n - 1) % len(advice)] in shown
        assert ("Stop here" in shown) == (n == machine.panel.stop_after)
    read(browser, demo, result="unreadable")
    assert diagnose(demo, NUMBER).job.panel.attempts == machine.panel.stop_after
    assert "attempt failed" not in page(browser)


def test_a_calibration_says_how_long_and_where_it_stalls(browser, demo):
    number = "0416"
    machine = diagnose(demo, number).machine
    assert machine.calibration.phases
    shown = page(browser, number)
    assert "Calibrate it" in shown
    assert all(phase.name in shown for phase in machine.calibration.phases)
    phase = machine.calibration.phases[-1]
    before = diagnose(demo, number).belief.fault_now()
    fields = {"proof": "calibration", "went": "badly", "stalled": phase.id, "seconds": "190"}
    note(browser, demo, number, kind="proved", **fields)
    told = page(browser, number)
    assert f"stalled where it {phase.name} in 3 min" in told
    assert diagnose(demo, number).belief.fault_now() != before


@pytest.mark.parametrize("seconds", ["-1", "1e9", "soon"])
def test_a_time_that_cannot_be_is_refused(browser, demo, seconds):
    address = f"/jobs/{NUMBER}/panel/event"
    fields = {"kind": "proved", "proof": "calibration", "went": "well", "seconds": seconds}
    assert browser.form(address, seq(demo, NUMBER), **fields).status_code == 422


def test_the_editor_draws_the_panel_that_is_being_written(browser):
    def drawn(text):
        data = {"token": browser.token(), "text": text}
        return browser.post("/library/FB/nembrio-f7/panel", data=data).text

    whole = "panel:\n  kind: beeps\n  lamps: [a, b]\n  how: x\n  entry: [Press it.]\n  clear: []\n"
    assert "Say under face what stands on the panel" in drawn(whole)
    faced = drawn(whole + "  face: {keys: [left, right], dial: [rest, wash]}\n")
    assert 'data-part="left"' in faced
    assert "Press it." in faced
    broken = drawn(whole.replace("beeps", "smoke"))
    assert "line 2" in broken
    assert "smoke" in broken
    assert "well-formed YAML" in drawn("panel: [")
    assert "no panel yet" in drawn("sheet: x\n")


def test_codes_are_looked_up_in_two_taps_from_the_bench(browser, shelf):
    assert 'href="/panel"' in browser.get("/").text
    listed = browser.get("/panel").text
    for machine in shelf.machines():
        if machine.panel:
            assert f"/panel/{machine.sheet}" in listed
    assert "pellandra" not in listed


def test_a_machine_whose_sheet_has_no_panel_is_not_said_to_lack_a_sheet(browser, demo):
    number = next(
        n for n in demo.log.numbers() if diagnose(demo, n).machine.sheet == "pellandra-400"
    )
    shown = page(browser, number)
    assert "It shows no codes" in shown
    assert "No sheet" not in shown.replace("No sheet yet", "")
