"""A shop served on a socket of this computer, as the application's own command serves it. Its clock
goes on twelve minutes with every form: every stored charge was waited for, and no test has to
wait."""

import logging
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import UTC, datetime, timedelta
from pathlib import Path
from threading import Event, Thread

from starlette.types import ASGIApp, Receive, Scope, Send
from tests.engine import ENGINE
from uvicorn import Config, Server

from bottega.app.rig.bench_meter import start_bench_meter
from bottega.app.workshop import open_workshop
from bottega.web.application import create_app

A_FORM_LATER = timedelta(minutes=12)
OF_JOBS = ("/jobs/", "/call")
GRACE_S = 1


class Forward:
    """An application and the clock of its shop: with each form of a job the clock goes on."""

    def __init__(self) -> None:
        self.ahead = timedelta()
        self.app: ASGIApp | None = None

    def now(self) -> datetime:
        return datetime.now(UTC) + self.ahead

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        assert self.app is not None
        sent = scope["type"] == "http" and scope["method"] == "POST"
        if sent and scope["path"].startswith(OF_JOBS):
            self.ahead += A_FORM_LATER
        await self.app(scope, receive, send)


class Fallen(logging.Handler):
    """Errors of the server with their cause."""

    def __init__(self) -> None:
        super().__init__(logging.ERROR)
        self.told: list[str] = []

    def emit(self, record: logging.LogRecord) -> None:
        if record.exc_info:
            self.told.append(f"{record.getMessage()}: {record.exc_info[1]!r}")


class Served(Server):
    """A server that says when it answers."""

    def __init__(self, config: Config) -> None:
        super().__init__(config)
        self.answers = Event()

    async def startup(self, *args: object, **named: object) -> None:
        await super().startup(*args, **named)  # type: ignore[arg-type]
        self.answers.set()


@contextmanager
def served(folder: Path, meter: bool = False) -> Iterator[str]:
    """Serve the shop of a data folder for as long as the block lasts, and give its address; with a
    stand-in for a meter where one is asked for. At the end nothing may have fallen."""
    forward, fallen = Forward(), Fallen()
    workshop = open_workshop(folder, forward.now)
    workshop.engine, forward.app = ENGINE, create_app(workshop)
    stand_in = start_bench_meter(workshop) if meter else None
    config = Config(
        forward,
        port=0,
        log_config=None,
        server_header=False,
        timeout_graceful_shutdown=GRACE_S,
    )
    server, socket = Served(config), config.bind_socket()
    thread = Thread(target=server.run, args=([socket],), daemon=True)
    logging.getLogger().addHandler(fallen)
    try:
        thread.start()
        assert server.answers.wait(60)
        yield f"http://127.0.0.1:{socket.getsockname()[1]}"
    finally:
        server.should_exit = True
        thread.join()
        if stand_in:
            stand_in.stop()
        socket.close()
        workshop.close()
        logging.getLogger().removeHandler(fallen)
    assert fallen.told == []
