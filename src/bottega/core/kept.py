"""What was worked out once and is kept as long as it stays true: bounded, typed, safe under
threads."""

from collections import OrderedDict
from collections.abc import Callable, Hashable
from dataclasses import dataclass, field
from threading import Lock
from typing import Any, Generic, TypeVar

K = TypeVar("K", bound=Hashable)
V = TypeVar("V")


class Kept(Generic[K, V]):
    """The ``most`` values asked for last, by key, as long as they take no more than ``most_bytes``
    together. The key must say everything the value depends on."""

    def __init__(
        self, most: int, most_bytes: int = 0, weigh: Callable[[V], int] = lambda _: 0
    ) -> None:
        """Keep so many values, and so many bytes of them as ``weigh`` says of each."""
        self._most, self._most_bytes, self._weigh = most, most_bytes, weigh
        self._lock = Lock()
        self._values: OrderedDict[K, V] = OrderedDict()
        self._bytes: dict[K, int] = {}
        self._together = 0

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
        weight = self._weigh(made)
        with self._lock:
            if key not in self._values:
                self._values[key], self._bytes[key] = made, weight
                self._together += weight
            kept = self._values[key]
            self._values.move_to_end(key)
            while len(self._values) > 1 and self._too_much():
                oldest, _ = self._values.popitem(last=False)
                self._together -= self._bytes.pop(oldest)
        return kept

    def _too_much(self) -> bool:
        return len(self._values) > self._most or self._together > self._most_bytes

    @property
    def nbytes(self) -> int:
        """Return how many bytes the values take that are kept."""
        return self._together

    def keep(self, key: K, value: V) -> None:
        """Keep a value that was made elsewhere."""
        self.get(key, lambda: value)

    def clear(self) -> None:
        """Let everything go."""
        with self._lock:
            self._values.clear()
            self._bytes.clear()
            self._together = 0

    def __len__(self) -> int:
        return len(self._values)


@dataclass(frozen=True)
class Once:
    """Something that does not change, with what follows from it and from nothing else."""

    _once: dict[Hashable, Any] = field(
        default_factory=dict, init=False, compare=False, repr=False, kw_only=True
    )

    def once(self, what: Hashable, make: Callable[[], V]) -> V:
        """Return what follows, made when it is first asked for. Two threads may make it at once;
        both are given the same."""
        if what not in self._once:
            self._once.setdefault(what, make())
        found: V = self._once[what]
        return found


class Same(Generic[V]):
    """A key that is one object itself, for objects that cannot be compared by what is in them. The
    key holds the object, so that no other can take its place."""

    def __init__(self, of: V) -> None:
        self.of = of

    def __hash__(self) -> int:
        return id(self.of)

    def __eq__(self, other: object) -> bool:
        return isinstance(other, Same) and other.of is self.of
