"""Machines on the rig by HTTP: drawn, run, opened, measured, called about; two people; what is
refused."""

import re
from concurrent.futures import ThreadPoolExecutor
from itertools import pairwise
from math import pi, sqrt
from threading import Event

import pytest
from tests.app.steps import take_out

from bottega.app.errors import Refused
from bottega.app.job.answer import diagnose
from bottega.app.rig.fetch import stand
from bottega.app.rig.gestures import LIFTED_MM, PUSHED_S, STEPS, felt, offered, wheels
from bottega.app.rig.in_hand import stand_at
from bottega.app.rig.law import measured_charge
from bottega.rig.programmes import programmes_of, steps_of
from bottega.store.rigs import RigTicket
from bottega.web.rig.page import live_of, rig_page

NAME = "ab12cd34"
SHEETS = (
    "calvessa-dritta-8",
    "nembrio-f7",
    "nembrio-f7-white",
    "nembrio-f9",
    "ostrel-linea-t",
    "pellandra-400",
    "quernia-compatta-5",
    "sestra-torre",
    "torvane-alta-10",
    "virgola-asciutta-7",
)


@pytest.fixture
def rig(demo):
    """A machine whose pump's rotor slips; returns its name."""
    demo.rigs.keep(RigTicket(NAME, "FB", "nembrio-f7", "seed", {"pump_coil_open": 0.8}))
    return NAME


def act(browser, what, value="", seen=None, **more):
    if seen is None:
        seen = browser.get(f"/rigs/{NAME}").text
        seen = re.search(r'name="seen" value="(\d+)"', seen).group(1)
    return browser.form(f"/rigs/{NAME}/act", seen=seen, what=what, value=value, **more)


def page(browser):
    return browser.get(f"/rigs/{NAME}").text


def test_a_machine_is_drawn_and_says_nothing_of_its_fault(browser, demo):
    answer = browser.form("/rigs", machine="torvane-alta-10")
    name = answer.headers["location"].rsplit("/", 1)[1]
    ticket = demo.rigs.ticket(name)
    assert len(ticket.faults) == 1
    text = browser.get(f"/rigs/{name}").text
    machine = demo.shelf.machine("TS", "torvane-alta-10")
    fault = machine.faults[next(iter(ticket.faults))]
    assert fault.id in machine.operations or not re.search(rf"\b{fault.id}\b", text)
    assert "Nothing was done yet" in text


def test_what_nobody_has_cannot_be_drawn(browser):
    answer = browser.form("/rigs", machine="zanzibar-9")
    assert answer.status_code == 422
    assert "Which machine is it?" in answer.text


def test_a_service_step_runs_and_stops_where_it_must(browser, rig, demo):
    act(browser, "enter")
    act(browser, "start", "drain")
    assert "Service step drain begins" in page(browser)
    for _ in range(3):
        page(browser)
    at = stand(demo, rig)
    assert at.machine.now.seconds > 60
    assert at.recorder.samples[-1].out_l_min == 0


def test_water_and_time_go_on_while_one_looks(browser, rig):
    act(browser, "enter")
    act(browser, "pace", "60")
    act(browser, "start", "fill")
    browser.get(f"/rigs/{NAME}/live")
    live = browser.get(f"/rigs/{NAME}/live").text
    assert "hx-trigger" in live
    assert float(re.search(r"water ([\d.]+) l", live).group(1)) > 3


def test_two_people_do_not_act_over_each_other(browser, rig):
    assert act(browser, "taps", "shut", seen=0).status_code == 303
    late = act(browser, "plug", "out", seen=0)
    assert late.status_code == 409
    assert "Somebody else did something" in late.text
    assert "Pull the plug" in late.text


def test_what_is_behind_a_panel_cannot_be_measured_before(browser, rig):
    refused = act(browser, "meter", first="pump.1", second="pump.2", function="ohm")
    assert refused.status_code == 409
    assert "something is in front of it" in refused.text
    act(browser, "plug", "out")
    act(browser, "off", "base_cover")
    act(browser, "meter", first="pump.1", second="pump.2", function="ohm")
    assert "Resistance pump.1 to pump.2: OL" in page(browser)


def test_nothing_comes_off_before_what_holds_it(browser, rig, demo):
    assert "First: Pull the plug" in act(browser, "off", "top").text
    act(browser, "plug", "out")
    refused = act(browser, "off", "board_cover").text
    assert "First: Take the top off, Let the stored charge go" in refused
    act(browser, "off", "top")
    assert "First: Let the stored charge go." in act(browser, "off", "board_cover").text
    at = stand(demo, rig)
    at.unplugged_s = at.machine.now.seconds
    with pytest.raises(Refused, match=r"0 min have passed .* expected 3 before"):
        measured_charge(at)
    act(browser, "wait", "200")
    act(browser, "charge")
    assert "on the board&#39;s smoothing capacitor, at most 34 V: it may be touched" in page(
        browser
    )
    act(browser, "off", "board_cover")
    assert "First: Put the board&#39;s cover on" in act(browser, "off", "top").text


