"""What requests may take, counted in one place: how many wait at once, how long one takes, how much
memory all of them do."""

import logging
import os
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from time import perf_counter

from bottega.app.errors import AppError
from bottega.app.workshop import Workshop

logger = logging.getLogger(__name__)
MOST_WAITING = 200
"""Requests that are answered or wait for that at once; chosen, a hundred people's, twice over."""
MOST_S = 2.0
"""How long an answer may take before it is written down with its address; as the design asks."""
MOST_MEMORY_BYTES = 550_000_000
"""Memory of the process from which on what was worked out is let go; chosen, below what the bench
allows."""
LOOKED_EVERY = 16
"""Answers between two looks at the memory; chosen, so many cannot fill what is left."""
STEP_BYTES = 150_000_000
"""What is let come again before it is let go again: a process seldom gives memory back; chosen, all
that is kept."""
STATM = Path("/proc/self/statm")
"""Where Linux says how much memory a process has; elsewhere that is not watched."""


class Busy(AppError):
    """Too many requests wait."""

    status = 503
    title = "Too much at once"


class Budget:
    """Counts the requests that are being answered; used from the event loop alone."""

    def __init__(self, workshop: Workshop) -> None:
        self.waiting = 0
        self.slow = 0
        """Answers that took longer than they may."""
        self._answers = 0
        self._workshop = workshop
        self._most_bytes = max(MOST_MEMORY_BYTES, memory_bytes() + STEP_BYTES)

    @contextmanager
    def one(self, what: str) -> Iterator[None]:
        """Count one request for as long as it takes to answer it. Raises Busy."""
        if self.waiting >= MOST_WAITING:
            raise Busy(
                f"{self.waiting} requests wait already, expected at most {MOST_WAITING}. Nothing "
                "of this one was written; send it again in a moment."
            )
        self.waiting += 1
        begun = perf_counter()
        try:
            yield
        finally:
            self.waiting -= 1
            self._look(what, perf_counter() - begun)

    def _look(self, what: str, taken_s: float) -> None:
        if taken_s > MOST_S:
            self.slow += 1
            logger.warning("slow: %s took %.1f s, expected at most %g", what, taken_s, MOST_S)
        self._answers += 1
        if self._answers % LOOKED_EVERY == 0 and memory_bytes() > self._most_bytes:
            logger.warning(
                "memory: more than %d MB; what was worked out goes", self._most_bytes // 10**6
            )
            self._workshop.forget()
            self._most_bytes = memory_bytes() + STEP_BYTES


def memory_bytes() -> int:
    """Return how much memory the process has; nought where nobody says."""
    try:
        pages = int(STATM.read_text("ascii").split()[1])
    except (OSError, ValueError, IndexError):
        return 0
    return pages * os.sysconf("SC_PAGE_SIZE")
