"""A check performed on a machine of physics: the act, what it shows, blurred by the one who
looks; and the meter."""

from dataclasses import dataclass, field
from math import exp
from random import Random

from bottega.core.library.machine_type import Check, Effect
from bottega.core.library.recipe import RigRecipe
from bottega.rig.circuit import Contacts, meter_ohm, meter_volts
from bottega.rig.machine import Machine
from bottega.rig.parameters import PeopleSense, senses
from bottega.rig.programmes import BATH, SHORT
from bottega.rig.quantities import REFILLED, shown, still
from bottega.rig.specimen import Specimen
from bottega.rig.state import OPEN_OHM

POURED = ("drain", "heat")
"""Steps before which water is poured in by hand."""
POURED_L = 12.0
TRIPS_OHM = 5.0
"""Across the mains, what trips any breaker at once."""
STAND, REPLUG = "stand", "replug"
"""What is done to a machine that is neither programme nor step: left standing with water in it, and
its plug pulled and put in again."""
SOAKED_S, UNPLUGGED_S, REPLUGGED_S = 420.0, 5.0, 20.0
"""Seconds of a bath after which its laundry is soaked, of the plug being out, and of watching;
chosen."""
STAND_S = 300.0
"""How long a machine stands when it is watched for drops, in second."""
DRYING = ("dried_share", "fan_db", "air_c", "condenser_l_min")
STOPS = ("start", "fill", "wash", "drain", "spin", "unlock")
USED_BEFORE = 3
"""Washes the customer remembers; chosen."""


@dataclass(frozen=True)
class CheckTold:
    """What a check told: the state perceived, or the amount read (None for an open circuit) in
    the check's unit."""

    state: str | None = None
    amount: float | None = None
    measured: bool = False


class NotReached(LookupError):
    """A check whose machine does not come as far as what is to be seen; ``stopped`` says in
    which phase it stopped, "dead" where it has no current."""

    def __init__(self, stopped: str) -> None:
        super().__init__(f"found the machine stopped: {stopped}")
        self.stopped = stopped


class CannotAsk(LookupError):
    """A check the rig has no recipe for, or that only people's memory answers."""