def test_nothing_is_plugged_in_open_but_for_a_declared_live_test(browser, rig, demo):
    act(browser, "plug", "out")
    act(browser, "off", "base_cover")
    refused = act(browser, "plug", "in")
    assert refused.status_code == 409
    assert "It is plugged in while something is off it" in refused.text
    assert page(browser).count("Plug it in for this test") == 2
    test = {"for_check": "measure_pump_supply"}
    for untold in ({}, {"qualified": "Ida"}, {"ticked": "true"}):
        assert act(browser, "plug", "in", **test, **untold).status_code == 409
    said = {"qualified": "Ida", "ticked": "true"}
    assert act(browser, "plug", "in", for_check="turn_rotor", **said).status_code == 409
    assert act(browser, "plug", "in", for_check="zzz", **said).status_code == 409
    assert act(browser, "plug", "in", **test, **said).status_code == 303
    assert "A live test, by Ida: " in page(browser)
    assert act(browser, "start", "short").status_code == 409
    act(browser, "plug", "out")
    assert stand(demo, rig).hands.live_test == ""


def test_water_and_hands_stay_away_from_what_is_open_or_plugged_in(browser, rig):
    for turned in ("drum", "rotor"):
        assert "Pull the plug first" in act(browser, "feel", turned).text
    act(browser, "pour")
    assert "Water may stand above the sill" in act(browser, "key", "open door").text
    act(browser, "plug", "out")
    act(browser, "bail")
    act(browser, "off", "filter_flap")
    act(browser, "off", "filter_cap")
    assert "A water joint inside is open" in act(browser, "pour").text
    assert act(browser, "feel", "drum").status_code == 200
    assert "Plug it in first" in act(browser, "panel").text


def test_a_machine_in_a_jobs_hand_follows_what_the_job_says(browser, rig, demo):
    number = browser.form(f"/rigs/{NAME}/call").headers["location"].rsplit("/", 1)[1]

    def note(**fields):
        return browser.form(f"/jobs/{number}/prove/event", seen=demo.log.seq(number), **fields)

    for act_of in (("tip", ""), ("off", "top")):
        assert f"Job {number} has it in hand" in act(browser, *act_of).text
    note(kind="state_changed", what="power", to="off")
    note(kind="state_changed", what="water", to="out")
    note(kind="took_off", operation="base_cover")
    assert not stand_at(demo, rig).machine.plugged
    refused = act(browser, "plug", "in")
    assert refused.status_code == 409
    assert "It is plugged in while something is off it" in refused.text
    note(kind="put_back", operation="base_cover", left="0")
    assert "plug it there" in act(browser, "plug", "in").text
    note(kind="state_changed", what="power", to="on")
    assert stand_at(demo, rig).machine.plugged


def test_a_check_is_done_in_its_own_words(browser, rig):
    refused = act(browser, "check", "turn_rotor").text
    assert (
        "That cannot be done yet. First: Open the flap at the lower front, Pull the plug" in refused
    )
    act(browser, "plug", "out")
    act(browser, "off", "filter_flap")
    act(browser, "off", "filter_cap")
    act(browser, "check", "turn_rotor")
    assert "Turn the pump rotor by hand: Steps, then flicks on" in page(browser)


def test_detents_are_felt_as_steps(browser, rig):
    act(browser, "plug", "out")
    act(browser, "off", "filter_flap")
    act(browser, "off", "filter_cap")
    text = act(browser, "feel", "rotor").text
    points = re.search(
        r'Pump rotor: what the hand feels over one turn".*?points="([^"]+)"', text, re.S
    ).group(1)
    heights = [float(pair.split(",")[1]) for pair in points.split()]
    steps = [a for a, b in pairwise(heights) if (a - 33.3) * (b - 33.3) < 0]
    assert len(steps) == 3  # two poles hold it twice a turn


@pytest.mark.parametrize(
    ("what", "value", "says"),
    [
        ("start", "boil", "expected one of short"),
        ("pace", "7", "expected one of 1, 10, 60"),
        ("wait", "-5", "a whole number from 1 to 600"),
        ("wait", "\u00b2", "a whole number from 1 to 600"),
        ("pace", "\u00b2", "expected one of 1, 10, 60"),
        ("dance", "", "Found an act the rig does not know"),
        ("check", "no_such", "expected one of this machine"),
        ("feel", "spoon", "expected one of drum, rotor, push"),
        ("key", "press turbo", "expected something at this panel: press outer"),
    ],
)
def test_what_cannot_be_done_is_said_in_place(browser, rig, what, value, says):
    answer = act(browser, what, value)
    assert answer.status_code == 422
    assert says in answer.text


