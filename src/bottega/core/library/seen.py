"""Seen is seen: outcomes that are the fault. An effect that is the fault itself (a torn bellows, an
open coil) is brought about by one fault alone; who sees or measures that state at the part has seen
the fault."""

from collections.abc import Mapping
from dataclasses import replace

from bottega.core.library.machine_type import Check, Effect, Fault
from bottega.core.library.tables import SeenTable

Makers = dict[tuple[str, int], str]
"""By effect and number of its state, the one fault that brings it about."""


def makers_of(effects: Mapping[str, Effect], faults: Mapping[str, Fault]) -> Makers:
    """Return which states of effects that are a fault are brought about by one fault alone."""
    found: dict[tuple[str, int], set[str]] = {}
    for fault in faults.values():
        for name, chances in fault.effects.items():
            background = effects[name].background if effects[name].is_fault else chances
            for state, (chance, else_) in enumerate(zip(chances, background, strict=True)):
                if state and chance > else_:
                    found.setdefault((name, state), set()).add(fault.id)
    return {key: next(iter(names)) for key, names in found.items() if len(names) == 1}


def sure_effects(effects: dict[str, Effect], makers: Makers, table: SeenTable) -> dict[str, Effect]:
    """Return the effects with hardly a chance that a state is there without its fault."""
    return {
        name: replace(effect, background=_background(name, effect, makers, table))
        for name, effect in effects.items()
    }


def _background(name: str, effect: Effect, makers: Makers, table: SeenTable) -> tuple[float, ...]:
    rest = [
        min(chance, table.without) if (name, state) in makers else chance
        for state, chance in enumerate(effect.background)
    ]
    return (1 - sum(rest[1:]), *rest[1:])


def explained(
    effects: dict[str, Effect], faults: Mapping[str, Fault], table: SeenTable
) -> dict[str, Effect]:
    """Return the effects with a rare state hardly ever there without a known fault, where several
    known faults bring it about: a library that knows four reasons why a valve gets no current does
    not hold a fifth, unknown one for as likely as those together. What is common on sound machines
    (dust, streaks) stays as it is, and so does what is a fault itself."""
    called = sum(fault.rate for fault in faults.values())
    found = dict(effects)
    for name, effect in effects.items():
        making = [f for f in faults.values() if name in f.effects]
        if not effect.is_fault:
            found[name] = replace(effect, background=_explained(effect, making, called, table))
    return found


def _explained(
    effect: Effect, making: list[Fault], called: float, table: SeenTable
) -> tuple[float, ...]:
    rest = list(effect.background)
    for state in range(1, len(rest)):
        chances = [fault.rate / called * fault.effects[effect.id][state] for fault in making]
        if sum(chance > 0 for chance in chances) > 1 and rest[state] <= table.rare:
            rest[state] = min(rest[state], table.unexplained * sum(chances))
    return (1 - sum(rest[1:]), *rest[1:])


def sure_faults(faults: dict[str, Fault], makers: Makers, table: SeenTable) -> dict[str, Fault]:
    """Return the faults with their own states as good as always there, where they mostly are.
    A fault that is now in one state, now in another (a hot coil or a cold one), stays as it is."""
    return {name: _sure(fault, makers, table) for name, fault in faults.items()}


def _sure(fault: Fault, makers: Makers, table: SeenTable) -> Fault:
    sure = dict(fault.effects)
    for name, chances in fault.effects.items():
        mine = [makers.get((name, k)) == fault.id for k in range(len(chances))]
        there = sum(p for p, own in zip(chances, mine, strict=True) if own)
        if there < table.mostly or fault.comes(name):
            continue
        scale = (1 - table.misses) / there
        kept = [p * scale if own else 0.0 for p, own in zip(chances, mine, strict=True)]
        sure[name] = (1 - sum(kept[1:]), *kept[1:])
    return replace(fault, effects=sure)


def sure_checks(
    checks: dict[str, Check], effects: Mapping[str, Effect], makers: Makers, table: SeenTable
) -> dict[str, Check]:
    """Return the checks, those made at the part itself with outcomes that are the fault: not what a
    customer says, and not what a run lets hear or guess."""
    return {
        name: _seen(check, effects, makers, table) if check.at_the_part else check
        for name, check in checks.items()
    }


def _seen(check: Check, effects: Mapping[str, Effect], makers: Makers, table: SeenTable) -> Check:
    states = effects[check.effect].states
    own = {k for k in range(len(states)) if (check.effect, k) in makers}
    reported = {o.id: max(range(len(states)), key=lambda k: o.chances[k]) for o in check.outcomes}
    if not own & set(reported.values()):
        return check
    columns = [_column(check, k, own, reported, table=table) for k in range(len(states))]
    outcomes = tuple(
        replace(outcome, chances=tuple(column[outcome.id] for column in columns))
        for outcome in check.outcomes
    )
    return replace(check, outcomes=outcomes)


def _column(
    check: Check, state: int, own: set[int], reported: Mapping[str, int], *, table: SeenTable
) -> dict[str, float]:
    """Return P(each outcome | a state): an outcome that reports an own state comes hardly ever in
    another one, and nearly always in its own."""
    chances = {o.id: o.chances[state] for o in check.outcomes}
    seen = [name for name, k in reported.items() if k in own and k != state]
    here = [name for name, k in reported.items() if k == state]
    for name in seen:
        chances[name] = min(chances[name], table.otherwise / len(seen))
    left = 1 - sum(chances[name] for name in seen)
    if state in own and here:
        whole = sum(chances[name] for name in here)
        others = [name for name in chances if name not in here and name not in seen]
        sure = table.there if others else left
        for name in here:
            chances[name] *= sure / whole
        _fill(chances, others, left - sure)
    else:
        _fill(chances, [name for name in chances if name not in seen], left)
    return chances


def _fill(chances: dict[str, float], names: list[str], whole: float) -> None:
    """Bring the chances of these outcomes to a sum, in the proportion they have."""
    total = sum(chances[name] for name in names)
    for name in names:
        chances[name] = chances[name] * whole / total if total else whole / len(names)
