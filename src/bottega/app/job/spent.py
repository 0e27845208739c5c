"""The minutes of a job so far, and what they come to."""

from dataclasses import dataclass

from bottega.app.answer import Answer
from bottega.core.job.events import PutBack, TookOff
from bottega.core.library.records import OperationRecord
from bottega.core.shop import ShopSettings


@dataclass(frozen=True)
class Spent:
    """Minutes by the library's times, and what they and the parts fitted come to in the shop's
    currency before tax; the visit fee is not in it."""

    minutes: float
    money: float


def spent_on(answer: Answer, shop: ShopSettings) -> Spent:
    """Return what the checks, repairs and operations noted so far take by the library's times."""
    job, machine = answer.job, answer.machine
    bodies = [entry.body for entry in job.live]
    moved = [b for b in bodies if isinstance(b, (TookOff, PutBack))]
    minutes = sum(
        (
            *(
                machine.checks[b.check].minutes
                for _, b in job.checked()
                if b.check in machine.checks
            ),
            *(repair.minutes for repair in job.repairs_made(machine)),
            *(
                _minutes(machine.operations[b.operation], b)
                for b in moved
                if b.operation in machine.operations
            ),
        ),
        start=0.0,
    )
    parts = sum(shop.charged(repair.price_eur) for repair in job.repairs_made(machine))
    return Spent(minutes, minutes * shop.rate_per_hour / 60 + parts)


def _minutes(record: OperationRecord, body: TookOff | PutBack) -> float:
    """Return what taking it off, or putting it back, takes."""
    if isinstance(body, PutBack) and record.back_minutes is not None:
        return record.back_minutes
    return record.minutes
