"""Labour of repairs: what is open for one is not opened again for the next."""

from itertools import combinations, islice

import pytest

from bottega.core.machine.state import MachineState
from bottega.core.strip.plan import plan
from bottega.core.worth.labour import labour_of, proofs_of

STOOD = MachineState(power="on", taps="open", water="in")


def parts(machine):
    return [repair for repair in machine.repairs.values() if repair.do == "part"]


def test_one_repair_takes_its_way_there_its_fitting_its_way_back_and_its_proofs(shelf, f7):
    repair = f7.repairs["drain_pump.part"]
    way = plan(f7, shelf.tables, STOOD, repair.way).best
    proofs = proofs_of(f7, ["drain_pump"], [way])
    labour = labour_of(f7, shelf.tables, [repair], STOOD)
    assert labour.there == pytest.approx(way.first_minutes + way.opening.minutes)
    assert (labour.fitting, labour.back) == (repair.minutes, way.closing.minutes)
    assert labour.proofs == sum(shelf.tables.strip.proofs[proof] for proof in proofs)
    assert "leak_watch" in proofs


@pytest.mark.parametrize("archetype", ["FB", "TG", "WD"])
def test_two_together_never_take_longer_than_one_after_the_other(shelf, archetype):
    machine = shelf.machine(archetype)
    for pair in islice(combinations(parts(machine), 2), 0, None, 9):
        alone = [labour_of(machine, shelf.tables, [one], STOOD) for one in pair]
        both = labour_of(machine, shelf.tables, pair, STOOD)
        assert both.fitting == pytest.approx(sum(one.fitting for one in alone))
        assert both.there <= sum(one.there for one in alone) + 1e-9
        assert both.minutes <= sum(one.minutes for one in alone) + 1


def test_a_slower_shop_takes_longer_there_and_not_at_the_bench(shelf, f7):
    repair = f7.repairs["drain_pump.part"]
    slow = tuple(sorted((name, 2.0) for name in f7.operations))
    usual = labour_of(f7, shelf.tables, [repair], STOOD)
    slower = labour_of(f7, shelf.tables, [repair], STOOD, pace=slow)
    assert slower.there > usual.there
    assert (slower.fitting, slower.proofs) == (usual.fitting, usual.proofs)
