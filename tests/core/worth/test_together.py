"""A set of repairs, held against every set there is."""

from itertools import combinations

import pytest
from tests.core.worth.test_options import SHOP, STOOD
from tests.engine import model_of

from bottega.core.diagnosis.evidence import Evidence, said
from bottega.core.diagnosis.infer import infer
from bottega.core.diagnosis.prior import prior
from bottega.core.worth.quote import repair_quote
from bottega.core.worth.together import AMONG, cheapest_set


@pytest.mark.parametrize("kind", ["FB", "TD", "WD"])
@pytest.mark.parametrize("share", [0.4, 0.6, 0.85])
def test_the_set_is_the_cheapest_of_all_that_are_enough(shelf, kind, share):
    """Held against every set of two and three of the repairs it may be made of, in plain Python."""
    machine = shelf.machine(kind)
    model = model_of(machine)
    told = [said("c", c, n) for n, c in enumerate(list(machine.complaints.values())[:2])]
    belief = infer(model, prior(model, 8, shelf.tables.engine), Evidence(tuple(told)))
    cases = [
        ({model.fault_ids[f] for f in row if f >= 0}, chance)
        for row, chance in zip(model.sets, belief.now, strict=True)
        if chance > 1e-6 and max(row) >= 0
    ]

    def held(repairs):
        covered = {fault for repair in repairs for fault, _ in repair.covers}
        return sum(chance for case, chance in cases if case <= covered)

    def quoted(repairs):
        return repair_quote(machine, repairs, STOOD, shelf.tables, shop=SHOP)

    among = sorted(machine.repairs.values(), key=lambda r: (-held((r,)), r.id))[:AMONG]
    wanted = share * (1 - belief.healthy)
    several = [s for n in (2, 3) for s in combinations(among, n) if held(s) >= wanted]
    got = cheapest_set(belief, [(r, quoted((r,))) for r in among], share, quoted)
    if any(held((repair,)) >= wanted for repair in among) or not several:
        assert got is None
        return
    assert held(got.repairs) >= wanted
    assert got.quote.total == pytest.approx(min(quoted(s).total for s in several), abs=0.01)
