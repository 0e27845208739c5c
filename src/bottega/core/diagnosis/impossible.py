"""Evidence that cannot be: the fewest findings that, set aside, leave something that can."""

from collections.abc import Iterable, Iterator
from dataclasses import dataclass, replace
from itertools import combinations

import numpy as np

from bottega.core.diagnosis.evidence import Evidence, Finding, ToldOfEffect
from bottega.core.diagnosis.infer import Belief, ImpossibleEvidence, infer, weighed
from bottega.core.diagnosis.model import DiagnosisModel, Floats, Ints

MOST_OF_AN_EFFECT = 3
"""Findings of one effect that are set aside each by itself; where more would have to go, all of
that effect do. Chosen: beyond it the ways to choose grow out of hand."""
MOST_CHOSEN_AMONG = 10
"""Findings of one effect among which every choice is tried; chosen. Of more, those go that one
state excludes, state by state."""


@dataclass(frozen=True)
class Sense:
    """The sense that evidence makes: the belief, the evidence the belief rests on, and the findings
    set aside because nothing explains them together with the rest."""

    belief: Belief
    evidence: Evidence
    odd: tuple[Finding, ...]


def make_sense(model: DiagnosisModel, prior: Floats, evidence: Evidence) -> Sense:
    """Return the belief by all of the evidence, or by all but the fewest findings where no fault
    set explains everything."""
    try:
        return Sense(infer(model, prior, evidence), evidence, ())
    except ImpossibleEvidence:
        odd = odd_findings(model, prior, evidence)
        rest = replace(evidence, findings=tuple(f for f in evidence.findings if f not in odd))
        return Sense(infer(model, prior, rest), rest, odd)


def odd_findings(model: DiagnosisModel, prior: Floats, evidence: Evidence) -> tuple[Finding, ...]:
    """Return the fewest findings without which some fault set explains the rest; none when one
    explains all. Of equally few, those that leave the likeliest story.

    Effects speak independently of each other once the course of a set is given, so what has to go
    is counted effect by effect, for every course. What comes and goes is taken to act all the time:
    what is possible so is possible when it comes and goes, too.
    """
    known = weighed(model, evidence)
    story = np.log(np.maximum(known.start(prior), 1e-300))
    dropped = np.zeros(len(story))
    ways: list[tuple[list[tuple[Finding, ...]], Ints]] = []
    for effect, told in known.told.items():
        e, chosen = model.effect_index(effect), np.full(len(story), -1)
        size, value = np.zeros(len(story)), np.zeros(len(story))
        kept = list(_without(told))
        for n, (gone, rest) in enumerate(kept):
            if (size[chosen >= 0] < len(gone)).all() and (chosen >= 0).all():
                break
            seen = np.ones(len(story))
            if rest.findings:
                known.course.always(e, rest).into(seen)
            better = (seen > value) & ((chosen < 0) | (size == len(gone)))
            chosen[better], size[better], value[better] = n, len(gone), seen[better]
        dropped += size
        story += np.log(value)
        ways.append(([gone for gone, _ in kept], chosen))
    least = np.flatnonzero(dropped == dropped.min())
    best = int(least[np.argmax(story[least])])
    return tuple(finding for gone, chosen in ways for finding in gone[chosen[best]])


def _without(told: ToldOfEffect) -> Iterator[tuple[tuple[Finding, ...], ToldOfEffect]]:
    """Yield the choices of findings to set aside about one effect, each with the findings that
    stay; the fewest set aside come first, and all of them last."""
    found = told.findings
    if len(found) > MOST_CHOSEN_AMONG:
        choices: Iterable[tuple[Finding, ...]] = _excluded(told)
    else:
        counts = range(min(MOST_OF_AN_EFFECT, len(found) - 1) + 1)
        choices = (gone for count in counts for gone in combinations(found, count))
    for gone in choices:
        away = set(gone)
        yield gone, ToldOfEffect(tuple(f for f in found if f not in away), told.width)
    yield found, ToldOfEffect((), told.width)


def _excluded(told: ToldOfEffect) -> list[tuple[Finding, ...]]:
    """Return the distinct groups of findings that make some state of the effect impossible, the
    smallest first, beginning with no finding; the group of all findings is left out."""
    states = range(len(told.findings[0].likelihood))
    excluded = {tuple(f for f in told.findings if not f.likelihood[k]) for k in states}
    return sorted({(), *excluded} - {told.findings}, key=len)
