"""Errors of the machine library: each says where, what was found, and what was expected."""

from collections.abc import Iterable
from dataclasses import dataclass


@dataclass(frozen=True)
class Problem:
    """One thing wrong in a library file: where it stands, what was found, and what was expected."""

    file: str
    line: int
    key: str
    found: str
    expected: str

    def __str__(self) -> str:
        place = f"{self.file}:{self.line}" if self.line else self.file
        return f"{place} {self.key or '(file)'}: found {self.found}, expected {self.expected}"


class LibraryError(Exception):
    """A library file that cannot be used. Carries every problem found, in file order."""

    def __init__(self, problems: list[Problem]) -> None:
        self.problems = problems
        super().__init__("\n".join(str(problem) for problem in problems))

    @classmethod
    def one(cls, file: str, line: int, key: str, found: str, expected: str) -> "LibraryError":
        """Make an error with a single problem."""
        return cls([Problem(file, line, key, found, expected)])

    @classmethod
    def of_chance(cls, where: str, key: str, error: ValueError) -> "LibraryError":
        """Return the error of a chance that cannot be read, at a key of a layer."""
        found, _, expected = str(error).partition(", expected ")
        return cls.one(f"{where}.yaml", 0, key, found.removeprefix("found "), expected)


def misfit(where: str, key: str, found: str, expected: str) -> LibraryError:
    """Return the error of something in a layer that does not fit the others."""
    return LibraryError.one(f"{where}.yaml", 0, key, f"'{found}'", expected)


def one_of(names: Iterable[str]) -> str:
    """Return what was expected when it is one of some names."""
    return "one of " + ", ".join(names)
