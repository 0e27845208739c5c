"""Plans of every part of every kind: whole, proved, and back to closed."""

from dataclasses import replace

import pytest

from bottega.core.library.shelf import shipped_shelf
from bottega.core.machine.state import MachineState
from bottega.core.strip.plan import naive_minutes, plan

SHELF = shipped_shelf()
KINDS = ("FB", "FI", "FD", "WD", "TS", "TD", "TG", "SL")


@pytest.mark.parametrize("kind", KINDS)
def test_every_part_has_a_plan_that_is_proved_and_comes_back(kind):
    machine = SHELF.machine(kind)
    for repair in machine.repairs.values():
        if repair.do != "part":
            continue
        found = plan(machine, SHELF.tables, MachineState(), repair.way)
        best = found.best
        assert all(way.optimal for way in found.ways), repair.id
        assert set(repair.way.off) <= set(best.operations), repair.id
        assert sorted(best.back) == sorted(best.operations), repair.id
        done: list[str] = []
        for name in best.order:
            assert set(machine.operations[name].after) <= set(done), (repair.id, name)
            done.append(name)
        for name in best.back:
            done.remove(name)
            assert not [o for o in done if name in machine.operations[o].after], (repair.id, name)
        least = naive_minutes(machine, SHELF.tables, MachineState(), repair.way)
        assert best.minutes <= least + 1e-6, repair.id


def test_the_bare_tub_of_a_front_loader_beats_the_order_of_the_list():
    machine = SHELF.machine("FB")
    way = machine.repairs["bearings.part"].way
    best = plan(machine, SHELF.tables, MachineState(), way).best
    least = naive_minutes(machine, SHELF.tables, MachineState(), way)
    assert best.minutes < least - 5
    assert best.people == 2
    assert ("water", "out") in best.first


def test_two_ways_to_the_pump_are_compared_with_what_each_risks():
    machine = SHELF.machine("FB")
    found = plan(machine, SHELF.tables, MachineState(), machine.repairs["drain_pump.part"].way)
    below, front = found.ways
    assert (below.tips, front.tips) == (2, 0)
    assert below.minutes < front.minutes
    assert "pump_out_front" in front.operations
    assert "pump_out" not in front.operations
    assert front.risks == ("The bellows and its band are opened for it; it stays upright.",)


def test_it_plans_on_from_where_one_stands():
    machine = SHELF.machine("FB")
    way = machine.repairs["bearings.part"].way
    whole = plan(machine, SHELF.tables, MachineState(), way).best
    state = MachineState(power="off", taps="shut", water="out", off=whole.order[:9])
    rest = plan(machine, SHELF.tables, state, way).best
    assert set(rest.operations) == set(whole.operations) - set(whole.order[:9])
    assert set(rest.back) == set(whole.operations)
    assert rest.minutes < whole.minutes
    assert ("water", "out") not in rest.first


def test_what_was_done_another_way_is_not_done_again():
    machine = SHELF.machine("FB")
    way = machine.repairs["drain_pump.part"].way
    front = plan(machine, SHELF.tables, MachineState(), way).ways[1]
    state = MachineState(power="off", taps="shut", water="out", off=front.order)
    assert plan(machine, SHELF.tables, state, way).best.operations == ()


def test_what_goes_back_late_goes_back_late():
    machine = SHELF.machine("TS")
    flap = machine.operations["rear_panel"]
    operations = {**machine.operations, "rear_panel": replace_back(flap, ("top",))}
    machine = replace(machine, operations=operations)
    way = machine.repairs["inlet_valve.part"].way
    needs = way.model_copy(update={"off": (*way.off, "rear_panel")})
    back = plan(machine, SHELF.tables, MachineState(), needs).best.back
    assert back.index("top") < back.index("rear_panel")


def replace_back(record, names):
    return record.model_copy(update={"back_after": names})
