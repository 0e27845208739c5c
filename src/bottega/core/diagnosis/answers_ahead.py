"""What the checks would answer, set by set: from what was found so far, and on which occasion they
would be done."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from itertools import pairwise

import numpy as np

from bottega.core.diagnosis.beam import outcomes_of
from bottega.core.diagnosis.evidence import (
    FRESH,
    Evidence,
    Finding,
    HeardEffects,
    Look,
    Occasion,
    Source,
    heard_of,
    shows_badly,
    told_to_us,
)
from bottega.core.diagnosis.kept_answers import kept
from bottega.core.diagnosis.model import DiagnosisModel, Flags, Floats, Ints
from bottega.core.diagnosis.occasions import Acting, acting, comes_with, shown_by_way
from bottega.core.library.machine_type import Check
from bottega.core.library.tables import EngineTable
from bottega.core.machine.state import MachineState

MATTERS = 1e-3
"""Sets that come and go with an effect count as acting where they hold less of the belief; chosen,
a tenth of a per cent moves no plan."""


@dataclass(frozen=True)
class Outlook:
    """All that bears on the next answers, over N sets with the ``rows`` (N,): the belief in each
    set, the findings so far, and how the machine stands."""

    model: DiagnosisModel
    rows: Ints
    belief: Floats
    evidence: Evidence
    state: MachineState
    engine: EngineTable

    def chances(self, checks: Sequence[Check]) -> tuple[Floats, Ints]:
        """Return P(outcome | set, what was found) of every outcome of ``checks``, (R, N), and the
        place in ``checks`` each belongs to (R,), ascending."""
        model, table = self.model, self.model.checks
        outcomes, owner = outcomes_of(model, checks)
        places = model.places(table.effect[outcomes], self.rows)
        chances = _spoken_since(model, self.evidence)[table.first[outcomes][:, None] + places]
        self._coming(chances, outcomes, owner, checks)
        self._repeating(chances, outcomes, owner, checks)
        for c, check in enumerate(checks):
            if check.watches:
                own = np.flatnonzero(owner == c)
                chances[own[0]] = well = self._run_shows[0]
                # Which function fails is not asked of a step's outcomes: they share the rest.
                chances[own[1:]] = (1 - well) / (len(own) - 1)
        return chances, owner

    def apart(self, chances: Floats, owner: Ints, checks: Sequence[Check]) -> tuple[Floats, Ints]:
        """Return ``chances`` and ``owner`` with the answers of each full run split by the functions
        that fail: none, one single function whichever, or several."""
        runs = [c for c, check in enumerate(checks) if check.watches]
        if not runs:
            return chances, owner
        others = ~np.isin(owner, runs)
        shows = self._run_shows
        own = np.repeat(runs, len(shows))
        every = np.append(owner[others], own)
        order = np.argsort(every, kind="stable")
        return np.vstack([chances[others], *[shows] * len(runs)])[order], every[order]

    @cached_property
    def _run_shows(self) -> Floats:
        """Return P(a run through every function shows nothing, this one of the noticeable effects
        alone, several | set, what was found), (1 + effects + 1, N)."""
        model, run = self.model, self._run
        passes = model.passes(run.effects, run.likelihood, _known_since(model, self.evidence))
        shown = passes[model.first[run.effects][:, None] + model.places(run.effects, self.rows)]
        shown = self._run_again(run.effects, shown)
        held = self._held_by_coming[run.effects]
        comes = comes_with(model, self.rows, run.effects) & held[:, None]
        steady = _alone(np.where(comes, 1.0, shown))
        coming, own = np.flatnonzero(comes.any(axis=0)), np.flatnonzero(comes.any(axis=1))
        effects, likelihood = run.effects[own], run.likelihood[own]
        here = acting(model, self.rows[coming], [FRESH], effects.tolist())
        by_way = shown_by_way(here, effects, likelihood, comes[np.ix_(own, coming)])
        ways = np.zeros((len(own) + 1, len(coming)))
        for way, shows in zip(here.ways, by_way, strict=True):
            ways += way.weight * _alone(shows)
        # One alone shows where the steady effects show none and the coming ones one, or the other
        # way round; both kinds are independent given the set.
        alone = steady.copy()
        alone[1:, coming] *= ways[0]
        alone[np.ix_(own + 1, coming)] += steady[0, coming] * ways[1:]
        alone[0, coming] *= ways[0]
        return np.vstack([alone, (1 - alone.sum(axis=0)).clip(min=0.0)])

    def _run_again(self, effects: Ints, shown: Floats) -> Floats:
        """Return the chances that another run shows the ``effects`` (E,) in order, (E, N). A second
        run repeats the answers ``shown`` (E, N) by the first as far as runs repeat: a fault
        shown then shows again, a fault hidden then stays hidden."""
        last = {f.effect: f for f in self.evidence.findings if f.source.kind == "run"}
        share, well = np.zeros(len(effects)), np.zeros(len(effects))
        for n, e in enumerate(effects.tolist()):
            before = last.get(self.model.effect_ids[e])
            if before is not None and before.epoch == self.evidence.epoch:
                share[n], well[n] = before.repeatability, before.answer == "well"
        # With its share the run is the last one again; else it is a new draw.
        return np.asarray((share * well)[:, None] + (1 - share)[:, None] * shown)

    @property
    def _run(self) -> HeardEffects:
        """Return the finding of a run through every function that shows nothing."""
        model, machine = self.model, self.model.machine
        complained = {f.effect for f in self.evidence.findings if f.answer == "said"}
        effects = np.array([model.effect_index(effect) for effect in machine.noticeable])
        likelihood = np.zeros((len(effects), model.table.shape[1]))
        for n, name in enumerate(machine.noticeable):
            states = len(machine.effects[name].states)
            look: Look = "complained of" if name in complained else "in turn"
            badly = shows_badly(states, look, self.engine)
            likelihood[n, :states] = [1 - p for p in badly]
        return HeardEffects(effects, likelihood)

    def _coming(
        self, chances: Floats, outcomes: Ints, owner: Ints, checks: Sequence[Check]
    ) -> None:
        """Fill in ``chances`` for the sets with faults that come and go, one occasion after the
        other."""
        effect = self.model.checks.effect[outcomes]
        held = np.flatnonzero(self._held_by_coming[effect])
        concerned, of = np.unique(owner[held], return_inverse=True)
        occasions = [self._occasion(checks[c]) for c in concerned.tolist()]
        known = list(dict.fromkeys(occasions))
        when = np.array([known.index(occasion) for occasion in occasions], dtype=np.intp)[of]
        new = np.array([occasion.kind == FRESH.kind for occasion in known], dtype=bool)
        # New occasions know nothing of each other and are worked out in one go; an occasion with
        # findings of its own goes by itself.
        groups = [np.flatnonzero(new), *np.flatnonzero(~new)[:, None]]
        for group in groups:
            place = np.full(len(known), -1)
            place[group] = np.arange(len(group))
            own = np.flatnonzero(place[when] >= 0)
            if not len(own):
                continue
            if known[group[0]].many:
                self._on_many(chances, outcomes, held[own], known[group[0]])
            else:
                one = tuple(known[n] for n in group.tolist())
                self._on_one(chances, outcomes, held[own], one, when=place[when[own]])

    @cached_property
    def _held_by_coming(self) -> Flags:
        """Return which effects come and go with sets that hold enough of the belief, (E,)."""
        held = self.belief @ self.model.members(self.rows)
        enough: Flags = np.asarray(held @ self.model.comes[:-1] > MATTERS)
        return enough

    def _on_many(self, chances: Floats, outcomes: Ints, at: Ints, occasion: Occasion) -> None:
        """Put in the answers that speak of many runs: in so many every fault has acted, and the
        findings at the machine say nothing of those runs."""
        model, effect = self.model, self.model.checks.effect[outcomes[at]]
        others = {f.effect for f in self.evidence.findings if f.occasion != occasion}
        elsewhere = np.zeros(len(model.effect_ids), dtype=bool)
        elsewhere[[model.effect_index(name) for name in others]] = True
        again = np.flatnonzero(elsewhere[effect])
        if not len(again):
            return
        asked, who = np.nonzero(comes_with(model, self.rows, effect[again]))
        own = again[asked]
        shown = model.places_of(effect[own], self.rows[who])
        heard = _heard_on(model, self.evidence, occasion)
        chances[at[own], who] = self._said(outcomes[at[own]], shown, heard)

    def _on_one(
        self,
        chances: Floats,
        outcomes: Ints,
        at: Ints,
        occasions: tuple[Occasion, ...],
        *,
        when: Ints,
    ) -> None:
        """Fill in the answers of checks on one occasion, as a mean over the ways in which faults
        may act, each weighted by its chance after the findings of that occasion. ``when`` gives
        the place of each answer's occasion among several; several are given together only where
        they are new, so that no finding belongs to them."""
        model, table = self.model, self.model.checks
        heard = _heard_on(model, self.evidence, occasions[0])
        effects, which = np.unique(table.effect[outcomes[at]], return_inverse=True)
        places = np.flatnonzero(comes_with(model, self.rows, effects).any(axis=0))
        here = acting(model, self.rows[places], occasions, [*effects.tolist(), *heard.effects])
        comes = comes_with(model, here.rows, effects)
        effect, of = np.nonzero(comes)
        effect = effects[effect]
        pair = np.cumsum(comes).reshape(comes.shape) - 1
        asked, who = np.nonzero(comes[which])
        pairs, outcome = pair[which[asked], who], outcomes[at[asked]]
        total = np.zeros(len(pairs))
        for weight, way in zip(_likely_ways(here, len(occasions), heard), here.ways, strict=True):
            shown = model.places_of(effect, here.showing(way, effect, of))[pairs]
            total += weight[when[asked], who] * self._said(outcome, shown, heard)
        chances[at[asked], places[who]] = total

    def _said(self, outcomes: Ints, shown: Ints, heard: HeardEffects) -> Floats:
        """Return P(outcome | the distribution its effect is drawn from, the findings about the
        effect), for n pairs of an outcome and a distribution, (n,)."""
        model, table = self.model, self.model.checks
        said = table.spoken[table.first[outcomes] + shown]
        slot = heard.slot(model)[table.effect[outcomes]]
        told = np.flatnonzero(slot >= 0)
        if len(told):
            again = outcomes[told]
            states = model.table[model.first[table.effect[again]] + shown[told]]
            known = updated(states, heard.likelihood[slot[told]])
            said[told] = (table.answers[again] * known).sum(axis=1)
        return np.asarray(said)

    def _occasion(self, check: Check) -> Occasion:
        return occasion_of(check, self.evidence.present, self.state, self.evidence.epoch)

    def _since(self, check: Check) -> int:
        """Return the epoch since which nothing was done to the part a check is made on."""
        faults = self.model.machine.faults
        done = (
            removal.after_epoch + 1
            for removal in self.evidence.removals
            if any(faults[fault].component == check.component for fault in removal.faults)
        )
        return max(done, default=0)

    def _repeating(
        self, chances: Floats, outcomes: Ints, owner: Ints, checks: Sequence[Check]
    ) -> None:
        """Blend into ``chances`` the answers of checks that were answered before under the same
        conditions: with the check's repeatability they say the same again."""
        last = {f.source: f for f in self.evidence.findings if f.source.kind == "check"}
        for c, check in enumerate(checks):
            before = last.get(Source("check", check.id))
            if before is None or before.conditions != (self._since(check), 0):
                continue
            own = np.flatnonzero(owner == c)
            same = np.array(
                [outcome.id == before.answer for outcome in check.outcomes], dtype=float
            )
            steady = ~comes_with(
                self.model, self.rows, int(self.model.checks.effect[outcomes[own[0]]])
            )
            repeats = check.repeatability * same[:, None] + (1 - check.repeatability) * chances[own]
            chances[own] = np.where(steady, repeats, chances[own])


