"""Which machine is it? Tell-tale traits narrow down the kind, and then the models of its platforms,
by probability; the most telling trait is asked next."""

from collections.abc import Mapping
from dataclasses import dataclass
from math import log2

from bottega.core.library.chances import chance
from bottega.core.library.shelf import Shelf

SURE = 0.97
"""Above this share one archetype is as good as known."""
SETTLED = 0.9
"""Above this share one model is, or that it is none a sheet is typed in for; chosen, lower, since
few traits tell models apart."""
LEAST_TRAIT_BITS = 0.01
"""A trait that tells fewer bits is not worth looking for; chosen."""
UNTYPED = 0.5
"""Share of the machines of a kind that no sheet is typed in for; chosen, half of what comes in."""


@dataclass(frozen=True)
class Question:
    """A trait that could be looked for next, and the bits it is expected to tell."""

    trait: str
    name: str
    bits: float


@dataclass(frozen=True)
class Narrowed:
    """The archetypes by probability (summing to one), the sheets by theirs (what is left are
    machines without one), and the traits still worth looking for, best first."""

    archetypes: tuple[tuple[str, float], ...]
    sheets: tuple[tuple[str, float], ...]
    questions: tuple[Question, ...]

    @property
    def sure(self) -> bool:
        """Return whether one archetype is as good as known."""
        return self.archetypes[0][1] >= SURE

    @property
    def settled(self) -> bool:
        """Return whether the kind is known, and its sheet or that there is none."""
        shares = [share for _, share in self.sheets]
        return self.sure and max([1 - sum(shares), *shares]) >= SETTLED


class UnknownTrait(ValueError):
    """A trait that is not in the table."""


Model = tuple[str, str | None]
"""An archetype, and a sheet of it or none."""


def narrow(shelf: Shelf, seen: Mapping[str, bool]) -> Narrowed:
    """Return what the machine may be after the traits seen (True) or found missing (False). Raises
    UnknownTrait.

    All archetypes are equally likely to begin with, and so are all sheets of one; a trait is
    mistaken with the chance of a slip given in the table. Questions are ordered by expected
    information (Shannon 1948) per minute of looking; those of a platform come once the kind
    is known, or no trait tells more of it.
    """
    table = shelf.tables.traits
    for trait in seen:
        if trait not in table.traits:
            raise UnknownTrait(
                f"found the trait '{trait}', expected one of {', '.join(table.traits)}"
            )
    weight = _models(shelf)
    for trait, present in seen.items():
        for model in weight:
            p = _seen_chance(shelf, model, trait)
            weight[model] *= p if present else 1 - p
    total = sum(weight.values())
    belief = {model: value / total for model, value in weight.items()}
    kinds = dict.fromkeys(shelf.archetypes, 0.0)
    for (archetype, _), share in belief.items():
        kinds[archetype] += share
    asked = [
        Question(trait, record.name, _told(shelf, belief, trait))
        for trait, record in table.traits.items()
        if trait not in seen
    ]
    asked = [question for question in asked if question.bits > LEAST_TRAIT_BITS]
    of_kind = [question for question in asked if not table.traits[question.trait].platform]
    if of_kind and max(kinds.values()) < SURE:
        asked = of_kind
    asked.sort(key=lambda question: -question.bits / (0.5 + table.traits[question.trait].minutes))
    sheets = {sheet: share for (_, sheet), share in belief.items() if sheet is not None}
    return Narrowed(_ranked(kinds), _ranked(sheets), tuple(asked))


def _models(shelf: Shelf) -> dict[Model, float]:
    """Return every archetype alone and every sheet with its share to begin with."""
    shares: dict[Model, float] = {}
    for archetype in shelf.archetypes:
        own = [name for name, sheet in shelf.sheets.items() if sheet.archetype == archetype]
        shares[archetype, None] = UNTYPED if own else 1.0
        shares |= {(archetype, name): (1 - UNTYPED) / len(own) for name in own}
    return shares


def _ranked(shares: Mapping[str, float]) -> tuple[tuple[str, float], ...]:
    return tuple(sorted(shares.items(), key=lambda item: (-item[1], item[0])))


def _seen_chance(shelf: Shelf, model: Model, trait: str) -> float:
    """Return P(the trait is seen | model), with slips; even where nobody has said."""
    archetype, sheet = model
    said = shelf.archetypes[archetype].traits
    if sheet is not None:
        said = {**said, **shelf.sheet(sheet).traits}
    slip = shelf.tables.traits.slip
    shown = chance(said.get(trait, 0.5), shelf.tables.words)
    return shown * (1 - slip) + (1 - shown) * slip


def _told(shelf: Shelf, belief: Mapping[Model, float], trait: str) -> float:
    """Return the expected information in bits of looking for a trait."""
    given = {model: _seen_chance(shelf, model, trait) for model in belief}
    p = sum(share * given[model] for model, share in belief.items())
    return _entropy(p) - sum(share * _entropy(given[model]) for model, share in belief.items())


def _entropy(p: float) -> float:
    return 0.0 if p in (0.0, 1.0) else -p * log2(p) - (1 - p) * log2(1 - p)
