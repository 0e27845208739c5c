"""A stand-in for a meter: a small server that answers SCPI on a socket and behaves like a
hand-held instrument: it settles, is off by its accuracy, trembles in the last digit, changes
range, and shows overload."""

import socketserver
from collections.abc import Callable
from dataclasses import dataclass, field
from math import exp, floor, log10
from random import Random
from threading import Lock, Thread
from time import monotonic
from typing import Literal, get_args

from bottega.devices.scpi import FUNCTIONS, OVERLOAD

Source = Callable[[str], float | None]
"""What the probes touch: by quantity its true value in the quantity's unit, None for nothing."""
Trouble = Literal["", "slow", "garbage", "drop", "function"]
TROUBLES: tuple[Trouble, ...] = get_args(Trouble)
IDENTITY = "BOTTEGA,STAND-IN,0001,1"
COUNTS = 40_000
"""Digits it shows."""
SETTLES_S = 0.12
"""Time constant with which it follows; chosen, a hand-held meter settles in half a second."""
RANGE_S = 0.15
"""How long it shows nothing of use while it changes range."""
ACCURACY = 0.004
TREMBLE = 0.0003
MOST: dict[str, float] = {
    "resistance": 4e7,
    "insulation": 4e3,
    "ac_volts": 1000.0,
    "dc_volts": 1000.0,
    "current": 60.0,
    "capacitance": 4000.0,
    "frequency": 1e6,
    "temperature": 400.0,
    "power": 6000.0,
}
"""The end of the largest range of each function, in the unit of the quantity."""


@dataclass
class Display:
    """What it shows: follows the true value in time. ``clock`` in seconds."""

    source: Source
    seed: int = 1
    clock: Callable[[], float] = monotonic
    shown: float = 0.0
    at: float = 0.0
    range: int = 0
    ranging_until: float = 0.0
    function: str = "resistance"
    _random: Random = field(init=False)
    _gain: float = field(init=False)

    def __post_init__(self) -> None:
        self._random = Random(self.seed)
        self._gain = 1 + self._random.uniform(-ACCURACY, ACCURACY)
        self.at = self.clock()

    def set_to(self, function: str) -> None:
        """Turn it to another function; it begins from nothing."""
        if function != self.function:
            self.function, self.shown, self.range = function, 0.0, 0

    def read(self) -> float | None:
        """Return what it shows now, in the unit of the quantity; None at overload."""
        now, true = self.clock(), self.source(self.function)
        passed, self.at = now - self.at, now
        if true is None or abs(true) > MOST[self.function]:
            self.shown, self.range = 0.0, 0
            return None
        target = true * self._gain
        decade = floor(log10(abs(target))) if target else 0
        if decade != self.range:
            self.range, self.ranging_until = decade, now + RANGE_S
        self.shown += (target - self.shown) * (1 - exp(-passed / SETTLES_S))
        if now < self.ranging_until:
            return self._digits(self.shown * 0.5)
        return self._digits(self.shown * (1 + self._random.gauss(0, TREMBLE)))

    def _digits(self, value: float) -> float:
        step = 10.0 ** (self.range + 1) / COUNTS
        return round(value / step) * step


class _Server(socketserver.ThreadingTCPServer):
    allow_reuse_address = True
    daemon_threads = True


@dataclass
class StandIn:
    """The server. ``trouble`` is what ails it, and may be changed while it runs; ``sent_at`` is
    when it last answered a reading."""

    display: Display
    host: str = "127.0.0.1"
    port: int = 0
    trouble: Trouble = ""
    delay_s: float = 3.0
    sent_at: float = 0.0
    _server: _Server = field(init=False)
    _lock: Lock = field(default_factory=Lock)

    def __post_init__(self) -> None:
        outer = self

        class Handler(socketserver.StreamRequestHandler):
            def handle(self) -> None:
                for raw in self.rfile:
                    answer = outer.answer(raw.decode("ascii", "replace").strip())
                    if answer is None:
                        return
                    if answer:
                        self.wfile.write(answer.encode("ascii") + b"\n")

        self._server = _Server((self.host, self.port), Handler)
        self.port = int(self._server.server_address[1])

    @property
    def resource(self) -> str:
        """Return its line, as an instrument is written down with it."""
        return f"TCPIP::{self.host}::{self.port}::SOCKET"

    def start(self) -> "StandIn":
        """Serve in a thread of its own."""
        Thread(target=self._server.serve_forever, daemon=True, name="meter").start()
        return self

    def serve(self) -> None:
        """Serve until it is stopped."""
        self._server.serve_forever()

    def stop(self) -> None:
        """Stop serving."""
        self._server.shutdown()
        self._server.server_close()

    def answer(self, words: str) -> str | None:
        """Return the answer to one line; empty where there is none, None to hang up."""
        head = words.upper()
        if head == "*IDN?":
            return IDENTITY
        if head == "SYST:ERR?":
            return '0,"No error"'
        if head.startswith("CONF:"):
            return self._configure(head.removeprefix("CONF:"))
        if head == "FUNC?":
            wrong = self.trouble == "function"
            return f'"{"DIOD" if wrong else FUNCTIONS[self.display.function].node}"'
        if head == "READ?":
            return self._reading()
        return "" if not head.endswith("?") else '-113,"Undefined header"'

    def _configure(self, node: str) -> str:
        for name, function in FUNCTIONS.items():
            if function.node == node:
                with self._lock:
                    self.display.set_to(name)
        return ""

    def _reading(self) -> str | None:
        if self.trouble == "drop":
            return None
        if self.trouble == "garbage":
            return "#?%&"
        if self.trouble == "slow":
            from time import sleep

            sleep(self.delay_s)
        with self._lock:
            value = self.display.read()
            factor = FUNCTIONS[self.display.function].factor
            self.sent_at = monotonic()
        return f"{OVERLOAD:.6E}" if value is None else f"{value / factor:.6E}"
