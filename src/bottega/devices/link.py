"""One thread an instrument: it reads as long as somebody listens, says what it got or why not, and
goes back to it when it was away."""

from collections.abc import Callable
from dataclasses import dataclass, field
from threading import Event, Lock, Thread
from time import monotonic

from bottega.devices.meter import Meter
from bottega.devices.scpi import MeterError, NoMeter

EVERY_S = 0.1
"""Between two readings; ten a second are more than a display changes."""
AGAIN_S = 1.0
"""Before a meter that went away is tried again."""


@dataclass(frozen=True)
class Sample:
    """One reading of a quantity, or why there is none. ``amount`` None is overload."""

    quantity: str
    amount: float | None
    trouble: str = ""
    at: float = 0.0


Listener = Callable[[Sample], None]


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
                self._tell(Sample(quantity, meter.read(quantity), at=monotonic()))
            except MeterError as error:
                self._tell(Sample(quantity, None, str(error), monotonic()))
                if isinstance(error, NoMeter):
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

    def _tell(self, sample: Sample) -> None:
        with self._lock:
            listeners = list(self._listeners.items())
        for listener, wanted in listeners:
            if wanted == sample.quantity:
                listener(sample)
            else:
                listener(
                    Sample(
                        wanted,
                        None,
                        f"another page has set the meter to {sample.quantity}",
                        sample.at,
                    )
                )


class Links:
    """The lines to all instruments of a shop, by resource."""

    def __init__(self) -> None:
        self._lock = Lock()
        self._links: dict[str, Link] = {}

    def to(self, resource: str) -> Link:
        """Return the line to an instrument."""
        with self._lock:
            return self._links.setdefault(resource, Link(resource))