def _alone(well: Floats) -> Floats:
    """Return the chance that every effect is well, and that each alone is not, from the chances
    (E, N) that each is ``well``, none of them zero; (1 + E, N)."""
    every = well.prod(axis=0)
    return np.vstack([every, every * (1 - well) / well])


def _likely_ways(here: Acting, occasions: int, heard: HeardEffects) -> Floats:
    """Return how likely each way of acting is on O occasions, after the findings of that occasion,
    (W, O, N)."""
    weights = np.array([way.weight for way in here.ways])
    weights = weights.reshape(len(here.ways), occasions, len(here.rows))
    if not len(heard.effects):
        return weights
    concerned = comes_with(here.model, here.rows, heard.effects)
    found = shown_by_way(here, heard.effects, heard.likelihood, concerned).prod(axis=1)
    weights = weights * found[:, None]
    return np.asarray(weights / np.maximum(weights.sum(axis=0), 1e-300))


@kept(1)
def _known_since(model: DiagnosisModel, evidence: Evidence) -> dict[int, Floats]:
    """Return P(state | each distinct distribution, the findings) of every effect with findings
    since a repair touched the effect, (n, K)."""
    told = _told_since(model, evidence)
    owner, rows = model.rows_of(told.effects)
    known = updated(model.table[rows], told.likelihood[owner])
    upto = np.searchsorted(owner, np.arange(len(told.effects) + 1)).tolist()
    return {e: known[i:j] for e, (i, j) in zip(told.effects.tolist(), pairwise(upto), strict=True)}


