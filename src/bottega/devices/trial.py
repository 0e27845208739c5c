"""Trying the line of a meter: who answers, and what it shows, found out by a thread of its own."""

from collections.abc import Callable, Iterable
from dataclasses import dataclass, field
from threading import Event, Thread
from time import monotonic

from bottega.devices.meter import Meter
from bottega.devices.scpi import FUNCTIONS, MeterError

MOST_S = 10.0
"""How long a trial goes on at most, in second; chosen, a sound meter shows all it has in two."""


@dataclass
class Trial:
    """A trial of one line: who answered, what it showed of each quantity in the quantity's unit
    (None at overload), what was wrong, and whether it is over."""

    resource: str
    quantities: tuple[str, ...]
    identity: str = ""
    shows: list[tuple[str, float | None]] = field(default_factory=list)
    trouble: str = ""
    _over: Event = field(default_factory=Event)

    @property
    def over(self) -> bool:
        """Return whether nothing more comes."""
        return self._over.is_set()

    def wait(self, seconds: float) -> bool:
        """Wait for the end, at most so long; return whether it is over."""
        return self._over.wait(seconds)

    def start(self, opened: Callable[[str], Meter]) -> "Trial":
        """Begin, in a thread of its own."""
        Thread(target=self._work, args=(opened,), daemon=True, name="trial").start()
        return self

    def _work(self, opened: Callable[[str], Meter]) -> None:
        began, meter = monotonic(), None
        try:
            meter = opened(self.resource)
            self.identity = meter.identity
            for quantity in self.quantities:
                if monotonic() - began > MOST_S:
                    self.trouble = "found too little time for the rest: it answers slowly"
                    break
                self.shows.append((quantity, meter.read(quantity)))
        except MeterError as error:
            self.trouble = str(error)
        finally:
            if meter is not None:
                meter.close()
            self._over.set()


def readable(quantities: Iterable[str]) -> tuple[str, ...]:
    """Return those of the quantities that a meter can be asked for by wire."""
    return tuple(quantity for quantity in quantities if quantity in FUNCTIONS)
