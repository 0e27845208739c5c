"""What the checks would answer, set by set: from what was found so far, and on which occasion they
would be done."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from bottega.core.diagnosis.evidence import (
    Evidence,
    Finding,
    Occasion,
    Source,
    Told,
    told_of,
    told_to_us,
    watched,
)
from bottega.core.diagnosis.lookahead import outcomes_of
from bottega.core.diagnosis.model import DiagnosisModel, Flags, Floats, Ints
from bottega.core.diagnosis.occasions import Acting, Way, acting, comes_with, shown_by_way
from bottega.core.library.machine_type import Check
from bottega.core.library.tables import EngineTable
from bottega.core.machine.state import MachineState

FRESH = Occasion(-1_000_000)
"""An occasion nothing was found on yet."""
MATTERS = 1e-3
"""Sets that come and go with an effect count as acting where they hold less of the belief; chosen,
a tenth of a per cent moves no plan."""


@dataclass(frozen=True)
class Outlook:
    """What is known that bears on the next answers, over N sets: their ``rows`` (N,), what was
    found, and how the machine stands."""

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
        effect = table.effect[outcomes]
        concerned, own = np.unique(effect, return_inverse=True)
        place = model.distributions(concerned, self.rows)
        chances = table.spoken[table.first[outcomes][:, None] + place[own]]
        told = self._told_since({model.effect_ids[e] for e in concerned.tolist()})
        for e, found in told.items():
            which = np.flatnonzero(effect == e)
            known = updated(model.states(e, self.rows), found.likelihood)
            chances[which] = table.answers[outcomes[which]] @ known
        self._coming(chances, outcomes, owner, checks)
        self._repeating(chances, outcomes, owner, checks)
        for c, check in enumerate(checks):
            if check.watches:
                own = np.flatnonzero(owner == c)
                chances[own[0]] = well = self._all_well()
                chances[own[1:]] = (1 - well) / (len(own) - 1)
        return chances, owner

    def _all_well(self) -> Floats:
        """Return P(a run through every function shows nothing | set, what was found), (N,)."""
        model, machine = self.model, self.model.machine
        effects = np.array([model.effect_index(effect) for effect in machine.noticeable])
        complained = {f.effect for f in self.evidence.findings if f.answer == "said"}
        passes, shown = np.ones(len(model.table)), np.ones((len(effects), len(self.rows)))
        place = model.distributions(effects, self.rows)
        told = self._told_since(set(machine.noticeable))
        for n, (e, name) in enumerate(zip(effects.tolist(), machine.noticeable, strict=True)):
            states = len(machine.effects[name].states)
            run = watched("", name, states, False, 0, self.engine, name in complained)
            well = np.zeros(model.table.shape[1])
            well[:states] = run.likelihood
            span = slice(model.first[e], model.first[e + 1])
            passes[span] = model.table[span] @ well
            shown[n] = passes[model.first[e] + place[n]]
            if e in told:
                shown[n] = well @ updated(model.states(e, self.rows), told[e].likelihood)
        all_well = shown.prod(axis=0)
        coming = np.flatnonzero(model.comes[model.sets[self.rows]][:, :, effects].any(axis=(1, 2)))
        here = acting(model, self.rows[coming], FRESH, effects.tolist())
        comes = np.array([comes_with(model, here.rows, e) for e in effects.tolist()])
        total = np.zeros(len(coming))
        for way in here.ways:
            place = model.distributions(effects, way.rows)
            for n, places, rows in here.staying(effects.tolist(), way):
                place[n, places] = model.distributions(effects[n : n + 1], rows)[0]
            fresh = passes[model.first[effects][:, None] + place]
            total += way.weight * np.where(comes, fresh, shown[:, coming]).prod(axis=0)
        all_well[coming] = total
        return np.asarray(all_well)

    def _told_since(self, effects: set[str]) -> dict[int, Told]:
        """Return what was found of these effects since a repair touched them, by effect."""
        model, since = self.model, self._touched_since()
        found: dict[int, Told] = {}
        own = [f for f in self.evidence.findings if f.effect in effects]
        for effect, told in told_of(model, own).items():
            e = model.effect_index(effect)
            rest = tuple(f for f in told.findings if f.epoch >= since.get(e, 0))
            if rest:
                found[e] = Told(rest, told.width)
        return found

    def _touched_since(self) -> dict[int, int]:
        """Return the epoch since which an effect stands as it does, of those a repair touched."""
        since: dict[int, int] = {}
        for removal in self.evidence.removals:
            gone = [self.model.fault_index(fault) for fault in removal.faults]
            for e in np.flatnonzero(self.model.touches[gone].any(axis=0)).tolist():
                since[e] = max(since.get(e, 0), removal.after_epoch + 1)
        return since

    def _coming(
        self, chances: Floats, outcomes: Ints, owner: Ints, checks: Sequence[Check]
    ) -> None:
        """Put into ``chances`` what sets with faults that come and go would answer, one occasion
        after the other."""
        model, effect = self.model, self.model.checks.effect[outcomes]
        held = self._held_by_coming()
        groups: dict[Occasion, list[int]] = {}
        for r, e in enumerate(effect.tolist()):
            if held[e]:
                groups.setdefault(self._occasion(checks[owner[r]]), []).append(r)
        for occasion, which in groups.items():
            if not occasion.many:
                self._on_one(chances, outcomes, np.array(which), occasion)
                continue
            elsewhere = self._found_elsewhere(occasion)
            for e in np.unique(effect[which]).tolist():
                if e in elsewhere:
                    own = np.flatnonzero(comes_with(model, self.rows, e))
                    at = np.array([r for r in which if effect[r] == e])
                    self._on_many(chances, outcomes, at, own, occasion)

    def _found_elsewhere(self, occasion: Occasion) -> set[int]:
        """Return the effects of which something was found on another occasion."""
        others = {f.effect for f in self.evidence.findings if f.occasion != occasion}
        return {self.model.effect_index(effect) for effect in others}

    def _held_by_coming(self) -> Flags:
        """Return which effects come and go with sets that hold enough of the belief, (E,)."""
        held = self.belief @ self.model.members(self.rows)
        enough: Flags = np.asarray(held @ self.model.comes[:-1] > MATTERS)
        return enough

    def _on_many(
        self, chances: Floats, outcomes: Ints, at: Ints, own: Ints, occasion: Occasion
    ) -> None:
        """Put in the answers that speak of many runs, in which every fault has acted: what was
        found at the machine says nothing of them."""
        model, table = self.model, self.model.checks
        effect = model.effect_ids[int(table.effect[outcomes[at[0]]])]
        found = [f for f in self._found_on(occasion) if f.effect == effect]
        states = model.states(int(table.effect[outcomes[at[0]]]), self.rows[own])
        if found:
            states = updated(states, told_of(model, found)[effect].likelihood)
        chances[np.ix_(at, own)] = table.answers[outcomes[at]] @ states

    def _on_one(self, chances: Floats, outcomes: Ints, at: Ints, occasion: Occasion) -> None:
        """Put in the answers of checks on one occasion: of those who may act, by how likely each
        way is after what was found on it."""
        model, table = self.model, self.model.checks
        effects, which = np.unique(table.effect[outcomes[at]], return_inverse=True)
        told = told_of(model, self._found_on(occasion))
        heard = {model.effect_index(effect): t.likelihood for effect, t in told.items()}
        places = np.flatnonzero(model.comes[model.sets[self.rows]].any(axis=(1, 2)))
        here = acting(model, self.rows[places], occasion, [*effects.tolist(), *heard])
        weights = np.array([way.weight for way in here.ways])
        for e, likelihood in heard.items():
            weights *= shown_by_way(here, e, likelihood, comes_with(model, here.rows, e))
        weights /= np.maximum(weights.sum(axis=0), 1e-300)
        total = np.zeros((len(at), len(places)))
        for weight, way in zip(weights, here.ways, strict=True):
            total += weight * self._answers(here, way, effects, outcomes[at], which, heard)
        concerned = np.array([comes_with(model, self.rows[places], e) for e in effects.tolist()])
        old = chances[np.ix_(at, places)]
        chances[np.ix_(at, places)] = np.where(concerned[which], total, old)

    def _answers(
        self,
        here: Acting,
        way: Way,
        effects: Ints,
        outcomes: Ints,
        which: Ints,
        heard: dict[int, Floats],
    ) -> Floats:
        """Return P(outcome | those who act in one way, what was found on the occasion), (R, n); the
        effect of an outcome is that at ``which`` (R,) of ``effects``."""
        model, table = self.model, self.model.checks
        place = model.distributions(effects, way.rows)
        for n, places, rows in here.staying(effects.tolist(), way):
            place[n, places] = model.distributions(effects[n : n + 1], rows)[0]
        shown = table.spoken[table.first[outcomes][:, None] + place[which]]
        for n, e in enumerate(effects.tolist()):
            if e in heard:
                own = np.flatnonzero(which == n)
                states = updated(model.table[model.first[e] + place[n]].T, heard[e])
                shown[own] = table.answers[outcomes[own]] @ states
        return np.asarray(shown)

    def _found_on(self, occasion: Occasion) -> list[Finding]:
        epoch = self.evidence.epoch
        return [f for f in self.evidence.findings if f.occasion == occasion and f.epoch == epoch]

    def _occasion(self, check: Check) -> Occasion:
        return occasion_of(check, self.evidence.present, self.state, self.evidence.epoch)

    def _repeating(
        self, chances: Floats, outcomes: Ints, owner: Ints, checks: Sequence[Check]
    ) -> None:
        """Put into ``chances`` of checks that were answered before, under the same conditions, how
        far they would say the same again."""
        answers = {f.source: f.answer for f in self.evidence.findings if f.source.kind == "check"}
        for c, check in enumerate(checks):
            before = answers.get(Source("check", check.id))
            if before is None:
                continue
            own = np.flatnonzero(owner == c)
            same = np.array([outcome.id == before for outcome in check.outcomes], dtype=float)
            steady = ~comes_with(
                self.model, self.rows, int(self.model.checks.effect[outcomes[own[0]]])
            )
            repeats = check.repeatability * same[:, None] + (1 - check.repeatability) * chances[own]
            chances[own] = np.where(steady, repeats, chances[own])


def occasion_of(check: Check, present: Occasion, state: MachineState, epoch: int) -> Occasion:
    """Return the occasion a check would be done on: a new one where it provokes something or the
    machine has to be plugged in first."""
    if check.provokes:
        return Occasion(FRESH.number, provokes=check.provokes)
    if check.who == "customer":
        return told_to_us(epoch)
    plugging_in = check.needs.power == "on" and state.power != "on"
    return FRESH if plugging_in else present


def may_differ(check: str, model: DiagnosisModel, found: Evidence) -> bool:
    """Return whether a check that was answered may say something else now: it provokes what comes
    and goes, or what it reads does, and this is another occasion."""
    known = model.machine.checks.get(check)
    if known is None or known.who == "customer":
        return False
    if not model.comes[:, model.effect_index(known.effect)].any():
        return False
    source = Source("check", check)
    now = [f for f in found.findings if f.source == source and f.epoch == found.epoch]
    return bool(known.provokes) or all(f.occasion != found.present for f in now)


def updated(states: Floats, likelihood: Floats) -> Floats:
    """Return P(state | set) (K, N) after a likelihood over the states (K,); a column of zeros stays
    zero."""
    joint = states * likelihood[:, None]
    total = joint.sum(axis=0)
    return np.asarray(np.divide(joint, total, out=np.zeros_like(joint), where=total > 0))
