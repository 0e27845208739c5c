"""Machines with known faults that are called about, answer, are repaired and run: what the policies
are played against."""

from dataclasses import dataclass, field, replace
from random import Random
from typing import Literal

import numpy as np

from bottega.benchmark.patient import Patient, drawn, drawn_state
from bottega.core.diagnosis.evidence import Look, Occasion, shows_badly
from bottega.core.diagnosis.model import DiagnosisModel, Floats, Ints
from bottega.core.library.machine_type import Check, MachineType
from bottega.core.library.tables import EngineTable

Kind = Literal["one", "two", "sound"]
MENTIONED = 0.5
"""Chance that a customer who has something to say of an effect says it at the first call; chosen.
It falls out of the engine's reasoning, which takes what could be missed and was not said as
unknown."""
WASHES_AGAIN = 35
"""Washes after a hand-over in each of which a fault that was left may be noticed; chosen, two
months of a household."""
NOTICE_TRIES = 4000
"""Draws until one is called about; what is hardly ever noticed is drawn again with other faults."""


class NobodyCalls(ValueError):
    """Nothing drawn was ever called about."""


@dataclass
class World:
    """One machine: its faults now, and how its effects stand. It changes as it is repaired.

    Every answer follows from the seed and from what is asked, so that policies are paired: asked
    the same in the same order of repairs, it answers each of them the same.
    """

    machine: MachineType
    engine: EngineTable
    seed: str
    age_years: float
    patient: Patient
    """Its faults, and how its effects stand where every fault acts."""
    said: tuple[str, ...]
    codes: tuple[str, ...]
    told: dict[tuple[str, Occasion | None], tuple[int, str]] = field(default_factory=dict)
    """By check, and by occasion where it reads what comes and goes, the epoch it was last answered
    in, and the answer."""
    shown: dict[str, tuple[int, bool]] = field(default_factory=dict)
    """By effect the epoch of the last watched run, and whether it went badly."""
    touched: dict[str, int] = field(default_factory=dict)
    """By effect the epoch since which it stands as it does."""
    epoch: int = 0

    @property
    def faults(self) -> tuple[str, ...]:
        """Return the faults that are there now."""
        return self.patient.faults

    def can(self, check: Check) -> bool:
        """Return whether this machine can answer a check: the library's own answers every one."""
        return True

    def answers(self, check: Check, occasion: Occasion) -> list[tuple[Check, str]]:
        """Return what is written down when a check is done."""
        return [(check, self.answer(check, occasion))]

    def answer(self, check: Check, occasion: Occasion) -> str:
        """Return the check's answer on an occasion: drawn from its reliability, and the same again
        with its repeatability as long as nothing it reads has changed."""
        rng = self._chance("check", check.id, _name(occasion))
        comes = self._comes(check.effect)
        key = (check.id, occasion if comes else None)
        since = self.touched.get(check.effect, 0)
        epoch, before = self.told.get(key, (-1, ""))
        same = epoch >= since and rng.random() < check.repeatability
        now = self.patient.in_state(check.effect, self._state(check.effect, occasion))
        answer = before if same else now.answer_by(check, rng)
        self.told[key] = (self.epoch, answer)
        return answer

    def repair(self, repair: str) -> bool:
        """Do a repair; return whether it took a fault away. What its faults touched stands anew."""
        chances = dict(self.machine.repairs[repair].covers)
        rng = self._chance("repair", repair)
        works = rng.random() < min(chances.values())
        gone = {fault for fault in self.faults if fault in chances and works}
        self.epoch += 1
        left = tuple(fault for fault in self.faults if fault not in gone)
        fresh = drawn(self.machine, left, rng)
        while not _well_beside(fresh):
            fresh = drawn(self.machine, left, rng)
        states = dict(self.patient.states)
        for effect in {e for fault in gone for e in self.machine.faults[fault].effects}:
            states[effect] = fresh.states[effect]
            self.touched[effect] = self.epoch
        self.patient = replace(self.patient, faults=left, states=states)
        return bool(gone)

    def runs_badly(self, effect: str, occasion: Occasion, look: Look) -> bool:
        """Return whether a watched run shows this effect to be bad, looked at so."""
        rng = self._chance("run", effect, _name(occasion))
        epoch, before = self.shown.get(effect, (-1, False))
        same = epoch == self.epoch and rng.random() < self.engine.run_repeatability
        states = len(self.machine.effects[effect].states)
        shows = shows_badly(states, look, self.engine)
        badly = before if same else rng.random() < shows[self._state(effect, occasion)]
        self.shown[effect] = (self.epoch, badly)
        return badly

    def calls_again(self, nth: int) -> tuple[str, ...]:
        """Return what the customer says at the ``nth`` call after a hand-over: who has a fault left
        in the machine washes on and notices it sooner or later; nothing when there is nothing to
        notice."""
        rng = self._chance("call", str(nth))
        heard = (_said(self.patient, rng) for _ in range(WASHES_AGAIN))
        return next((said for said in heard if _speaks_of(self.patient, said)), ())

    def _state(self, effect: str, occasion: Occasion) -> int:
        """Return how an effect stands on an occasion, drawn from those of its faults that act."""
        if occasion.many or not self._comes(effect):
            return self.patient.states[effect]
        provoked = dict(occasion.provokes)
        acting = []
        for name in self.faults:
            fault = self.machine.faults[name]
            shows = max(fault.shows, provoked.get(name, 0.0)) if fault.shows < 1 else 1.0
            acts = self._chance("acts", name, _name(occasion)).random() < shows
            if acts or not fault.comes(effect):
                acting.append(name)
        rng = self._chance("state", effect, _name(occasion))
        return drawn_state(self.machine, tuple(acting), effect, rng)

    def _comes(self, effect: str) -> bool:
        return any(self.machine.faults[name].comes(effect) for name in self.faults)

    def _chance(self, *what: str) -> Random:
        return Random(":".join((self.seed, *what, str(self.epoch))))


