"""How far the library's own figures are to be believed: by grade, what a weight or a likelihood
comes to with its doubt in it.

A set's weight is a product in which every rate and every likelihood of a fault stands once at
most, so that its mean over independent doubts is the weight of the means: with doubts of their
own, figures need no more than to be replaced by their means. Source: linearity of the expected
value; Spiegelhalter and Lauritzen 1990 for chances that are themselves in doubt.
"""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from math import cosh

import numpy as np
from pydantic import Field

from bottega.core.library.records import Chance, Grade, Graded, Record, Weight

SUREST = ("physics", "standard", "measured", "sheet", "remembered", "guessed")
"""Grades, the surest first."""


class Doubt(Record):
    """How far figures of one grade are off: ``words`` is the share of likelihoods that are one word
    off, either way alike, ``rate`` how far the logarithm of a rate is, up or down."""

    words: float = Field(ge=0, le=1)
    rate: float = Field(ge=0, le=2)


@dataclass(frozen=True)
class Doubts:
    """The doubt of every grade, and the ladder of likelihood words it is counted on."""

    grades: Mapping[Grade, Doubt]
    ladder: tuple[float, ...]

    def of_rate(self, rate: float, grade: Grade) -> float:
        """Return a rate with its doubt in it: the mean of it times and over exp(doubt)."""
        return rate * cosh(self.grades[grade].rate)

    def of_chances(self, stated: Sequence[float], grade: Grade) -> tuple[float, ...]:
        """Return a distribution, the normal state first, with its doubt in it: the mean over those
        a word off. The chance that it is not normal moves, the other states share it as before."""
        bad, share = 1 - stated[0], self.grades[grade].words
        if not 0 < bad < 1 or not share:
            return tuple(stated)
        return moved(stated, (1 - share) * bad + share * sum(self.beside(bad)) / 2)

    def beside(self, chance: float) -> tuple[float, float]:
        """Return what a chance is where it is a word less, and a word more; numbers between two
        words go with them, the last words stay where the ladder ends."""
        steps = (0.0, *self.ladder, 1.0)
        down = (0.0, self.ladder[0], *self.ladder[:-1], 1.0)
        up = (0.0, *self.ladder[1:], self.ladder[-1], 1.0)
        return float(np.interp(chance, steps, down)), float(np.interp(chance, steps, up))


def moved(stated: Sequence[float], bad: float) -> tuple[float, ...]:
    """Return a distribution whose states that are not normal have the chance ``bad`` together,
    shared as in the one that was ``stated``."""
    share = bad / (1 - stated[0])
    return (1 - bad, *(p * share for p in stated[1:]))


def grade_of(figure: Chance | Weight) -> Grade:
    """Return how sure a figure is; one that does not say is guessed."""
    return figure.grade if isinstance(figure, Graded) else "guessed"


def least_sure(figures: Iterable[Chance]) -> Grade:
    """Return the grade of the least sure of some figures; of none it is sure."""
    return max((grade_of(figure) for figure in figures), key=SUREST.index, default="physics")
