"""The fleet: paired machines of physics, a run taken up again, what kept a check from being
done."""

import json
from concurrent.futures import ThreadPoolExecutor

import pytest

from bottega.benchmark.fleet import WAYS, bench_fleet, fleet_summed, play_ticket, tickets
from bottega.benchmark.fleet_table import as_table
from bottega.benchmark.rigworld import RigWorld
from bottega.core.diagnosis.evidence import Occasion
from bottega.rig.specimen import Specimen


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