@kept(1)
def _spoken_since(model: DiagnosisModel, evidence: Evidence) -> Floats:
    """Return P(outcome | each distinct distribution of its effect), as the table of checks has it
    in ``spoken``, after the findings so far."""
    table, spoken = model.checks, model.checks.spoken.copy()
    for e, known in _known_since(model, evidence).items():
        own = np.flatnonzero(table.effect == e)
        spoken[table.first[own][:, None] + np.arange(len(known))] = table.answers[own] @ known.T
    return spoken


@kept(2)
def _told_since(model: DiagnosisModel, evidence: Evidence) -> HeardEffects:
    """Return the findings about each effect since a repair touched the effect."""
    since: dict[int, int] = {}
    for removal in evidence.removals:
        gone = [model.fault_index(fault) for fault in removal.faults]
        for e in np.flatnonzero(model.touches[gone].any(axis=0)).tolist():
            since[e] = max(since.get(e, 0), removal.after_epoch + 1)
    found = evidence.findings
    return heard_of(
        model, [f for f in found if f.epoch >= since.get(model.effect_index(f.effect), 0)]
    )


@kept(4)
def _heard_on(model: DiagnosisModel, evidence: Evidence, occasion: Occasion) -> HeardEffects:
    """Return the findings of one occasion since the last repair, by effect."""
    found = (f for f in evidence.findings if f.epoch == evidence.epoch)
    return heard_of(model, [f for f in found if f.occasion == occasion])


