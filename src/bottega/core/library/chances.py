"""Turn the short notation of chances into full distributions over the states of an effect."""

from collections.abc import Callable, Mapping, Sequence
from typing import ParamSpec, TypeVar

from bottega.core.library.errors import LibraryError
from bottega.core.library.records import Chance, GradedChance

P = ParamSpec("P")
T = TypeVar("T")


class ChanceError(ValueError):
    """A chance that cannot be read; says what was found and what was expected."""


def chance(value: Chance, words: Mapping[str, float]) -> float:
    """Return a chance in 0..1 from a number or a likelihood word, graded or not. Raises ChanceError
    for an unknown word."""
    if isinstance(value, GradedChance):
        value = value.value
    if isinstance(value, str):
        if value not in words:
            raise ChanceError(f"found the word '{value}', expected one of {', '.join(words)}")
        return words[value]
    return float(value)


def over_states(
    spec: Mapping[str, Chance] | Chance, states: Sequence[str], words: Mapping[str, float]
) -> tuple[float, ...]:
    """Return a distribution over ``states``, in order. What is missing to one belongs to the first,
    normal state.

    ``spec`` is a mapping of states to chances, the name of one state (which then holds always), or
    one number that is spread evenly over the states that are not normal. Raises ChanceError.
    """
    if isinstance(spec, (int, float, GradedChance)):
        bad = chance(spec, words)
        return (1 - bad, *([bad / (len(states) - 1)] * (len(states) - 1)))
    if isinstance(spec, str):
        spec = {spec: "always"}
    for state in spec:
        if state not in states:
            raise ChanceError(f"found the state '{state}', expected one of {', '.join(states)}")
    rest = [chance(spec[state], words) if state in spec else 0.0 for state in states[1:]]
    if sum(rest) > 1 + 1e-9:
        raise ChanceError(f"found chances that sum to {sum(rest):.2f}, expected at most 1")
    return (max(0.0, 1 - sum(rest)), *rest)


def per_state(
    spec: Mapping[str, Chance],
    states: Sequence[str],
    words: Mapping[str, float],
    otherwise: float,
) -> tuple[float, ...]:
    """Return P(reported | state) for each state; states not named get ``otherwise``. Raises
    ChanceError."""
    for state in spec:
        if state not in states:
            raise ChanceError(f"found the state '{state}', expected one of {', '.join(states)}")
    return tuple(chance(spec[state], words) if state in spec else otherwise for state in states)


def outcome_table(
    reported: Sequence[int], n_states: int, reliability: float
) -> list[tuple[float, ...]]:
    """Return P(outcome | state) as one row per outcome, from the state each outcome reports and one
    reliability.

    ``reported[o]`` is the index of the state outcome o reports. A state that no outcome reports
    reads as its nearest reported one (the more normal of two). What reliability leaves spreads over
    the other outcomes, near ones first.
    """
    table = [[0.0] * n_states for _ in reported]
    for state in range(n_states):
        distance = [abs(state - r) + (0.1 if r > state else 0.0) for r in reported]
        nearest = min(distance)
        best = [o for o, d in enumerate(distance) if d == nearest]
        others = [o for o in range(len(reported)) if o not in best]
        weight = {o: 1 / distance[o] for o in others}
        total = sum(weight.values())
        for o in best:
            table[o][state] = (reliability if others else 1.0) / len(best)
        for o in others:
            table[o][state] = (1 - reliability) * weight[o] / total
    return [tuple(row) for row in table]


def placed(where: str, key: str, read: Callable[P, T], *args: P.args, **named: P.kwargs) -> T:
    """Return the chances that ``read`` returns for its arguments; an error of theirs becomes one of
    the library that names the file and the key. Raises LibraryError."""
    try:
        return read(*args, **named)
    except ChanceError as error:
        raise LibraryError.of_chance(where, key, error) from error