def test_a_dead_machine_does_not_begin(browser, demo):
    demo.rigs.keep(RigTicket(NAME, "FB", "nembrio-f7", "seed", {"fuse_open": 0.9}))
    act(browser, "start", "short")
    assert "Nothing happens: no lamp, no sound" in page(browser)


def test_its_sound_and_its_run_are_files(browser, rig):
    for of in ("spin", "wash", "drain"):
        assert browser.get(f"/rigs/{NAME}/sound/{of}.wav").content[:4] == b"RIFF"
    assert browser.get(f"/rigs/{NAME}/sound/hum.wav").status_code == 404
    page(browser)
    lines = browser.get(f"/rigs/{NAME}/run.csv").text.splitlines()
    assert lines[0].startswith("seconds,level_l,water_c")
    assert len(lines) > 50


def test_the_panel_shows_what_is_stored_once_its_service_mode_is_entered(browser, rig):
    refused = act(browser, "panel")
    assert refused.status_code == 409
    assert "It is not in its service mode" in refused.text
    assert act(browser, "start", "drain").status_code == 409
    act(browser, "enter")
    assert "Service mode. The lamp gives one long stroke." in page(browser)
    act(browser, "panel")
    text = page(browser)
    assert "Code 1 of 1 shows." in text
    assert '"kind": "strokes"' in text.replace("&#34;", '"')


def test_pushing_lifting_and_rocking_are_felt(browser, rig, demo):
    act(browser, "plug", "out")
    for what in ("push", "lift", "rock", "drum"):
        assert "points=" in act(browser, "feel", what).text
    at = stand(demo, rig)
    bobs = felt(at, "push").values
    beats = [n for n, (a, b) in enumerate(pairwise(bobs)) if a * b < 0]
    own = sqrt(at.machine.v["spring_n_m"] / at.machine.v["tub_kg"])
    zeta = at.machine.v["damper_ns_m"] / (
        2 * sqrt(at.machine.v["spring_n_m"] * at.machine.v["tub_kg"])
    )
    half_s = pi / (own * sqrt(1 - zeta**2))
    assert (beats[1] - beats[0]) * PUSHED_S / STEPS == pytest.approx(half_s, abs=PUSHED_S / STEPS)
    held = felt(at, "lift").values
    play = next(n for n, newton in enumerate(held) if newton > 0) * LIFTED_MM / STEPS
    assert play == pytest.approx(at.machine.v["bearing_play_mm"], abs=LIFTED_MM / STEPS)


@pytest.mark.parametrize(("fault", "slips"), [(None, False), ("hub_stripped", True)])
def test_a_plate_slips_over_its_hub_where_that_is_stripped(demo, fault, slips):
    faults = {fault: 0.8} if fault else {"lamp_dead": 0.5}
    demo.rigs.keep(RigTicket(NAME, "TS", "torvane-alta-10", "seed", faults))
    at = stand(demo, NAME)
    at.unplug()
    nm = felt(at, "plate").values
    assert (min(nm) < 0.1 * max(nm)) == slips
    assert "Wash plate" in [wheel.name for wheel in wheels(at)]


def test_a_machine_is_tipped_empty_and_unplugged_only(browser, rig):
    assert "Pull the plug before it is tipped" in act(browser, "tip").text
    act(browser, "plug", "out")
    act(browser, "pour")
    assert "Let the water out first" in act(browser, "tip").text
    act(browser, "bail")
    assert "Close both taps first" in act(browser, "tip").text
    act(browser, "taps", "shut")
    act(browser, "tip")
    assert "Stand it upright" in page(browser)
    assert "stand it upright before it is plugged in" in act(browser, "plug", "in").text
    assert "First: Stand it upright" in act(browser, "off", "top").text


def test_a_locked_door_does_not_open(browser, rig, demo):
    act(browser, "start", "short")
    act(browser, "key", "open door")
    at = stand(demo, rig)
    assert "The door is locked and does not open" in page(browser)
    assert at.front.shut


def test_what_is_off_is_off_the_drawing(browser, rig):
    assert "Take the top off: off" not in page(browser)
    act(browser, "plug", "out")
    act(browser, "off", "top")
    assert "Take the top off: off" in page(browser)
    act(browser, "taps", "shut")
    act(browser, "off", "fill_hose_off")
    hose = re.search(r'id="thumb-fill_hose" class="([^"]+)"', page(browser)).group(1)
    assert "gone" in hose.split()


