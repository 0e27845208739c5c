"""Advice for the customer that follows the cause."""

from dataclasses import dataclass

from bottega.core.library.advice_record import AdviceTable
from bottega.core.library.machine_type import MachineType
from bottega.core.library.records import Ageing


@dataclass(frozen=True)
class Advice:
    """What the customer should do (``says``), or why there is nothing to do (``why_none``); one of
    them is empty."""

    says: str
    why_none: str


def advice(machine: MachineType, fault: str, table: AdviceTable) -> Advice:
    """Return what the customer should do so that a fault does not come back, or why nothing he does
    changes it."""
    record = machine.faults[fault]
    says = table.faults.get(fault) or table.parts.get(record.component, "")
    ageing: Ageing = record.ageing  # type: ignore[assignment]  # one of the three, as its record says
    return Advice(says, "" if says else table.none[ageing])
