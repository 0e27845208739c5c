"""Answers of the engine's functions that may be asked again: the last few of each function."""

from collections.abc import Callable, Hashable
from functools import wraps
from threading import Lock
from typing import Any, Concatenate, ParamSpec, Protocol, TypeVar

from bottega.core.kept import Kept

P = ParamSpec("P")
R = TypeVar("R")


class KeptAnswers:
    """For each function the answers asked for last. Safe under threads."""

    def __init__(self) -> None:
        self._lock = Lock()
        self._by_function: dict[str, Kept[Hashable, Any]] = {}

    def of(self, function: str, most: int) -> Kept[Hashable, Any]:
        """Return the answers of a function, by its name; ``most`` of them are kept."""
        kept = self._by_function.get(function)
        if kept is None:
            with self._lock:
                kept = self._by_function.setdefault(function, Kept(most))
        return kept

    def clear(self) -> None:
        """Let every answer go."""
        with self._lock:
            self._by_function.clear()

    def counts(self) -> dict[str, int]:
        """Return by function how many answers are kept."""
        with self._lock:
            return {name: len(kept) for name, kept in self._by_function.items()}


class KeepsAnswers(Protocol):
    """What answers are kept with: hashable, and the same question asked of it has the same
    answer."""

    @property
    def answers(self) -> KeptAnswers:
        """The answers kept."""


M = TypeVar("M", bound=KeepsAnswers)


def kept(
    most: int,
) -> Callable[[Callable[Concatenate[M, P], R]], Callable[Concatenate[M, P], R]]:
    """Keep the last ``most`` answers of a function, with what it is asked of: its first argument.

    Every argument is part of the question, so each has to be hashable. What is answered is shared
    by all who ask, and not to be written into.
    """

    def keeping(function: Callable[Concatenate[M, P], R]) -> Callable[Concatenate[M, P], R]:
        name = f"{function.__module__}.{function.__qualname__}"

        @wraps(function)
        def asked(of: M, /, *question: P.args, **named: P.kwargs) -> R:
            known = of.answers.of(name, most)
            key = (of, question, tuple(sorted(named.items())))
            answer: R = known.get(key, lambda: function(of, *question, **named))
            return answer

        return asked

    return keeping
