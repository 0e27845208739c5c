"""Advice follows the cause, and is never given where nothing the customer does changes it."""

from bottega.core.worth.advice import advice


def test_every_fault_of_every_kind_has_advice_or_a_reason(shelf):
    for machine in shelf.machines():
        for fault in machine.faults:
            told = advice(machine, fault, shelf.tables.advice)
            assert bool(told.says) != bool(told.why_none), fault


def test_a_fault_of_its_own_goes_before_its_part(shelf, f7):
    table = shelf.tables.advice
    own = {name for name in table.faults if name in f7.faults}
    assert own
    for fault in own:
        assert advice(f7, fault, table).says == table.faults[fault]
    of_part = next(
        name
        for name, fault in f7.faults.items()
        if name not in table.faults and fault.component in table.parts
    )
    assert advice(f7, of_part, table).says == table.parts[f7.faults[of_part].component]
