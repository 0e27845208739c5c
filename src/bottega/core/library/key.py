"""Which archetype is it? Tell-tale traits narrow it by probability; the most telling trait is asked
next."""

from collections.abc import Mapping
from dataclasses import dataclass
from math import log2

from bottega.core.library.chances import chance
from bottega.core.library.shelf import Shelf

SURE = 0.97
"""Above this share one archetype is as good as known."""


@dataclass(frozen=True)
class Question:
    """A trait that could be looked for next, and the bits it is expected to tell."""

    trait: str
    name: str
    bits: float


@dataclass(frozen=True)
class Narrowed:
    """The archetypes by probability (summing to one), and the traits still worth looking for, best
    first."""

    archetypes: tuple[tuple[str, float], ...]
    questions: tuple[Question, ...]

    @property
    def sure(self) -> bool:
        """Return whether one archetype is as good as known."""
        return self.archetypes[0][1] >= SURE


class UnknownTrait(ValueError):
    """A trait that is not in the table."""


def narrow(shelf: Shelf, seen: Mapping[str, bool]) -> Narrowed:
    """Return what the machine may be after the traits seen (True) or found missing (False). Raises
    UnknownTrait.

    All archetypes are equally likely to begin with; a trait is mistaken with the chance of a slip
    given in the table. Questions are ordered by expected information (Shannon 1948) per minute of
    looking.
    """
    table = shelf.tables.traits
    for trait in seen:
        if trait not in table.traits:
            raise UnknownTrait(
                f"found the trait '{trait}', expected one of {', '.join(table.traits)}"
            )
    weight = dict.fromkeys(shelf.archetypes, 1.0)
    for trait, present in seen.items():
        for name in weight:
            p = _seen_chance(shelf, name, trait)
            weight[name] *= p if present else 1 - p
    total = sum(weight.values())
    belief = {name: value / total for name, value in weight.items()}
    asked = [
        Question(trait, record.name, _told(shelf, belief, trait))
        for trait, record in table.traits.items()
        if trait not in seen
    ]
    asked.sort(key=lambda question: -question.bits / (0.5 + table.traits[question.trait].minutes))
    ranked = tuple(sorted(belief.items(), key=lambda item: (-item[1], item[0])))
    return Narrowed(ranked, tuple(question for question in asked if question.bits > 0.01))


def _seen_chance(shelf: Shelf, archetype: str, trait: str) -> float:
    """Return P(the trait is seen | archetype), with slips."""
    slip = shelf.tables.traits.slip
    shown = chance(shelf.archetypes[archetype].traits.get(trait, 0.5), shelf.tables.words)
    return shown * (1 - slip) + (1 - shown) * slip


def _told(shelf: Shelf, belief: Mapping[str, float], trait: str) -> float:
    """Return the expected information in bits of looking for a trait."""
    p = sum(share * _seen_chance(shelf, name, trait) for name, share in belief.items())
    given = sum(
        share * _entropy(_seen_chance(shelf, name, trait)) for name, share in belief.items()
    )
    return _entropy(p) - given


def _entropy(p: float) -> float:
    return 0.0 if p in (0.0, 1.0) else -p * log2(p) - (1 - p) * log2(1 - p)
