"""Evidence: what was found, as likelihoods over the states of effects, and what was put right in
between."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from typing import Literal, NamedTuple

import numpy as np

from bottega.core.diagnosis.model import DiagnosisModel, Floats, Ints
from bottega.core.library.machine_type import Check, Code, Complaint, Mark
from bottega.core.library.tables import EngineTable, MarkTable

SAID_REPEATABILITY = 0.95
"""Chance that a phrase said again is the same thing meant again; chosen, because a customer repeats
the story."""


Look = Literal["complained of", "in turn", "by the way"]
"""Why a watched run looks at a function: it was complained of, each is looked at in its turn, or
neither."""


NOT_MENTIONED = "not mentioned"
"""How it is answered that the customer is silent on a thing."""


class Source(NamedTuple):
    """Where a finding comes from: the kind of thing, and its id in the library (empty for the panel
    as a whole)."""

    kind: Literal["check", "says", "code", "mark", "run", "panel", "calibration"]
    subject: str = ""


@dataclass(frozen=True, order=True)
class Occasion:
    """A time at which what comes and goes was there or was not: a run, a bout of tests, all the
    runs a customer tells of.

    ``number`` tells occasions of one ``kind`` apart: those seen at the machine, those a customer
    tells of, by the epoch, and the next one, which is still to come. Over ``many`` runs every fault
    acted in one at least. ``provokes`` are the faults made likelier to act, each with the chance
    that it then does.
    """

    number: int = 0
    many: bool = False
    provokes: tuple[tuple[str, float], ...] = ()
    kind: Literal["seen", "told", "to come"] = "seen"

    def begun(self, number: int) -> "Occasion":
        """Return the occasion once it has come, as one seen at the machine."""
        return replace(self, number=number, kind="seen")


def told_to_us(epoch: int) -> Occasion:
    """Return the occasion a customer tells of, who has used the machine since the last repair."""
    return Occasion(epoch, many=True, kind="told")


PAST = told_to_us(0)
"""All that was before the call: what the customer tells, and what the memory kept of it."""
FRESH = Occasion(kind="to come")
"""The next occasion: the machine has to be plugged in for it first."""


@dataclass(frozen=True)
class Finding:
    """One thing found. ``likelihood[k]`` is P(this was found | state k of the effect).

    ``event`` is the id of the entry it was found by; one entry may hold several. ``epoch`` counts
    the repairs made before. Findings of one source under the same ``conditions`` repeat each other;
    ``answer`` tells equal answers apart from different ones. ``unchanged_since`` is the epoch since
    which nothing was done to what the finding depends on, its own if None, and ``renewed`` counts
    how often the conditions were made new within an epoch: a memory cleared, a caller called back.
    """

    event: str
    source: Source
    effect: str
    answer: str
    likelihood: tuple[float, ...]
    repeatability: float
    epoch: int = 0
    unchanged_since: int | None = None
    renewed: int = 0
    occasion: Occasion = PAST

    @cached_property
    def _hash(self) -> int:
        return hash((self.event, self.source, self.effect, self.answer, self.epoch, self.occasion))

    def __hash__(self) -> int:
        """Return the hash, worked out once: much that is kept is kept by findings."""
        return self._hash

    def on(self, occasion: Occasion) -> "Finding":
        """Return this finding as found on another occasion."""
        return replace(self, occasion=occasion)

    def on_same(self, other: "Finding") -> bool:
        """Return whether this finding and another were made on one occasion."""
        return (self.epoch, self.occasion) == (other.epoch, other.occasion)

    @property
    def is_well(self) -> bool:
        """Return whether the finding speaks for no state more than for the normal one."""
        return self.likelihood[0] >= max(self.likelihood)

    @property
    def conditions(self) -> tuple[int, int]:
        """Return the pair that names the conditions of a finding: the epoch since which the part is
        unchanged, and how often the conditions were renewed."""
        if self.renewed:
            return (0, self.renewed)
        return (self.epoch if self.unchanged_since is None else self.unchanged_since, 0)


@dataclass(frozen=True)
class Removal:
    """A repair between two epochs: it ended ``faults`` with the chance ``success`` (0..1)."""

    after_epoch: int
    faults: frozenset[str]
    success: float


@dataclass(frozen=True)
class Evidence:
    """All findings and removals, in any order; ``present`` is the occasion the machine is looked at
    on now."""

    findings: tuple[Finding, ...] = ()
    removals: tuple[Removal, ...] = ()
    present: Occasion = Occasion(1)

    @cached_property
    def _hash(self) -> int:
        return hash((self.findings, self.removals, self.present))

    def __hash__(self) -> int:
        """Return the hash of all of it, worked out once: much that is kept is kept by evidence."""
        return self._hash

    def without(self, finding: Finding) -> "Evidence":
        """Return the evidence as if this finding had never been seen."""
        return replace(self, findings=tuple(f for f in self.findings if f is not finding))

    @property
    def checks(self) -> int:
        """Return how many checks were made at the machine, repeats too; questions are none."""
        made = (f for f in self.findings if f.source.kind == "check" and not f.occasion.many)
        return len({finding.event for finding in made})

    @property
    def spoken_of(self) -> frozenset[str]:
        """Return the effects that the customer has spoken of in a complaint: that something is
        wrong with them, or that it is not."""
        said = (f for f in self.findings if f.source.kind == "says" and f.answer != NOT_MENTIONED)
        return frozenset(finding.effect for finding in said)

    @property
    def just_ran(self) -> bool:
        """Return whether the last finding is a run that showed nothing bad."""
        last = self.findings[-1] if self.findings else None
        if last is None or last.source.kind != "run":
            return False
        run = (f for f in self.findings if f.source.kind == "run" and f.occasion == last.occasion)
        return all(finding.answer == "well" for finding in run)

    @property
    def fails(self) -> bool:
        """Return whether the last run since the last repair showed a bad effect."""
        runs = [f for f in self.findings if f.source.kind == "run" and f.epoch == self.epoch]
        return any(f.answer != "well" and f.occasion == runs[-1].occasion for f in runs)

    @property
    def keeps_failing(self) -> bool:
        """Return whether something was seen to be bad in two runs since the last repair, with no
        check in between that looked at it and found it in order."""
        here = [f for f in self.findings if f.epoch == self.epoch]
        well: dict[str, int] = {}
        for f in here:
            if f.source.kind == "check" and f.is_well and not f.occasion.many:
                well[f.effect] = max(f.occasion.number, well.get(f.effect, f.occasion.number))
        bad = {
            (f.effect, f.occasion)
            for f in here
            if f.source.kind == "run" and f.answer != "well"
            if f.occasion.number >= well.get(f.effect, f.occasion.number)
        }
        return len(bad) > len({effect for effect, _ in bad})

    @property
    def epoch(self) -> int:
        """Return the present epoch: the number of removals."""
        return len(self.removals)


def answered(
    event: str,
    check: Check,
    outcome: str,
    epoch: int,
    *,
    weights: dict[str, float] | None = None,
    unchanged_since: int | None = None,
) -> Finding:
    """Return the finding of a check's outcome. ``weights`` spreads a borderline reading over
    outcomes (sums to 1); ``unchanged_since`` is the epoch in which its part was last worked on."""
    spread = weights or {outcome: 1.0}
    rows = {o.id: np.array(o.chances) for o in check.outcomes}
    likelihood = sum(
        (share * rows[name] for name, share in spread.items()),
        np.zeros(len(check.outcomes[0].chances)),
    )
    source = Source("check", check.id)
    return Finding(
        event,
        source,
        check.effect,
        outcome,
        tuple(likelihood.tolist()),
        check.repeatability,
        epoch,
        unchanged_since,
    )


def said(event: str, complaint: Complaint, epoch: int) -> Finding:
    """Return the finding that the customer said this."""
    source = Source("says", complaint.id)
    return Finding(
        event, source, complaint.effect, "said", complaint.said, SAID_REPEATABILITY, epoch
    )


def denied(event: str, complaint: Complaint, epoch: int) -> Finding:
    """Return the finding that the customer says it is not so: what would have been said of a state
    is not."""
    source = Source("says", complaint.id)
    chances = tuple(1 - p for p in complaint.said)
    return Finding(event, source, complaint.effect, "not so", chances, SAID_REPEATABILITY, epoch)


def not_said(event: str, complaint: Complaint, epoch: int) -> Finding:
    """Return the weak finding that the customer did not mention what could hardly have been
    missed."""
    silent = tuple(1 - complaint.record.hard_to_miss * p for p in complaint.said)
    source = Source("says", complaint.id)
    return Finding(
        event, source, complaint.effect, NOT_MENTIONED, silent, SAID_REPEATABILITY, epoch
    )


def read_code(
    event: str,
    code: Code,
    stored: bool,
    epoch: int,
    *,
    repeatability: float,
    stale: float | None = None,
    clears: int = 0,
) -> Finding:
    """Return the finding that a code was, or was not, stored. ``stale``, where given, is the chance
    of the code when nothing is wrong. A code read after the last of so many ``clears`` was
    stored anew, and repeats no reading from before that clear."""
    chances = [p if stale is None or p > code.record.stale else stale for p in code.stored]
    likelihood = tuple(p if stored else 1 - p for p in chances)
    answer = "stored" if stored else "not stored"
    source = Source("code", code.id)
    found = Finding(event, source, code.effect, answer, likelihood, repeatability, epoch)
    return replace(found, renewed=clears)


def seen_at(
    event: str, mark: Mark, age: str, phase: str, *, epoch: int, table: MarkTable
) -> Finding:
    """Return the finding that a mark was seen: a live one speaks louder than an old trail, and one
    that shows itself in another phase than it should speaks more softly."""
    fresh = table.ages[age]
    asked = mark.record.phases
    share = 1.0 if not asked or phase in (*asked, "any") else table.elsewhen
    shows = fresh.otherwise + share * (fresh.shows - fresh.otherwise)
    likelihood = tuple(shows if k == mark.shows else fresh.otherwise for k in range(mark.states))
    source = Source("mark", mark.id)
    return Finding(event, source, mark.effect, age, likelihood, table.repeatability, epoch)


def watched(
    event: str,
    effect: str,
    states: int,
    bad: bool,
    *,
    epoch: int,
    engine: EngineTable,
    look: Look = "complained of",
) -> Finding:
    """Return the finding of a watched run about one effect with so many states: bad, or not. A run
    may miss a bad effect, the more easily where nobody looked for it, and may be called bad
    where the effect is in order."""
    again = shows_badly(states, look, engine)
    return Finding(
        event,
        Source("run", effect),
        effect,
        "badly" if bad else "well",
        again if bad else tuple(1 - p for p in again),
        engine.run_repeatability,
        epoch,
    )


def shows_badly(states: int, look: Look, engine: EngineTable) -> tuple[float, ...]:
    """Return the chance that a watched run is said to show each of so many states of an effect as
    bad; the first is the good one."""
    misses = engine.run_overlooks if look == "by the way" else engine.run_misses
    alarm = engine.run_false_alarms if look == "complained of" else engine.run_false_notices
    return (alarm, *([1 - misses] * (states - 1)))


@dataclass(frozen=True)
class ToldOfEffect:
    """The findings about one effect over all epochs; their likelihoods have ``width`` states."""

    findings: tuple[Finding, ...]
    width: int

    @cached_property
    def last(self) -> int:
        """Return the last epoch that has a finding."""
        return max(finding.epoch for finding in self.findings)

    @cached_property
    def likelihood(self) -> Floats:
        """Return P(everything found | state), shape (K,)."""
        return self.within(0, self.last)

    @cached_property
    def over_many(self) -> tuple["ToldOfEffect", ...]:
        """Return the findings that speak of many runs, by epoch and occasion."""
        groups: dict[tuple[int, Occasion], list[Finding]] = {}
        for finding in self.findings:
            if finding.occasion.many:
                groups.setdefault((finding.epoch, finding.occasion), []).append(finding)
        return tuple(
            ToldOfEffect(tuple(members), self.width) for _, members in sorted(groups.items())
        )

    def without(self, finding: Finding) -> "ToldOfEffect":
        """Return the same as if this finding had never been seen."""
        return ToldOfEffect(tuple(f for f in self.findings if f is not finding), self.width)

    def within(self, first: int, last: int) -> Floats:
        """Return P(everything found from epoch ``first`` to ``last`` | state), shape (K,).

        Findings of one source under the same conditions repeat each other.
        """
        groups: dict[tuple[Source, tuple[int, int]], list[Finding]] = {}
        for finding in self.findings:
            if first <= finding.epoch <= last:
                groups.setdefault((finding.source, finding.conditions), []).append(finding)
        joint = [1.0] * self.width
        for _, members in sorted(groups.items()) if len(groups) > 1 else groups.items():
            once = members[0].likelihood
            if len(members) > 1:
                rows = np.array([finding.likelihood for finding in members])
                answers = [finding.answer for finding in members]
                once = tuple(repeated(rows, answers, members[0].repeatability).tolist())
            for k, chance in enumerate(once):
                joint[k] *= chance
        return np.array(joint)


def told_of(model: DiagnosisModel, findings: Sequence[Finding]) -> dict[str, ToldOfEffect]:
    """Return the findings by effect, the effects in alphabetical order."""
    groups: dict[str, list[Finding]] = {}
    for finding in sorted(findings, key=lambda finding: finding.effect):
        groups.setdefault(finding.effect, []).append(finding)
    width = model.table.shape[1]
    return {effect: ToldOfEffect(tuple(members), width) for effect, members in groups.items()}


@dataclass(frozen=True)
class HeardEffects:
    """What was found of n effects: their indices ``effects`` (n,) and P(all that was found | state)
    ``likelihood`` (n, K)."""

    effects: Ints
    likelihood: Floats

    def slot(self, model: DiagnosisModel) -> Ints:
        """Return for each effect of the model its place among these effects, -1 for an effect
        without findings, (E,)."""
        slot = np.full(len(model.effect_ids), -1)
        slot[self.effects] = np.arange(len(self.effects))
        return slot


def heard_of(model: DiagnosisModel, findings: Sequence[Finding]) -> HeardEffects:
    """Return the likelihood of all findings about each effect, the effects in alphabetical
    order."""
    told = told_of(model, findings)
    effects = np.array([model.effect_index(effect) for effect in told], dtype=np.intp)
    rows = [own.likelihood for own in told.values()]
    return HeardEffects(effects, np.array(rows).reshape(len(rows), model.table.shape[1]))


def by_occasion(
    model: DiagnosisModel, findings: Sequence[Finding]
) -> dict[tuple[int, Occasion], tuple[Finding, ...]]:
    """Return the findings about effects that come and go, by epoch and occasion. Findings about
    many runs are left out: those belong to no single occasion."""
    groups: dict[tuple[int, Occasion], list[Finding]] = {}
    for finding in findings:
        comes = model.comes[:, model.effect_index(finding.effect)].any()
        if comes and not finding.occasion.many:
            groups.setdefault((finding.epoch, finding.occasion), []).append(finding)
    return {key: tuple(members) for key, members in sorted(groups.items())}


def repeated(rows: Floats, answers: Sequence[str], repeatability: float) -> Floats:
    """Return P(a run of answers from one source | state), shape (K,), from rows (n, K) of single
    likelihoods.

    With chance ``repeatability`` a repeat meets the same conditions and must give the same answer
    again; otherwise it is independent. So an identical repeat adds little, and one that differs
    shows that the first was chance.
    """
    ordered = rows[np.lexsort(rows.T[::-1])]
    independent = ordered.prod(axis=0)
    if len(set(answers)) > 1:
        return np.asarray((1 - repeatability) * independent if len(ordered) > 1 else independent)
    return np.asarray(repeatability * ordered.mean(axis=0) + (1 - repeatability) * independent)
