"""The real application, with a clock that goes on twelve minutes with every entry: so every stored
charge was waited for, and no test has to wait. ``python -m tests.e2e.shop demo`` runs it."""

from datetime import datetime, timedelta
from typing import Any

from bottega.app.job import record
from bottega.app.workshop import Workshop
from bottega.cli import app

ahead = timedelta()
real_now, real_event = Workshop.now, record.new_event


def now(workshop: Workshop) -> datetime:
    return real_now(workshop) + ahead


def new_event(*args: Any) -> Any:
    global ahead
    ahead += timedelta(minutes=12)
    return real_event(*args)


if __name__ == "__main__":
    Workshop.now = now  # type: ignore[method-assign]
    record.new_event = new_event
    app()
