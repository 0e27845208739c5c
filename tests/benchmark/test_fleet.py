"""The fleet: paired machines of physics, a run taken up again, what kept a check from being
done."""

import json
from concurrent.futures import ThreadPoolExecutor
from dataclasses import replace
from types import SimpleNamespace

import pytest

from bottega.benchmark.agree import TOLERANCE, compare, library_agree, summed, tasks_of
from bottega.benchmark.fleet import WAYS, bench_fleet, fleet_summed, play_ticket, tickets
from bottega.benchmark.fleet_table import as_table
from bottega.benchmark.rigs import balances, bench_rig, rig_rows
from bottega.benchmark.rigworld import RigWorld
from bottega.commands.plots import NoSuchPlot, plot_calibration, plot_run
from bottega.core.diagnosis.evidence import Occasion
from bottega.rig.machine import machine_of
from bottega.rig.specimen import Specimen
from bottega.rig.telemetry import sample


@pytest.fixture(scope="module")
def lines():
    return [play_ticket(ticket) for ticket in list(tickets(12, 5))[1:3]]


def world(shelf, f7, faults):
    return RigWorld(f7, shelf.tables.quantities, Specimen(f7, "w", faults), "w", 7.0)


def test_every_way_of_working_plays_the_same_machine(lines):
    for line in lines:
        assert set(line.results) == set(WAYS)
        assert line.results["clairvoyant"].gone
        assert line.results["clairvoyant"].checks == 0
        assert min(r.all_in for r in line.results.values()) >= 0


def test_one_who_knows_is_cheaper_than_a_fixed_list(lines):
    assert sum(x.results["clairvoyant"].all_in for x in lines) < sum(
        x.results["fixed"].all_in for x in lines
    )


def test_the_figures_are_summed_with_their_intervals(lines):
    bench = fleet_summed(lines, 2, 5)
    worth = bench.policies["bottega"].all_in
    assert worth.low <= worth.mean <= worth.high
    assert sum(group.machines for group in bench.by_kind.values()) == 2
    assert "all in, over the fixed checklist" in as_table(bench)


def test_a_fleet_is_taken_up_where_it_was_left(tmp_path, monkeypatch):
    kept, calls = tmp_path / "fleet.jsonl", []
    monkeypatch.setattr("bottega.benchmark.fleet.ProcessPoolExecutor", ThreadPoolExecutor)
    bench_fleet(1, 5, lambda: calls.append("first"), kept)
    kept.write_text(kept.read_text() + '{"cut short\n')
    monkeypatch.setattr(
        "bottega.benchmark.fleet.play_ticket", lambda ticket: pytest.fail("played again")
    )
    bench_fleet(1, 5, lambda: calls.append("again"), kept)
    assert calls == ["first", "again"]
    assert json.loads(kept.read_text().splitlines()[0])["seed"] == next(tickets(1, 5)).seed


def test_a_dead_machine_says_so_to_whatever_is_asked(shelf, f7):
    dead = world(shelf, f7, {"outlet_dead": 0.9})
    assert [(c.id, o) for c, o in dead.answers(f7.checks["hear_lock"], Occasion(1))] == [
        ("press_key", "dead")
    ]
    said = {phrase for n in range(6) for phrase in dead._said(str(n))}
    assert "says_dead" in said


def test_who_keeps_a_dead_machine_calls_again(shelf, f7):
    dead = world(shelf, f7, {"outlet_dead": 0.9})
    for nth in range(20):
        assert any(dead.notices(phrase, "call") for phrase in dead.calls_again(nth))


def test_a_machine_that_stops_says_where(shelf, f7):
    dry = world(shelf, f7, {"pump_coil_open": 0.9})
    assert [(c.id, o) for c, o in dry.answers(f7.checks["watch_through"], Occasion(1))] != []
    locked = world(shelf, f7, {"lock_coil_open": 0.9})
    assert [(c.id, o) for c, o in locked.answers(f7.checks["watch_spin"], Occasion(1))] == [
        ("watch_stops_in", "before it starts")
    ]


def test_a_repair_takes_away_what_it_covers(shelf, f7):
    broken = world(shelf, f7, {"pump_coil_open": 0.9, "bellows_torn": 0.5})
    for _ in range(5):
        broken.repair("drain_pump.part")
    assert broken.faults == ("bellows_torn",)
    assert not broken.repair("drain_pump.part")


def test_rig_and_library_agree_on_what_a_blocked_filter_shows(shelf):
    task = next(
        tasks_of(["FB"], 1, 8, ["open_filter", "measure_pump_coil"], faults=["filter_blocked"])
    )
    pairs = {pair.check: pair for pair in compare(task)}
    assert pairs["open_filter"].telling
    assert not pairs["measure_pump_coil"].telling
    assert all(pair.apart <= TOLERANCE for pair in pairs.values())
    found = summed(list(pairs.values()), [shelf.machine("FB")], 1, 8)
    assert (found.pairs, found.within, found.without_recipe) == (2, 2, [])
    assert found.social["ask_changed"]


def test_a_library_that_is_wrong_is_found_out(shelf, monkeypatch):
    machine = shelf.machine("FB")
    fault = machine.faults["filter_blocked"]
    lying = replace(fault, effects={**fault.effects, "filter_state": (0.97, 0.02, 0.01)})
    monkeypatch.setitem(machine.faults, "filter_blocked", lying)
    monkeypatch.setattr("bottega.benchmark.agree.workshop", lambda: SimpleNamespace(shelf=shelf))
    task = next(tasks_of(["FB"], 1, 8, ["open_filter"], faults=["filter_blocked"]))
    assert compare(task)[0].apart > TOLERANCE


def test_agree_goes_over_every_fault_asked_for():
    calls = []
    library_agree(
        ["TG"],
        1,
        4,
        ["look_post"],
        done=lambda: calls.append(1),
        faults=["stem_corroded", "brake_worn"],
    )
    assert len(calls) == 2


def test_heat_and_water_are_kept_within_a_hundredth():
    heat, water = balances(3)
    assert heat < 0.01
    assert water < 0.01


def test_the_rigs_table_names_every_goal(monkeypatch):
    monkeypatch.setattr("bottega.benchmark.rigs.TIMED_S", 120.0)
    bench = bench_rig(1, 0, lambda line: None)
    assert bench.faults_injectable >= 120
    assert bench.checks - bench.checks_with_recipe <= 8
    assert len(rig_rows(bench)[1]) == 5


def test_plots_are_written_as_the_name_says(tmp_path, f7):
    machine, seen = machine_of(f7, "plot"), []
    machine.telemetry = lambda m: seen.append(sample(m))
    machine.run("drain")
    plot_run(seen, tmp_path / "run.svg", "run")
    plot_calibration([], tmp_path / "said.png", "said")
    assert (tmp_path / "run.svg").read_text().startswith("<?xml")
    assert (tmp_path / "said.png").read_bytes()[1:4] == b"PNG"
    with pytest.raises(NoSuchPlot, match=r"found 'run\.bmp'"):
        plot_run(seen, tmp_path / "run.bmp", "run")
