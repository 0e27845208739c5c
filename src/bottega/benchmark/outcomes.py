"""Which answer to a check follows from what was told of a machine of physics."""

from bottega.core.library.machine_type import Check, MachineType
from bottega.core.library.tables import Quantity
from bottega.core.measure.judge import expected_window, judge
from bottega.core.measure.reading import Measured
from bottega.rig.asking import CheckTold

MAINS_V = 230.0


def outcome_of(
    machine: MachineType, check: Check, told: CheckTold, quantities: dict[str, Quantity]
) -> str:
    """Return the outcome a technician would write down: a reading judged by its window, or the
    answer that most often reports the state that was perceived."""
    if told.measured:
        assert check.measure is not None
        quantity = quantities[check.measure.quantity]
        amount = told.amount
        if amount is None and not quantity.ol:
            amount = quantity.most
        if amount is not None:
            amount = min(max(amount, quantity.least), quantity.most)
        window = expected_window(machine, check, machine.plate, MAINS_V)
        return judge(check, Measured("", amount, quantity.unit), window, quantity).outcome
    return machine.answer_for(check, told.state).id
