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
)
from bottega.core.diagnosis.lookahead import outcomes_of
from bottega.core.diagnosis.model import DiagnosisModel, Floats, Ints
from bottega.core.diagnosis.occasions import acting, comes_with
from bottega.core.library.machine_type import Check
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
        self._coming(chances, outcomes, owner, checks, concerned.tolist())
        self._repeating(chances, outcomes, owner, checks)
        return chances, owner

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
        self,
        chances: Floats,
        outcomes: Ints,
        owner: Ints,
        checks: Sequence[Check],
        concerned: list[int],
    ) -> None:
        """Put into ``chances`` what sets with faults that come and go would answer."""
        model, table = self.model, self.model.checks
        effect = table.effect[outcomes]
        for e in concerned:
            if not model.comes[:, e].any():
                continue
            own = np.flatnonzero(comes_with(model, self.rows, e))
            if not len(own) or self.belief[own].sum() < MATTERS:
                continue
            which = np.flatnonzero(effect == e)
            occasions = [self.occasion_of(checks[owner[r]]) for r in which]
            for occasion in dict.fromkeys(occasions):
                at = which[[o == occasion for o in occasions]]
                states = self._states_on(e, own, occasion)
                chances[np.ix_(at, own)] = table.answers[outcomes[at]] @ states

    def _states_on(self, e: int, own: Ints, occasion: Occasion) -> Floats:
        """Return P(state of effect ``e`` | set, what was found on the occasion) for the sets at
        ``own`` (N,), shape (K, N)."""
        model, rows = self.model, self.rows[own]
        told = told_of(model, self._found_on(occasion))
        heard = {model.effect_index(effect): t.likelihood for effect, t in told.items()}
        ways = acting(model, rows, occasion, {e: None, **heard})
        concerned = {x: comes_with(model, rows, x) for x in heard if x != e}
        total = np.zeros((model.table.shape[1], len(own)))
        for acts, weight in ways.ways():
            for x, steady in concerned.items():
                shown = heard[x] @ model.states(x, ways.rows_for(x, acts))
                weight = weight * np.where(steady, shown, 1.0)
            states = model.states(e, ways.rows_for(e, acts))
            total += weight * (states * heard[e][:, None] if e in heard else states)
        sums = total.sum(axis=0)
        return np.asarray(np.divide(total, sums, out=np.zeros_like(total), where=sums > 0))

    def _found_on(self, occasion: Occasion) -> list[Finding]:
        epoch = self.evidence.epoch
        return [f for f in self.evidence.findings if f.occasion == occasion and f.epoch == epoch]

    def occasion_of(self, check: Check) -> Occasion:
        """Return the occasion a check would be done on: a new one where it provokes something or
        the machine has to be plugged in first."""
        if check.provokes:
            return Occasion(FRESH.number, provokes=check.provokes)
        if check.who == "customer":
            return told_to_us(self.evidence.epoch)
        plugging_in = check.needs.power == "on" and self.state.power != "on"
        return FRESH if plugging_in else self.evidence.present

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


def updated(states: Floats, likelihood: Floats) -> Floats:
    """Return P(state | set) (K, N) after a likelihood over the states (K,); a column of zeros stays
    zero."""
    joint = states * likelihood[:, None]
    total = joint.sum(axis=0)
    return np.asarray(np.divide(joint, total, out=np.zeros_like(joint), where=total > 0))