def draw_world(
    model: DiagnosisModel,
    priors: dict[float, Floats],
    engine: EngineTable,
    kind: Kind,
    *,
    seed: str,
) -> World:
    """Return a machine that somebody calls about, its faults drawn from the prior (H,) at one of
    the ages in years. Raises NobodyCalls.

    ``kind`` says how many faults; "sound" is a machine with none, or with what no part cures
    (misuse and its place). Nothing is to be noticed of it but what these bring: what no end could
    cure says nothing of a way of working.
    """
    rng, machine = Random(seed), model.machine
    age = rng.choice(sorted(priors))
    rows = rows_of(model, kind)
    upto = np.cumsum(priors[age][rows])
    for _ in range(NOTICE_TRIES):
        row = rows[min(int(np.searchsorted(upto, rng.random() * upto[-1])), len(rows) - 1)]
        faults = tuple(model.fault_ids[f] for f in model.sets[row] if f >= 0)
        patient = drawn(machine, faults, rng)
        said = _said(patient, rng)
        calls = said if kind == "sound" else _speaks_of(patient, said)
        if calls and _well_beside(patient):
            codes = tuple(
                c.id
                for c in machine.codes.values()
                if rng.random() < c.stored[patient.states[c.effect]]
            )
            return World(machine, engine, seed, age, patient, said, codes)
    raise NobodyCalls(f"found no {kind} machine of {machine.archetype} that is called about")


def only_use(machine: MachineType, fault: str) -> bool:
    """Return whether a fault is none of the machine: advice is what ends it."""
    return any(repair.do == "advise" for repair in machine.repairs_of(fault))


def rows_of(model: DiagnosisModel, kind: Kind) -> Ints:
    """Return the rows of the sets of faults that machines of a kind are drawn from."""
    sets, machine = model.sets, model.machine
    use = np.array([*(only_use(machine, fault) for fault in model.fault_ids), False])
    single, pair = sets[:, 1] < 0, (sets[:, 1] >= 0) & (sets[:, 2] < 0)
    sound = (sets[:, 0] < 0) | (single & use[sets[:, 0]])
    chosen = {"one": single & ~sound, "two": pair & ~use[sets].any(axis=1), "sound": sound}
    return np.flatnonzero(chosen[kind])


def _speaks_of(patient: Patient, said: tuple[str, ...]) -> bool:
    """Return whether some of what is said is so, and comes of the faults: else nobody calls about
    them."""
    machine = patient.machine
    touched = {effect for fault in patient.faults for effect in machine.faults[fault].effects}
    effects = {machine.complaints[name].effect for name in said}
    return any(patient.states[effect] > 0 for effect in effects & touched)


def _well_beside(patient: Patient) -> bool:
    """Return whether nothing is to be noticed but what its faults bring: what is said beside is a
    slip."""
    machine = patient.machine
    touched = {effect for fault in patient.faults for effect in machine.faults[fault].effects}
    return all(patient.states[e] == 0 for e in machine.noticeable if e not in touched)


def _said(patient: Patient, rng: Random) -> tuple[str, ...]:
    found = []
    for complaint in patient.machine.complaints.values():
        mention = complaint.record.hard_to_miss or MENTIONED
        if rng.random() < mention * complaint.said[patient.states[complaint.effect]]:
            found.append(complaint.id)
    return tuple(found)


def _name(occasion: Occasion) -> str:
    """Return the name that draws of an occasion follow from."""
    told = occasion.kind == "told" and occasion.number > 0
    return f"-{occasion.number}" if told else str(occasion.number)