@dataclass
class Bench:
    """A specimen with people round it: runs are made once an occasion and remembered while its
    faults stay."""

    specimen: Specimen
    seed: str
    _runs: dict[tuple[frozenset[str], str], dict[str, float]] = field(default_factory=dict)
    _machines: dict[frozenset[str], Machine] = field(default_factory=dict)
    _stills: dict[frozenset[str], dict[str, float]] = field(default_factory=dict)
    _codes: dict[frozenset[str], list[str]] = field(default_factory=dict)
    _diaries: dict[frozenset[str], dict[str, float]] = field(default_factory=dict)

    def perform(self, check: Check, occasion: str) -> CheckTold:
        """Return what a check tells on an occasion. Raises CannotAsk, and NotReached."""
        recipe = check.on_rig
        if recipe is None or recipe.act == "social":
            raise CannotAsk(
                f"found no recipe for '{check.name}', expected an act a machine answers"
            )
        rng = Random(f"{self.seed}:{check.id}:{occasion}")
        if check.measure is not None and recipe.points:
            return self._metered(check, recipe, occasion, rng)
        customer = check.who == "customer"
        quantities = self.diary(occasion) if customer else self.quantities(recipe, occasion)
        if any(name not in quantities for name in names_in(recipe)):
            raise NotReached("dead" if quantities["alive"] < 0.5 else _where(quantities))
        return CheckTold(
            state=perceived(recipe, quantities, "ask" if customer else recipe.act or "look", rng)
        )

    def quantities(self, recipe: RigRecipe, occasion: str) -> dict[str, float]:
        """Return what a recipe's act shows: the machine as it stands, and what its run showed."""
        acting = self.specimen.acting(occasion, recipe.provoke)
        found = self.still(acting)
        return found if recipe.run is None else {**found, **self.run(acting, recipe.run)}

    def still(self, acting: frozenset[str]) -> dict[str, float]:
        """Return what the machine shows without being run while these faults act."""
        if acting not in self._stills:
            self._stills[acting] = still(self.machine(acting))
        return self._stills[acting]

    def machine(self, acting: frozenset[str]) -> Machine:
        """Return the machine as it stands while these faults act."""
        if acting not in self._machines:
            self._machines[acting] = Machine(self.specimen, acting)
        return self._machines[acting]

    def run(self, acting: frozenset[str], name: str) -> dict[str, float]:
        """Return what a run of a programme or step shows while these faults act."""
        key = (acting, name)
        if key not in self._runs:
            machine = Machine(self.specimen, acting)
            acts = {STAND: _stand, REPLUG: _replug}
            self._runs[key] = acts[name](machine) if name in acts else _run(machine, name)
            if name == SHORT:
                self._codes[acting] = machine.board.codes
        return self._runs[key]

    def codes(self, occasion: str) -> list[str]:
        """Return what the board stored in the days before, by meaning."""
        found: list[str] = []
        for n in range(USED_BEFORE):
            acting = self.specimen.acting(f"{occasion}:day{n}")
            self.run(acting, SHORT)
            found += [code for code in self._codes[acting] if code not in found]
        return found

    def diary(self, occasion: str) -> dict[str, float]:
        """Return what the customer saw in the last washes, on the day most of what comes and goes
        was there."""
        acting = [self.specimen.acting(f"{occasion}:day{n}") for n in range(USED_BEFORE)]
        return self.washes(max(acting, key=len))

    def washes(self, acting: frozenset[str]) -> dict[str, float]:
        """Return what is to be seen in washes while these faults act."""
        if acting not in self._diaries:
            self._diaries[acting] = self._written(acting)
        return self._diaries[acting]

    def _written(self, acting: frozenset[str]) -> dict[str, float]:
        found = {**self.still(acting)}
        for name in ("drain", BATH, SHORT):
            found.update(self.run(acting, name))
        stopped = _where(found) if found["alive"] else "dead"
        if "spin_share" not in found and stopped in ("wash", "drain"):
            found["spin_share"] = 0.0
        if "fan" in self.specimen.machine.components:
            dried = self.run(acting, "dry")
            found.update({key: dried[key] for key in DRYING if key in dried})
        return found

    def noticed(
        self, effect: Effect, occasion: str, acting: frozenset[str] | None = None
    ) -> str | None:
        """Return the state people notice of an effect in the last washes, or in washes while
        these faults are ``acting``; None where nothing of it was seen. Nobody is wrong altogether
        about what is everybody's to see."""
        recipe = effect.on_rig
        if recipe is None or recipe.act == "social":
            return None
        rng = Random(f"{self.seed}:seen:{effect.id}:{occasion}")
        seen = self.diary(occasion) if acting is None else self.washes(acting)
        try:
            return perceived(recipe, seen, "run", rng, lapses=False)
        except KeyError:
            return None

    def _metered(self, check: Check, recipe: RigRecipe, occasion: str, rng: Random) -> CheckTold:
        amount = self.amount(
            recipe, occasion, check.measure.quantity if check.measure else "resistance"
        )
        sense = senses().senses["meter"]
        if amount is not None:
            amount = amount * exp(rng.gauss(0, sense.spread)) * recipe.factor
        return CheckTold(amount=amount, measured=True)

    def amount(self, recipe: RigRecipe, occasion: str, quantity: str) -> float | None:
        """Return what a meter reads at a recipe's points in SI, None for an open circuit. Raises
        NoSuchPoint."""
        if len(recipe.points) == 1:
            quantities = self.quantities(recipe, occasion)
            if recipe.points[0] not in quantities:
                raise NotReached("dead" if quantities["alive"] < 0.5 else _where(quantities))
            value = quantities[recipe.points[0]]
            return None if quantity == "resistance" and value > 1e8 else value
        machine = self.machine(self.specimen.acting(occasion, recipe.provoke))
        first, second = recipe.points
        v, wiring, water_c = machine.v, machine.wiring, machine.warmth.water_c
        if quantity == "ac_volts":
            if first.split(".")[0] != "socket" and not _has_current(machine):
                raise NotReached("dead")
            closed = frozenset({first.split(".")[0], "lock_contact"})
            fed = Contacts(closed, unplugged=recipe.unplug, water_c=water_c, turns=True)
            return meter_volts(wiring, v, fed, first, second)
        off = Contacts(unplugged=recipe.unplug, plugged=False, water_c=water_c)
        ohm = meter_ohm(wiring, v, off, first, second)
        if quantity == "insulation":
            return 1000.0 if ohm is None else ohm / 1e6
        return ohm


