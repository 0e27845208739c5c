"""What was worked out once and is kept as long as it stays true: bounded, typed, safe under
threads."""

from collections import OrderedDict
from collections.abc import Callable, Hashable
from threading import Lock
from typing import Generic, TypeVar

K = TypeVar("K", bound=Hashable)
V = TypeVar("V")


class Kept(Generic[K, V]):
    """The ``most`` values asked for last, by key. The key must say everything the value depends
    on."""

    def __init__(self, most: int) -> None:
        self._most = most
        self._lock = Lock()
        self._values: OrderedDict[K, V] = OrderedDict()

    def get(self, key: K, make: Callable[[], V]) -> V:
        """Return the value of a key, made now if it is not kept.

        It is made outside the lock, so that a slow one holds nobody up; two threads may make the
        same value, and both get the one that was kept first.
        """
        with self._lock:
            if key in self._values:
                self._values.move_to_end(key)
                return self._values[key]
        made = make()
        with self._lock:
            kept = self._values.setdefault(key, made)
            self._values.move_to_end(key)
            if len(self._values) > self._most:
                self._values.popitem(last=False)
        return kept

    def keep(self, key: K, value: V) -> None:
        """Keep a value that was made elsewhere."""
        self.get(key, lambda: value)

    def clear(self) -> None:
        """Let everything go."""
        with self._lock:
            self._values.clear()

    def __len__(self) -> int:
        return len(self._values)
