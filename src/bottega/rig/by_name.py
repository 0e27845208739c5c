"""Figures that are fields, and can be asked for by a name that is put together of a load's and a
figure's."""

from collections.abc import Iterator, Mapping
from dataclasses import fields, replace
from typing import Self


class ByName:
    """What values of a machine can do beside being fields. A name nobody knows is an
    AttributeError."""

    __slots__ = ()

    def __getitem__(self, name: str) -> float:
        found: float = getattr(self, name)
        return found

    def __setitem__(self, name: str, value: float) -> None:
        setattr(self, name, value)

    def __contains__(self, name: str) -> bool:
        return hasattr(self, name)

    def keys(self) -> Iterator[str]:
        """Yield the names of the fields."""
        return (field.name for field in fields(self))  # type: ignore[arg-type]  # a dataclass

    def update(self, other: "Mapping[str, float] | ByName") -> None:
        """Put other figures in place of these, in place."""
        names = other.keys()
        for name in names:
            setattr(self, name, other[name])

    def but(self, **figures: float) -> Self:
        """Return the same with some figures otherwise."""
        return replace(self, **figures)  # type: ignore[type-var]  # a dataclass
