"""Machines of physics that are called about, answer, are repaired and run: what the fleet is
played against."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import cached_property
from random import Random

import numpy as np

from bottega.benchmark.outcomes import outcome_of
from bottega.benchmark.truth import Kind, NobodyCalls, rows_of
from bottega.core.diagnosis.evidence import Look, Occasion
from bottega.core.diagnosis.model import DiagnosisModel, Floats
from bottega.core.library.machine_type import Check, MachineType
from bottega.core.library.tables import Quantity
from bottega.rig.asking import Bench, CannotAsk, NotReached
from bottega.rig.faults import FaultError, fault_table
from bottega.rig.memory import codes_shown
from bottega.rig.specimen import Specimen

CALL_TRIES = 60
"""Machines drawn until one is called about."""
MENTIONS = 0.75
"""Chance that a customer mentions what was noticed; chosen."""
SLIPS = 0.004
"""Chance that one is said of which nothing was noticed; chosen."""
WEEKS_AGAIN = 8
"""Weeks after a hand-over in each of which a fault that was left may be noticed; chosen."""
BY_THE_WAY = 0.7
"""Chance that what nobody complained of is noticed in a watched run; chosen."""
RATES_OFF = 0.5
"""How far the fleet's rates of faults lie from the library's, as the spread of a logarithm;
chosen, as far as the library itself doubts a guessed rate."""
STOPS = "watch_stops_in"
"""The check that says where a programme stopped."""
STOPPED_IN = {
    "start": "before it starts",
    "fill": "while it fills",
    "wash": "while it washes",
    "drain": "before the spin",
    "spin": "in the spin",
}


@dataclass
class RigWorld:
    """One machine of physics among people. It answers as World does, and changes as it is
    repaired."""

    machine: MachineType
    quantities: dict[str, Quantity]
    specimen: Specimen
    seed: str
    age_years: float
    epoch: int = 0
    benches: dict[frozenset[str], Bench] = field(default_factory=dict)
    """By the faults still there, what was run with them; shared by the policies that play it."""

    @property
    def faults(self) -> tuple[str, ...]:
        """Return the faults that are there now."""
        return tuple(self.specimen.faults)

    @property
    def bench(self) -> Bench:
        """Return the machine as it is now, with what was run of it."""
        key = frozenset(self.specimen.faults)
        if key not in self.benches:
            self.benches[key] = Bench(self.specimen, self.seed)
        return self.benches[key]

    @cached_property
    def said(self) -> tuple[str, ...]:
        """Return what the customer says at the first call."""
        return self._said("call")

    @cached_property
    def codes(self) -> tuple[str, ...]:
        """Return the codes the panel shows: what the board stored, as this sheet names it."""
        return tuple(codes_shown(self.bench, self.machine, "call"))

    def can(self, check: Check) -> bool:
        """Return whether a machine can answer this check at all."""
        return check.on_rig is not None and check.on_rig.act != "social"

    def answers(self, check: Check, occasion: Occasion) -> list[tuple[Check, str]]:
        """Return what is written down when a check is done: its answer, or what kept it from
        being done."""
        try:
            told = self.bench.perform(check, self._occasion(occasion))
        except NotReached as error:
            return self._stood_in_the_way(error.stopped)
        except CannotAsk:
            return []
        return [(check, outcome_of(self.machine, check, told, self.quantities))]

    def _stood_in_the_way(self, stopped: str) -> list[tuple[Check, str]]:
        name, outcome = (
            ("press_key", "dead") if stopped == "dead" else (STOPS, STOPPED_IN.get(stopped))
        )
        check = self.machine.checks.get(name)
        return [(check, outcome)] if check is not None and outcome is not None else []

    def repair(self, repair: str) -> bool:
        """Do a repair; return whether it took a fault away."""
        chances = dict(self.machine.repairs[repair].covers)
        works = Random(f"{self.seed}:repair:{repair}:{self.epoch}").random() < min(chances.values())
        gone = frozenset(fault for fault in self.faults if fault in chances and works)
        self.epoch += 1
        self.specimen = self.specimen.without(gone)
        return bool(gone)

    def runs_badly(self, effect: str, occasion: Occasion, look: Look) -> bool:
        """Return whether a watched run shows this effect to be bad, looked at so."""
        known, name = self.machine.effects[effect], self._occasion(occasion)
        if self.bench.noticed(known, name) in (None, known.states[0]):
            return False
        rng = Random(f"{self.seed}:look:{effect}:{name}")
        return look != "by the way" or rng.random() < BY_THE_WAY

    def calls_again(self, nth: int) -> tuple[str, ...]:
        """Return what the customer says at the ``nth`` call after a hand-over: who has a fault left
        in the machine washes on and notices it sooner or later; nothing when nothing is noticed."""
        for week in range(WEEKS_AGAIN):
            washed = f"call:{nth}:{self.epoch}:{week}"
            said = self._said(washed)
            if any(self.notices(phrase, washed) for phrase in said):
                return said
        return ()

    def _said(self, occasion: str) -> tuple[str, ...]:
        rng, found = Random(f"{self.seed}:said:{occasion}"), []
        for complaint in self.machine.complaints.values():
            noticed = self.notices(complaint.id, occasion)
            if rng.random() < (MENTIONS if noticed else SLIPS):
                found.append(complaint.id)
        return tuple(found)

    def notices(self, phrase: str, occasion: str) -> bool:
        """Return whether people notice what a phrase says."""
        complaint = self.machine.complaints[phrase]
        state = self.bench.noticed(self.machine.effects[complaint.effect], occasion)
        return state in complaint.record.reports

    def _occasion(self, occasion: Occasion) -> str:
        return f"{occasion.number}:{self.epoch}" if not occasion.many else f"call:{self.epoch}"


def draw_rig_world(
    model: DiagnosisModel,
    priors: Mapping[float, Floats],
    quantities: dict[str, Quantity],
    kind: Kind,
    *,
    seed: str,
) -> RigWorld:
    """Return a machine of physics that somebody calls about: its faults drawn by the rates of
    the model, each off by a factor of the fleet's own, their severities and everything else
    of it by the seed. Raises NobodyCalls."""
    rng, machine = Random(seed), model.machine
    age = rng.choice(sorted(priors))
    off = {
        fault: Random(f"{seed.split(':')[0]}:rate:{fault}").gauss(0, RATES_OFF)
        for fault in model.fault_ids
    }
    rows = rows_of(model, kind)
    weights = np.array(
        [
            priors[age][row]
            * np.exp(sum(off[model.fault_ids[f]] for f in model.sets[row] if f >= 0))
            for row in rows
        ]
    )
    upto = np.cumsum(weights)
    for n in range(CALL_TRIES):
        row = rows[min(int(np.searchsorted(upto, rng.random() * upto[-1])), len(rows) - 1)]
        faults = [model.fault_ids[f] for f in model.sets[row] if f >= 0]
        if any(fault not in fault_table().faults for fault in faults):
            continue
        try:
            specimen = Specimen(machine, f"{seed}:{n}", {fault: rng.random() for fault in faults})
        except FaultError:
            continue
        world = RigWorld(machine, quantities, specimen, f"{seed}:{n}", age)
        if world.said and (kind == "sound" or any(world.notices(p, "call") for p in world.said)):
            return world
    raise NobodyCalls(f"found no {kind} machine of {machine.title} that is called about")
