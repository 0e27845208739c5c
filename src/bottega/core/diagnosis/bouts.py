"""The occasions of a job: a new bout begins with the power on again, after a pause, a repair, a
run, or where a check provokes what comes and goes."""

from datetime import datetime, timedelta

from bottega.core.diagnosis.evidence import Occasion, told_to_us
from bottega.core.job.events import Complained, Opened, Proved, Repaired, StateChanged
from bottega.core.job.job import Entry
from bottega.core.library.machine_type import Check


class Bouts:
    """Numbers the occasions at the machine while its events are gone through in order."""

    def __init__(self, pause_minutes: float) -> None:
        self._pause = timedelta(minutes=pause_minutes)
        self._number = 1
        self._last: datetime | None = None

    @property
    def present(self) -> Occasion:
        """Return the occasion that what is found next belongs to."""
        return Occasion(self._number)

    def of(self, entry: Entry) -> Occasion:
        """Return the occasion of an event: that of the bout it is part of, or begins."""
        event, body = entry.event, entry.body
        if self._last is not None and event.at - self._last > self._pause:
            self._number += 1
        if not isinstance(body, (Opened, Complained)):
            self._last = event.at
        plugged_in = isinstance(body, StateChanged) and (body.what, body.to) == ("power", "on")
        if plugged_in or isinstance(body, (Repaired, Proved)):
            self._number += 1
        return self.present

    def begin(self) -> Occasion:
        """Return an occasion of its own that begins now."""
        self._number += 1
        return self.present

    def check(self, check: Check, epoch: int) -> Occasion:
        """Return the occasion a check belongs to: for a question the time the customer tells of,
        for a check that provokes a fault an occasion of its own, else the present occasion."""
        if check.who == "customer":
            return told_to_us(epoch)
        if not check.provokes:
            return self.present
        self._number += 2
        return Occasion(self._number - 1, provokes=check.provokes)
