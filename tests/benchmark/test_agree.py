"""Rig and library are held against each other."""

from dataclasses import replace
from types import SimpleNamespace

from bottega.benchmark.agree import TOLERANCE, compare, library_agree, summed, tasks_of


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
