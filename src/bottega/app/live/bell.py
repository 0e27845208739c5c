"""Who looks at a job hears at once when something is noted on it."""

import asyncio
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass, field
from threading import Lock


@dataclass(frozen=True)
class Ring:
    """Something was noted on a job: how many events it has now, and who noted the last one."""

    seq: int
    author: str


@dataclass(eq=False)
class Watcher:
    """One open page; waits in its own event loop."""

    loop: asyncio.AbstractEventLoop
    rings: "asyncio.Queue[Ring]" = field(default_factory=asyncio.Queue)

    async def next(self) -> Ring:
        """Wait until something is noted and return the newest ring; older ones that piled up are
        let go."""
        ring = await self.rings.get()
        while not self.rings.empty():
            ring = self.rings.get_nowait()
        return ring


class Bell:
    """Rings for whoever watches a job; may be rung from any thread. One per running application."""

    def __init__(self) -> None:
        self._lock = Lock()
        self._watchers: dict[str, set[Watcher]] = {}

    def ring(self, number: str, seq: int, author: str) -> None:
        """Tell everybody who watches a job that it has ``seq`` events now."""
        with self._lock:
            watchers = list(self._watchers.get(number, ()))
        for watcher in watchers:
            if not watcher.loop.is_closed():
                watcher.loop.call_soon_threadsafe(watcher.rings.put_nowait, Ring(seq, author))

    @contextmanager
    def watch(self, number: str) -> Iterator[Watcher]:
        """Watch a job from inside a running event loop for as long as the block lasts."""
        watcher = Watcher(asyncio.get_running_loop())
        with self._lock:
            self._watchers.setdefault(number, set()).add(watcher)
        try:
            yield watcher
        finally:
            with self._lock:
                self._watchers[number].discard(watcher)
                if not self._watchers[number]:
                    del self._watchers[number]

    def watchers(self, number: str) -> int:
        """Return how many pages watch a job."""
        with self._lock:
            return len(self._watchers.get(number, ()))
