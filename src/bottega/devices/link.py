"""One thread an instrument: it reads as long as somebody listens, says what it got or why not, and
goes back to it when it was away."""

import logging
from collections.abc import Callable
from dataclasses import dataclass, field
from threading import Event, Lock, Thread
from time import monotonic

from bottega.devices.meter import Meter
from bottega.devices.scpi import MeterError, NoMeter
from bottega.devices.trial import Trial

log = logging.getLogger(__name__)

EVERY_S = 0.1
"""Between two readings; ten a second are more than a display changes."""
KEPT = 64
"""Lines and trials that are remembered before those nobody uses are forgotten; chosen, half as many
again as a shop may write down."""
AGAIN_S = 1.0
"""Before a meter that went away is tried again."""


@dataclass(frozen=True)
class MeterSample:
    """One reading of a quantity, or why there is none. ``amount`` None is overload."""

    quantity: str
    amount: float | None
    trouble: str = ""
    at: float = 0.0


Listener = Callable[[MeterSample], None]


@dataclass
class Link:
    """The line to one instrument, shared by all who listen. It is set to what was asked for last;
    who wants something else is told so."""

    resource: str
    open: Callable[[str], Meter] = Meter
    _listeners: dict[Listener, str] = field(default_factory=dict)
    _lock: Lock = field(default_factory=Lock)
    _wake: Event = field(default_factory=Event)
    _thread: Thread | None = None

    def listen(self, quantity: str, listener: Listener) -> None:
        """Hear every reading of a quantity from now on."""
        with self._lock:
            self._listeners.pop(listener, None)
            self._listeners[listener] = quantity
            if self._thread is None:
                self._thread = Thread(target=self._work, daemon=True, name=self.resource)
                self._thread.start()

    @property
    def heard(self) -> bool:
        """Return whether somebody listens, or the line is not closed yet."""
        with self._lock:
            return self._thread is not None

    def leave(self, listener: Listener) -> None:
        """Hear no more; when nobody does, the line is closed."""
        with self._lock:
            self._listeners.pop(listener, None)
        self._wake.set()

    def _work(self) -> None:
        meter: Meter | None = None
        while True:
            with self._lock:
                if not self._listeners:
                    self._thread = None
                    break
                quantity = list(self._listeners.values())[-1]
            began = monotonic()
            try:
                meter = meter or self.open(self.resource)
                self._tell(MeterSample(quantity, meter.read(quantity), at=monotonic()))
            except Exception as error:  # whatever a meter does, the line comes back by itself
                self._tell(MeterSample(quantity, None, _words(error), monotonic()))
                if not isinstance(error, MeterError) or isinstance(error, NoMeter):
                    if meter is not None:
                        meter.close()
                    meter = None
                    self._pause(AGAIN_S)
            self._pause(EVERY_S - (monotonic() - began))
        if meter is not None:
            meter.close()

    def _pause(self, seconds: float) -> None:
        if seconds > 0:
            self._wake.wait(seconds)
            self._wake.clear()

    def _tell(self, sample: MeterSample) -> None:
        with self._lock:
            listeners = list(self._listeners.items())
        for listener, wanted in listeners:
            if wanted == sample.quantity:
                listener(sample)
            else:
                listener(
                    MeterSample(
                        wanted,
                        None,
                        f"another page has set the meter to {sample.quantity}",
                        sample.at,
                    )
                )


def _words(error: Exception) -> str:
    if isinstance(error, MeterError):
        return str(error)
    log.exception("the line to a meter")
    return "found no way to read it; what went wrong stands in the log of the application"


class Links:
    """The lines to all instruments of a shop, and the last trial of each, by resource. ``anywhere``
    allows meters beyond this computer and private networks."""

    def __init__(self) -> None:
        self.anywhere = False
        self._lock = Lock()
        self._links: dict[str, Link] = {}
        self._trials: dict[str, Trial] = {}

    def to(self, resource: str) -> Link:
        """Return the line to an instrument."""
        with self._lock:
            if len(self._links) >= KEPT:
                self._links = {name: one for name, one in self._links.items() if one.heard}
            return self._links.setdefault(resource, Link(resource, self._opened))

    def begin_trial(self, resource: str, quantities: tuple[str, ...]) -> Trial:
        """Begin to try a line, or return the trial of it that is not over."""
        with self._lock:
            going = self._trials.get(resource)
            if going is not None and not going.over:
                return going
            if len(self._trials) >= KEPT:
                self._trials = {name: one for name, one in self._trials.items() if not one.over}
            trial = self._trials[resource] = Trial(resource, quantities)
        return trial.start(self._opened)

    def trial_of(self, resource: str) -> Trial | None:
        """Return the last trial of a line; None where there was none."""
        with self._lock:
            return self._trials.get(resource)

    def _opened(self, resource: str) -> Meter:
        return Meter(resource, anywhere=self.anywhere)
