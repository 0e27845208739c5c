"""How soon what a meter shows is on the page: touched, settled, sent and read."""

import json
from collections.abc import Callable, Iterator
from dataclasses import replace
from pathlib import Path
from tempfile import TemporaryDirectory
from threading import Thread
from time import monotonic

import httpx2
from pydantic import BaseModel
from uvicorn import Config, Server

from bottega.app import demo
from bottega.app.workshop import Workshop, open_workshop
from bottega.benchmark.served import wait_for
from bottega.benchmark.web import Spread, spread
from bottega.core.gear import Instrument
from bottega.devices.scpi import FUNCTIONS
from bottega.devices.standin import Display, StandIn
from bottega.web.application import create_app

TARGET_MS = 150.0
"""Within which a settled reading is on the page; as the design asks."""
JOB, CHECK = "0412", "measure_pump_coil"
LIFTED_S = 0.5
FIGURES = (184.0, 12.0, 3900.0, 27.0)
"""What is touched in turn, in ohm."""


class MeterBench(BaseModel):
    """What was measured. From the instrument's answer to the page's, of every sample and of those
    that settle; and from touching the points to settled, in milliseconds."""

    instrument_to_page_ms: Spread
    settled_to_page_ms: Spread
    touched_to_settled_ms: Spread
    touches: int
    lost: int
    """Touches after which nothing settled."""


def bench_meter(touches: int) -> MeterBench:
    """Return how soon readings are on the page: a real server, a stand-in on a socket, a page that
    listens."""
    with TemporaryDirectory() as folder:
        workshop = open_workshop(Path(folder))
        demo.fill(workshop, lambda done, all_: None)
        try:
            return _measured(workshop, touches)
        finally:
            workshop.close()


class _Probes:
    """What is touched now; the time it was touched at."""

    def __init__(self) -> None:
        self.ohm: float | None = None
        self.at = 0.0

    def __call__(self, quantity: str) -> float | None:
        return self.ohm if quantity == "resistance" else None

    def touch(self, ohm: float | None) -> None:
        self.ohm, self.at = ohm, monotonic()


def _measured(workshop: Workshop, touches: int) -> MeterBench:
    probes = _Probes()
    stand_in = StandIn(Display(probes)).start()
    meter = Instrument("bench", tuple(FUNCTIONS), resource=stand_in.resource)
    workshop.change_settings(lambda settings: replace(settings, gear=(meter,)))
    config = Config(create_app(workshop), port=0, log_level="error")
    server = Server(config)
    socket = config.bind_socket()
    Thread(target=server.run, args=([socket],), daemon=True).start()
    base = f"http://127.0.0.1:{socket.getsockname()[1]}"
    wait_for(base)
    every, settled, whole, lost = [], [], [], 0
    with (
        httpx2.Client(timeout=None) as client,
        client.stream("GET", f"{base}/jobs/{JOB}/meter/{CHECK}") as page,
    ):
        lines = page.iter_lines()
        for n in range(touches):
            probes.touch(None)
            _until(lines, lambda shown: monotonic() - probes.at > LIFTED_S)
            probes.touch(FIGURES[n % len(FIGURES)])
            state = ""
            while state != "settled" and monotonic() - probes.at < 5:
                state = _next(lines)["state"]
                late = 1000 * (monotonic() - stand_in.sent_at)
                every.append(late)
            if state == "settled":
                settled.append(late)
                whole.append(1000 * (monotonic() - probes.at))
            else:
                lost += 1
    server.should_exit = True
    stand_in.stop()
    return MeterBench(
        instrument_to_page_ms=spread(every),
        settled_to_page_ms=spread(settled),
        touched_to_settled_ms=spread(whole),
        touches=touches,
        lost=lost,
    )


def _next(lines: Iterator[str]) -> dict[str, str]:
    for line in lines:
        if line.startswith("data:"):
            found: dict[str, str] = json.loads(line.removeprefix("data:"))
            return found
    raise RuntimeError("the stream ended")


def _until(lines: Iterator[str], done: Callable[[dict[str, str]], bool]) -> None:
    while not done(_next(lines)):
        continue


def meter_rows(bench: MeterBench) -> tuple[str, list[tuple[str, str, str]]]:
    """Return the heading and rows of the table."""
    rows = [
        ("reading to page, p95", f"{bench.instrument_to_page_ms.p95:.1f} ms", f"{TARGET_MS:g} ms"),
        (
            "settled reading to page, p95",
            f"{bench.settled_to_page_ms.p95:.1f} ms",
            f"{TARGET_MS:g} ms",
        ),
        ("touched to settled, p50", f"{bench.touched_to_settled_ms.p50:.0f} ms", ""),
        ("touched to settled, p95", f"{bench.touched_to_settled_ms.p95:.0f} ms", ""),
        ("touches that did not settle", f"{bench.lost} of {bench.touches}", "0"),
    ]
    return "The meter on the page", rows
