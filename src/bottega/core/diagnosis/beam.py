"""What a check could answer, and what would be believed then: over the likeliest fault sets
only."""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from bottega.core.diagnosis.model import DiagnosisModel, Floats, Ints
from bottega.core.library.machine_type import Check


@dataclass(frozen=True)
class Beam:
    """The likeliest sets that hold nearly all of a belief: their rows (N,), belief (N,) summing to
    one, faults."""

    rows: Ints
    belief: Floats
    sets: Ints
    members: Floats


@dataclass(frozen=True)
class Branches:
    """Every outcome of every check asked: its chance (R,), the belief after it (R, N), and the
    place of its check (R,)."""

    chance: Floats
    after: Floats
    owner: Ints

    def only(self, checks: Ints) -> "Branches":
        """Return the branches of the ``checks`` (n,) alone, ascending places, counted anew."""
        place = np.full(int(self.owner.max(initial=-1)) + 1, -1)
        place[checks] = np.arange(len(checks))
        own = np.flatnonzero(place[self.owner] >= 0)
        return Branches(self.chance[own], self.after[own], place[self.owner[own]])

    def mean(self, values: Floats, count: int) -> Floats:
        """Return the outcome-weighted sum of ``values`` (R,) for each of ``count`` checks."""
        return np.asarray(
            np.bincount(self.owner, weights=self.chance * values, minlength=count), dtype=np.float64
        )


def beam_of(model: DiagnosisModel, now: Floats, mass: float, size: int) -> Beam:
    """Return the likeliest sets of a belief (H,) until they hold ``mass`` of it, at most ``size``,
    renormalised."""
    # Only the largest are sorted: a partition takes time in proportion to H, a sort H log H. The
    # places are put back in order first, so that equal chances keep the order of the sets.
    top = np.sort(np.argpartition(-now, size)[:size]) if size < len(now) else np.arange(len(now))
    order = top[np.argsort(-now[top], kind="stable")]
    keep = order[: int(np.searchsorted(np.cumsum(now[order]), mass)) + 1]
    chosen = now[keep]
    return Beam(keep, chosen / chosen.sum(), model.sets[keep], model.members(keep))


def outcomes_of(model: DiagnosisModel, checks: Sequence[Check]) -> tuple[Ints, Ints]:
    """Return the model's outcomes of ``checks``, (R,), and the place in ``checks`` each belongs to
    (R,), ascending."""
    own = model.checks.places(checks)
    counts = model.checks.span[own + 1] - model.checks.span[own]
    owner = np.repeat(np.arange(len(own)), counts)
    within = np.arange(len(owner)) - np.repeat(np.cumsum(counts) - counts, counts)  # 0, 1, 2 anew
    return model.checks.span[own][owner] + within, owner


def branch(belief: Floats, chances: Floats, owner: Ints) -> Branches:
    """Return the branches of a belief (N,) by outcomes with P(outcome | set) ``chances`` (R, N)."""
    joint = chances * belief
    chance = joint.sum(axis=1)
    # An outcome that cannot be has no belief after it; its row stays zero instead of not a number.
    return Branches(chance, joint / np.maximum(chance, 1e-300)[:, None], owner)