def occasion_of(check: Check, present: Occasion, state: MachineState, epoch: int) -> Occasion:
    """Return the occasion a check would be done on: a new one where it provokes something or the
    machine has to be plugged in first."""
    if check.provokes:
        return replace(FRESH, provokes=check.provokes)
    if check.who == "customer":
        return told_to_us(epoch)
    plugging_in = check.needs.power == "on" and state.power != "on"
    return FRESH if plugging_in else present


def was_told(check: Check, found: Evidence) -> bool:
    """Return whether a check is a question to the customer about what the complaint has said."""
    return check.who == "customer" and check.effect in found.spoken_of


def may_differ(check: str, model: DiagnosisModel, found: Evidence) -> bool:
    """Return whether a check that was answered may answer differently now: the check provokes a
    fault that comes and goes, or reads an effect that does, and this is another occasion. An
    effect that has shown itself once need not be waited for again."""
    known = model.machine.checks.get(check)
    if known is None or known.who == "customer":
        return False
    if not model.comes[:, model.effect_index(known.effect)].any():
        return False
    now = [
        f for f in found.findings if _answers(f, check, known.watches) and f.epoch == found.epoch
    ]
    if any(np.argmax(f.likelihood) > 0 for f in now):
        return False
    return bool(known.provokes) or all(f.occasion != found.present for f in now)


def _answers(finding: Finding, check: str, watches: bool) -> bool:
    """Return whether a finding is an answer to a check; a run through every function is answered by
    whatever a run showed."""
    return finding.source.kind == "run" if watches else finding.source == Source("check", check)


def updated(states: Floats, likelihood: Floats) -> Floats:
    """Return P(state | set, findings) (..., K) from P(state | set) and the likelihoods of the
    findings over the states; a set that cannot explain them keeps zeros."""
    joint = states * likelihood
    total = joint.sum(axis=-1, keepdims=True)
    return np.asarray(np.divide(joint, total, out=np.zeros_like(joint), where=total > 0))
