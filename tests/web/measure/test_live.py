"""The meter at a check and on a walk, with leads on the rig."""

import re

import pytest
from tests.web.conftest import seq

from bottega.app.errors import BadValue, Refused
from bottega.app.job.answer import diagnose
from bottega.app.measure.meter import Ear
from bottega.app.measure.walk import stop_of, stops
from bottega.app.rig.bench_meter import start_bench_meter
from bottega.app.rig.bound import stand_at
from bottega.app.rig.leads import lay_for
from bottega.app.rig.probe import between
from bottega.devices.link import MeterSample

JOB, RIG, CHECK = "0418", "ondina01", "measure_machine_insulation"


@pytest.fixture
def meter(demo):
    started = start_bench_meter(demo)
    yield started
    started.stop()


def unplugged(browser, demo):
    for what, to in (("power", "off"), ("charge", "none")):
        browser.form(
            f"/jobs/{JOB}/safe/event",
            seq(demo, JOB),
            kind="state_changed",
            what=what,
            to=to,
            measured_v="2" if what == "charge" else "",
        )


def test_leads_cannot_be_laid_behind_a_panel_or_for_a_look(demo):
    with pytest.raises(Refused, match="First"):
        lay_for(demo, RIG, "measure_pump_coil")
    with pytest.raises(BadValue):
        lay_for(demo, RIG, "turn_rotor")


def test_a_sample_becomes_what_the_page_shows(browser, demo, meter):
    unplugged(browser, demo)
    answer = diagnose(demo, JOB)
    ear = Ear(demo, answer, answer.machine.checks[CHECK])
    shown = [ear.hear(MeterSample("insulation", amount)) for amount in (5, 20, 30, 33, 33, 33, 33)]
    assert (shown[0].state, shown[0].typed) == ("moving", "")
    last = shown[-1]
    assert (last.state, last.verdict, last.good) == ("settled", "insulated", True)
    assert last.typed == "33 megaohm"
    lifted = ear.hear(MeterSample("insulation", None))
    assert lifted.words == "touch again to keep it"
    assert ear.hear(MeterSample("insulation", 5)).keep
    gone = ear.hear(MeterSample("insulation", None, "found no answer"))
    assert (gone.state, gone.trouble, gone.typed) == ("gone", "Found no answer.", "")


def test_a_shop_without_a_line_cannot_listen(demo):
    answer = diagnose(demo, JOB)
    with pytest.raises(Refused, match="type the reading"):
        Ear(demo, answer, answer.machine.checks[CHECK])


def test_a_stream_for_no_check_is_refused_before_it_begins(browser, meter):
    assert browser.get(f"/jobs/{JOB}/meter/none").status_code == 404
    assert browser.get(f"/jobs/{JOB}/meter/turn_rotor").status_code == 409


def test_a_walk_goes_through_what_stands_open(browser, demo, meter):
    unplugged(browser, demo)
    names = [stop.check.id for stop in stops(demo, diagnose(demo, JOB))]
    assert CHECK in names
    assert "measure_pump_coil" not in names
    page = browser.get(f"/jobs/{JOB}/walk?checks={CHECK},measure_fuse_ohm")
    assert "data-walk" in page.text
    done = browser.form(
        f"/jobs/{JOB}/walk",
        seq(demo, JOB),
        check=CHECK,
        checks=f"{CHECK},measure_fuse_ohm",
        at="0",
        typed="33 megaohm",
    )
    assert done.headers["location"].endswith("at=1")
    assert diagnose(demo, JOB).job.checked()[-1][1].outcome == "passes"
    page = browser.get(done.headers["location"]).text
    assert "33 MΩ" in page
    passed = browser.form(
        f"/jobs/{JOB}/walk", seq(demo, JOB), checks=f"{CHECK},measure_fuse_ohm", at="1",
        **{"pass": "yes"},
    )  # fmt: skip
    assert "Back to the job" in browser.get(passed.headers["location"]).text


def test_a_reading_on_the_walk_that_cannot_be_is_said_there(browser, demo, meter):
    unplugged(browser, demo)
    before = seq(demo, JOB)
    page = browser.form(f"/jobs/{JOB}/walk", before, check=CHECK, checks=CHECK, at="0", typed="-3")
    assert "expected 0 to" in page.text
    assert seq(demo, JOB) == before


def test_three_windings_are_three_stops_of_one_reading(demo, meter):
    machine = demo.shelf.machine("FD")
    stop = stop_of(demo, machine.checks["measure_windings_three"])
    assert (len(stop.probes), stop.quantity) == (3, "resistance")


def test_the_probe_of_a_machine_can_be_asked_from_elsewhere(browser, demo):
    assert browser.get(f"/rigs/{RIG}/probe?quantity=resistance").json() == {"amount": None}
    assert re.match(r"[45]", str(browser.get("/rigs/none/probe?quantity=x").status_code))


def test_a_clamp_round_one_load_reads_that_load_alone(demo):
    at = stand_at(demo, RIG)
    machine = at.machine
    machine.plugged = True
    machine.asks.pump = machine.asks.element = True
    machine.now.taken.update(pump=(0.2, 30.0), element=(8.0, 1840.0))
    machine.now.ampere, machine.now.watts = 8.2, 1870.0
    assert between(at, "pump.1", "pump.2", "current") == 0.2
    assert between(at, "element.pin", "element.2", "power") == 1840.0
    assert between(at, "plug.L", "fuse.L", "power") == 1870.0
    assert between(at, "hot.1", "hot.2", "current") == 0.0
    assert between(at, "pump.1", "element.2", "current") == 0.0