def _run(machine: Machine, name: str) -> dict[str, float]:
    """Return what a programme or step shows, with water poured in where it needs some."""
    if name in POURED:
        machine.warmth.pour(POURED_L, machine.v.cold_tap_c)
    machine.run(name)
    return shown(machine)


def _stand(machine: Machine) -> dict[str, float]:
    """Return what a machine shows that stands with water in it."""
    machine.warmth.pour(POURED_L, machine.v.cold_tap_c)
    machine.wait(STAND_S)
    return shown(machine)


def _replug(machine: Machine) -> dict[str, float]:
    """Return what a bath shows until its laundry is soaked, and what flows in once the plug was out
    and is in again."""
    machine.run(BATH, most_s=SOAKED_S)
    told = shown(machine)
    machine.plugged = False
    machine.wait(UNPLUGGED_S)
    machine.plugged = True
    before_l = machine.now.water_in_l
    machine.wait(REPLUGGED_S)
    return {**told, REFILLED: machine.now.water_in_l - before_l}


def _has_current(machine: Machine) -> bool:
    """Return whether mains reaches the board of a machine that is plugged in."""
    v = machine.v
    return v.outlet_ohm + v.cord_ohm + v.fuse_ohm + v.filter_ohm < OPEN_OHM / 10 and (
        v.filter_across_ohm > TRIPS_OHM
    )


def perceived(
    recipe: RigRecipe, quantities: dict[str, float], act: str, rng: Random, *, lapses: bool = True
) -> str | None:
    """Return the state somebody tells of quantities: each blurred by the sense the act uses, and
    now and then any state at all unless nobody ``lapses``. Raises KeyError for a quantity
    that was not come to."""
    table = senses()
    sense = table.senses[table.acts[act]]
    if lapses and rng.random() < sense.lapse:
        return rng.choice(sorted(recipe.cases))
    names = names_in(recipe)
    blurred = {name: _blurred(name, quantities[name], sense, rng) for name in sorted(names)}
    for name in names:
        if name.endswith("_share") and quantities[name] <= 1:
            blurred[name] = min(blurred[name], 1.0)
        if quantities[name] in (0.0, 1.0) or name.startswith(("stopped", "leak_most", "leak_when")):
            blurred[name] = quantities[name]
    return recipe.told(blurred)


def _blurred(name: str, amount: float, sense: PeopleSense, rng: Random) -> float:
    """Return a quantity as a sense tells it: off by a share, a loudness by decibel."""
    if name.endswith("_db"):
        return amount + rng.gauss(0, sense.decibel)
    return amount * exp(rng.gauss(0, sense.spread))


def names_in(recipe: RigRecipe) -> set[str]:
    """Return the quantities a recipe's cases speak of."""
    return {name for ways in recipe.cases.values() for spans in ways for name in spans}


def _where(quantities: dict[str, float]) -> str:
    """Return the phase a run stopped in."""
    stopped = [name for name in STOPS if quantities.get(f"stopped_{name}", 0.0) > 0.5]
    return stopped[0] if stopped else "nowhere"
