"""Ways of working that need no engine: a checklist of what fails most, and one who knows."""

import numpy as np

from bottega.benchmark.play import Move, Play
from bottega.core.library.machine_type import Check
from bottega.core.library.speaking import moved

TELLS = 0.5
"""An answer points to a fault that makes it likelier than this, and likelier than a sound
machine does; chosen."""
MOST_FIXED = 20
"""Checks of one list before a technician gives up on it."""


def by_list(play: Play) -> Move:
    """Go down the faults by how often they come, of those that could do what is complained of;
    for each make the check that tells most of it, and repair what an answer points to."""
    machine = play.world.machine
    pointed = _pointed(play)
    if pointed is not None:
        return Move("repair", min(machine.repairs_of(pointed), key=lambda r: -r.ends(pointed)).id)
    if play.checks >= MOST_FIXED:
        return Move("hand over")
    for fault in _listed(play):
        check = _best_check(play, fault)
        if check is not None and check.id not in play.done:
            return Move("check", check.id)
    return Move("hand over")


def knowing(play: Play) -> Move:
    """Repair what is wrong, as one who sees through the machine would, and hand it over."""
    machine = play.world.machine
    repairs = [
        repair
        for repair in machine.repairs.values()
        if any(repair.ends(f) > 0 for f in play.world.faults)
    ]
    if not repairs or play.repairs > 6:
        return Move("hand over")

    def price(name: str) -> float:
        repair = machine.repairs[name]
        ends = max(repair.ends(fault) for fault in play.world.faults)
        minutes = play.minutes_of(repair.needs, repair.minutes)
        return (
            repair.price_eur * play.prices.part_factor + minutes * play.prices.rate_per_min
        ) / ends

    return Move("repair", min((repair.id for repair in repairs), key=price))


def _listed(play: Play) -> list[str]:
    """Return the faults that touch what is complained of, by how often they come at this age."""
    machine = play.world.machine
    if "listed" in play.noted:
        return play.noted["listed"]
    heard = {machine.complaints[name].effect for name in play.world.said}
    model = play.model
    alone = {
        model.fault_ids[s[0]]: play.before[n]
        for n, s in enumerate(model.sets)
        if s[0] >= 0 and s[1] < 0
    }
    touching = [fault.id for fault in machine.faults.values() if heard & set(fault.effects)]
    play.noted["listed"] = sorted(touching, key=lambda fault: -alone.get(fault, 0.0))
    return play.noted["listed"]


def _best_check(play: Play, fault: str) -> Check | None:
    """Return the check that a fault changes most for its minutes, None where no check reads
    anything of it."""
    machine = play.world.machine
    best, worth = None, 0.0
    for check in machine.checks.values():
        told = machine.faults[fault].effects.get(check.effect)
        if told is None or check.watches or not play.world.can(check):
            continue
        worth_now = float(moved(machine, check, fault).sum()) / (check.minutes + 2)
        if worth_now > worth:
            best, worth = check, worth_now
    return best


def _pointed(play: Play) -> str | None:
    """Return the fault that the last answer points to, None where it points to none."""
    last = play.findings[-1] if play.findings else None
    if last is None or last.source.kind != "check":
        return None
    machine, check = play.world.machine, play.world.machine.checks[last.source.subject]
    outcome = check.outcome(last.answer)
    assert outcome is not None
    sound = float(np.dot(outcome.chances, machine.effects[check.effect].background))
    for fault in _listed(play):
        told = machine.faults[fault].effects.get(check.effect)
        if told is not None and float(np.dot(outcome.chances, told)) > max(TELLS, 2 * sound):
            return fault
    return None