@pytest.mark.parametrize("sheet", SHEETS)
def test_every_kind_is_handled_all_round(browser, demo, sheet):
    """Nothing that is offered ends in an error of the server, whatever machine it is."""
    kind = demo.shelf.sheet(sheet).archetype
    fault = "tap_shut"
    demo.rigs.keep(RigTicket(NAME, kind, sheet, "seed", {fault: 0.5}))
    at = stand(demo, NAME)
    for what in offered(at):
        assert act(browser, "feel", what).status_code in (200, 409)
    if at.front.led:
        act(browser, "enter")
        assert at.front.in_service
        assert act(browser, "panel").status_code == 303
    for name in (*programmes_of(at.machine_type), *steps_of(at.machine_type)):
        assert act(browser, "start", name).status_code == 303, name
        act(browser, "stop")
    act(browser, "plug", "out")
    act(browser, "bail")
    act(browser, "taps", "shut")
    assert act(browser, "tip").status_code == 303
    assert "Stand it upright" in page(browser)


def test_a_machine_nobody_drew(browser):
    assert browser.get("/rigs/nobody00").status_code == 404


def test_a_job_is_called_about_and_worked_at_the_rig(browser, rig, demo):
    answer = browser.form(f"/rigs/{NAME}/call")
    number = answer.headers["location"].rsplit("/", 1)[1]
    assert "Water stays in the drum" in browser.get(f"/jobs/{number}/call").text
    assert browser.form(f"/rigs/{NAME}/call").status_code == 409
    seen = demo.log.seq(number)
    done = browser.form(f"/jobs/{number}/on-rig", seen=seen, check="ask_draining")
    assert done.status_code == 303
    assert demo.log.seq(number) == seen + 1
    refused = browser.form(f"/jobs/{number}/on-rig", seen=seen + 1, check="measure_pump_coil")
    assert refused.status_code == 409
    assert "It cannot be come at yet" in refused.text
    stale = browser.form(f"/jobs/{number}/on-rig", seen=seen, check="ask_water_in")
    assert stale.status_code == 409


def test_what_the_job_put_right_is_right_on_the_rig(browser, rig, demo):
    number = browser.form(f"/rigs/{NAME}/call").headers["location"].rsplit("/", 1)[1]

    def note(**fields):
        browser.form(f"/jobs/{number}/fit/event", seen=demo.log.seq(number), **fields)

    note(kind="state_changed", what="power", to="off")
    note(kind="state_changed", what="water", to="out")
    note(kind="took_off", operation="filter_flap")
    note(kind="took_off", operation="filter_cap")
    take_out(demo, number, "drain_pump.part")
    note(kind="repaired", repair="drain_pump.part")
    browser.form(f"/jobs/{number}/on-rig", seen=demo.log.seq(number), check="measure_pump_coil")
    assert diagnose(demo, number).job.checked()[-1][1].outcome == "in band"


def test_a_job_without_a_machine_has_none(browser, demo):
    answer = browser.form("/jobs/0412/on-rig", seen=demo.log.seq("0412"), check="ask_draining")
    assert answer.status_code == 409
    assert "no machine on the rig" in answer.text


def test_the_same_ticket_is_the_same_machine_after_a_restart(browser, rig, demo):
    before = stand(demo, rig).specimen
    demo.stands.clear()
    assert stand(demo, rig).specimen.sound == before.sound


def test_a_machine_is_looked_at_while_others_act_on_it(demo):
    """Pages are made of a machine that stands still, however fast hands and time go on."""
    demo.rigs.keep(RigTicket(NAME, "FB", "nembrio-f7", "seed", {"tap_shut": 0.5}))
    at, done = stand(demo, NAME), Event()

    def acts():
        while not done.is_set():
            with at.lock:
                at.machine.wait(20.0)
                at.say("Somebody does something")

    def looks(_):
        live_of(at)
        return rig_page(at, None, None).live.seen

    with ThreadPoolExecutor(6) as pool:
        acting = [pool.submit(acts) for _ in range(2)]
        seen = list(pool.map(looks, range(30)))
        done.set()
    assert seen == [0] * 30
    assert [one.exception() for one in acting] == [None, None]


def test_the_machine_looked_at_longest_ago_gives_way(demo, monkeypatch):
    monkeypatch.setattr("bottega.app.rig.fetch.STANDS_KEPT", 2)
    for name in ("one", "two", "three"):
        demo.rigs.keep(RigTicket(name, "FB", "nembrio-f7", "seed", {"tap_shut": 0.5}))
    first = stand(demo, "one")
    second = stand(demo, "two")
    assert stand(demo, "one") is first
    stand(demo, "three")
    assert stand(demo, "one") is first
    assert stand(demo, "two") is not second
