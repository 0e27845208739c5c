"""A machine type: what the library knows of one machine once assemblies, archetype and sheet are
laid over each other."""

from collections.abc import Iterable
from dataclasses import dataclass
from functools import cached_property
from typing import Literal

from bottega.core.library.archetype import DrawnPlace
from bottega.core.library.hub_record import HubRecord
from bottega.core.library.panel_record import PanelRecord
from bottega.core.library.recipe import RigRecipe
from bottega.core.library.records import (
    CodeRecord,
    ComplaintRecord,
    Component,
    ConnectorRecord,
    CurveRecord,
    DetailRecord,
    Grade,
    MarkRecord,
    MeasureRecord,
    Needs,
    OperationRecord,
    Part,
    ServiceStep,
    Severity,
    StoredCharge,
    Window,
)
from bottega.core.library.sheet import Plate, Programme, SheetPart, Variant, titled
from bottega.core.library.vocabulary import INSTRUMENTS, Act
from bottega.core.library.wiring_record import WayRecord


@dataclass(frozen=True, slots=True)
class Effect:
    """Something true of the machine: ordered states, normal first, with the background chance of
    each (sums to 1)."""

    id: str
    name: str
    states: tuple[str, ...]
    background: tuple[float, ...]
    keep_off: bool = False
    """Whether a machine that shows it had better stay unplugged."""
    is_fault: bool = False
    """Whether its states are a fault itself."""
    on_rig: RigRecipe | None = None
    """How its states are told on a machine of physics."""


AT_THE_MACHINE = ("clean", "reseat", "adjust", "remove")
"""Work that puts something right with what is there already."""


@dataclass(frozen=True, slots=True)
class RepairOption:
    """One way to put a fault right, priced. ``covers`` lists the faults it ends, each with its
    success chance."""

    id: str
    do: str
    name: str
    component: str
    minutes: float
    price_eur: float
    covers: tuple[tuple[str, float], ...]
    needs: Needs
    """What has to be so to reach it; its minutes are from there."""
    way: Needs
    """What has to be so while it is fitted: reached, and where a part goes in, the old one out."""

    @property
    def is_free(self) -> bool:
        """Return whether it is a cure with what is there: nothing is bought, nobody is called."""
        return self.do in AT_THE_MACHINE and not self.price_eur

    @property
    def buys(self) -> bool:
        """Return whether it buys a part, or somebody's work."""
        return self.do in ("part", "refer") or bool(self.price_eur)

    def ends(self, fault: str) -> float:
        """Return the chance in 0..1 that this repair ends the fault; 0 for a fault it does not
        touch."""
        return dict(self.covers).get(fault, 0.0)


@dataclass(frozen=True, slots=True)
class Stated:
    """A fault's figures as the library states them, without their doubt, and how sure it is of the
    rate and of each effect."""

    rate: float
    grade: Grade
    effects: dict[str, tuple[float, ...]]
    grades: dict[str, Grade]


@dataclass(frozen=True, slots=True)
class Fault:
    """One way a component fails. ``rate`` per machine-year at the reference age; effects are full
    distributions. Both as they are believed: with the doubt of what is stated in them."""

    id: str
    component: str
    name: str
    rate: float
    ageing: str
    effects: dict[str, tuple[float, ...]]
    causes: dict[str, float]
    severity: Severity
    ask_why: str | None
    stated: Stated
    shows: float = 1.0
    """Chance that it acts on one occasion; below one it comes and goes."""
    steady: tuple[str, ...] = ()
    """Effects it has all the time, also when it does not act."""
    unseen: str = ""
    """Why no check sees it by eye, hand or meter alone; empty where one does."""

    def comes(self, effect: str) -> bool:
        """Return whether it has this effect only on the occasions it acts on."""
        return self.shows < 1 and effect in self.effects and effect not in self.steady

    def leads(self, effect: str) -> int | None:
        """Return the state the fault most likely leads an effect to, None where it leaves it
        alone."""
        chances = self.effects.get(effect)
        return None if chances is None else _likeliest(chances)

    @property
    def guesses(self) -> tuple[int, int]:
        """Return how many of its likelihoods are remembered or guessed, and how many it has."""
        grades = list(self.stated.grades.values())
        return sum(grade in ("remembered", "guessed") for grade in grades), len(grades)

    @property
    def per_10_000(self) -> float:
        """Return how often it comes in ten thousand machine-years."""
        return round(self.stated.rate * 10_000)


@dataclass(frozen=True, slots=True)
class Outcome:
    """One answer to a check. ``chances[k]`` is P(this answer | state k of the effect it reads)."""

    id: str
    label: str
    chances: tuple[float, ...]

    @property
    def speaks_of(self) -> int:
        """Return the state of the effect that this answer speaks most for."""
        return _likeliest(self.chances)

    @property
    def is_bad(self) -> bool:
        """Return whether it speaks more for another state than for the sound one."""
        return self.chances[0] < max(self.chances)


def _likeliest(chances: tuple[float, ...]) -> int:
    return max(range(len(chances)), key=lambda state: chances[state])


IN_HAND = "in_hand"
"""What tables/kinds.yaml asks of a part that comes off: to be looked at on the bench."""


@dataclass(frozen=True, slots=True)
class Check:
    """A question put to the machine, with all defaults filled in. Minutes exclude reaching."""

    id: str
    name: str
    effect: str
    component: str
    outcomes: tuple[Outcome, ...]
    repeatability: float
    needs: Needs
    minutes: float
    tool: str
    who: str
    acts: tuple[Act, ...]
    """What doing it does to the machine."""
    steps: tuple[str, ...]
    caution: str | None
    why: str | None
    measure: MeasureRecord | None
    provokes: tuple[tuple[str, float], ...] = ()
    """Faults that come and go which it makes act, each with the chance that they then do."""
    asks: tuple[tuple[str, tuple[str, ...]], ...] = ()
    """By component, what its kind demands and this check meets."""
    card: bool = False
    watches: bool = False
    """Whether it is a run through every function, watched: its first outcome is that all is
    well."""
    on_rig: RigRecipe | None = None
    """How it is done on a machine of physics; None where nobody has said."""

    @property
    def by_eye(self) -> bool:
        """Return whether eye and hand are enough for it: it neither measures nor feeds a part."""
        return self.measure is None and self.tool not in INSTRUMENTS and "feed" not in self.acts

    @property
    def at_the_part(self) -> bool:
        """Return whether it is made by eye, hand or meter at the part: not what a customer says,
        and not what a run lets hear or guess."""
        runs = {"run", "fill", "pump", "heat"} & set(self.acts)
        return self.who != "customer" and (not runs or "meter" in self.tool)

    @property
    def in_hand(self) -> str:
        """Return the component whose part it looks at on the bench; empty where it looks at none
        that is out."""
        return next((name for name, demands in self.asks if IN_HAND in demands), "")

    def outcome(self, outcome_id: str) -> Outcome | None:
        """Return the outcome with this id, or None."""
        return next((outcome for outcome in self.outcomes if outcome.id == outcome_id), None)


@dataclass(frozen=True, slots=True)
class Complaint:
    """A customer's phrase. ``said[k]`` is P(said | state k); ``hard_to_miss`` the chance it would
    be mentioned."""

    id: str
    record: ComplaintRecord
    effect: str
    said: tuple[float, ...]


@dataclass(frozen=True, slots=True)
class Code:
    """One stored code. ``stored[k]`` is P(stored | state k of the effect the board watches)."""

    id: str
    record: CodeRecord
    effect: str
    stored: tuple[float, ...]


@dataclass(frozen=True, slots=True)
class Stall:
    """One phase of a calibration. ``chances[k]`` is P(it stalls there | state k of its effect)."""

    id: str
    name: str
    minutes: float
    effect: str
    chances: tuple[float, ...]


@dataclass(frozen=True, slots=True)
class Calibration:
    """How a machine is calibrated: what to do, and its phases in order; both may be empty."""

    steps: tuple[str, ...] = ()
    phases: tuple[Stall, ...] = ()

    @property
    def minutes(self) -> float:
        """Return how long it takes in all, in minutes; nought where nobody knows."""
        return sum(phase.minutes for phase in self.phases)

    def phase(self, name: str) -> Stall | None:
        """Return a phase by its id, or None."""
        return next((phase for phase in self.phases if phase.id == name), None)


@dataclass(frozen=True, slots=True)
class Mark:
    """Something that can be seen or heard at a place: it shows state number ``shows`` of an effect
    of ``states`` states."""

    id: str
    record: MarkRecord
    effect: str
    shows: int
    states: int


@dataclass(frozen=True, eq=False)
class MachineType:
    """All that is known of one kind of machine; compared by identity, since a shelf joins each only
    once. ``revision`` is a hash of the sources it was made from."""

    archetype: str
    sheet: str | None
    name: str
    maker: str | None
    about: str
    revision: str
    drawing: str
    no_fault_rate: float
    """How often a year a sound machine could be called about: so many are, by a slip, as its weight
    says."""
    new_price_eur: float
    life_years: float
    plate: Plate
    panel: PanelRecord | None
    charge: StoredCharge | None
    paper: str | None
    notes: tuple[str, ...]
    components: dict[str, Component]
    parts: dict[str, Part]
    part_numbers: dict[str, tuple[SheetPart, ...]]
    effects: dict[str, Effect]
    faults: dict[str, Fault]
    repairs: dict[str, RepairOption]
    checks: dict[str, Check]
    complaints: dict[str, Complaint]
    marks: dict[str, Mark]
    details: dict[str, DetailRecord]
    """Parts drawn enlarged, by the name of the drawing."""
    codes: dict[str, Code]
    """Those of its sheet, as its panel shows them."""
    meanings: dict[str, Code]
    """What boards of such machines store, known by meaning alone; empty without a board."""
    programmes: dict[str, Programme]
    wiring: dict[str, WayRecord]
    """Which conductor joins which two points, by its name."""
    variant: Variant | None
    unreadable: tuple[str, tuple[float, ...]] | None
    """The effect an unreadable panel speaks of, and P(unreadable | state)."""
    operations: dict[str, OperationRecord]
    service: dict[str, ServiceStep]
    calibration: Calibration
    out: dict[str, tuple[str, ...]]
    """By component, the operations that take it out."""
    values: dict[str, Window]
    curves: dict[str, CurveRecord]
    """By value, how it moves with the temperature or the level it is measured at."""
    places: dict[str, DrawnPlace]
    openings: dict[str, DrawnPlace]
    """Where operations are drawn."""
    laid: tuple[str, ...]
    """Ways to bring its underside to the hand, the usual first."""
    hub: HubRecord | None
    """Its bearings and seal in section."""
    connectors: dict[str, ConnectorRecord]
    """By component, its plug as it is seen from the side that is probed."""
    excused: dict[str, dict[str, str]]
    """By component, what its kinds demand and this machine has a reason not to answer."""
    seen: dict[tuple[str, int], str]
    """By effect and number of its state, the fault that this state is, where it is one."""

    @property
    def loads(self) -> Literal["front", "top"]:
        """Return from where laundry goes in: through a door, or from above."""
        return "front" if "door_lock" in self.components else "top"

    def code(self, name: str) -> Code | None:
        """Return a code of its sheet, by its name or one it had before, or one known by meaning;
        None when it has no such."""
        now = self.renamed.get(name, name)
        return self.codes.get(now) or self.meanings.get(now)

    @cached_property
    def renamed(self) -> dict[str, str]:
        """Return by the former name of a code the name it has now."""
        return {old: code.id for code in self.codes.values() for old in code.record.formerly}

    def done_by(self, off: Iterable[str]) -> set[str]:
        """Return what counts as done where these operations are: themselves, and those they do the
        same as another way."""
        done = set(off)
        return done | {
            other
            for name in done & set(self.operations)
            if (other := self.operations[name].instead) is not None
        }

    def answer_for(self, check: Check, state: str | None) -> Outcome:
        """Return the answer to a check that a state of its effect most often gives; that of the
        normal state where nobody can say."""
        states = self.effects[check.effect].states
        at = states.index(state) if state in states else 0
        return max(check.outcomes, key=lambda outcome: outcome.chances[at])

    def is_seen(self, check: Check, outcome: Outcome) -> str | None:
        """Return the fault that an outcome is; None where it only speaks for one."""
        if not check.at_the_part:
            return None
        state = max(range(len(outcome.chances)), key=lambda k: outcome.chances[k])
        return self.seen.get((check.effect, state))

    def sight_of(self, fault: str) -> tuple[Check, Outcome] | None:
        """Return the check and its outcome by which a fault is seen; of several the surest, None
        where none sees it."""
        return self._sights.get(fault)

    def looked_at(self, fault: str) -> tuple[Check, Outcome] | None:
        """Return the check and its outcome by which a fault is seen without an instrument; of
        several the surest, None where only a meter tells it."""
        return self._looks.get(fault)

    @cached_property
    def _sights(self) -> dict[str, tuple[Check, Outcome]]:
        return self._surest(self.checks.values())

    @cached_property
    def _looks(self) -> dict[str, tuple[Check, Outcome]]:
        return self._surest(check for check in self.checks.values() if check.by_eye)

    def _surest(self, checks: Iterable[Check]) -> dict[str, tuple[Check, Outcome]]:
        found: dict[str, tuple[Check, Outcome]] = {}
        for check in checks:
            for outcome in check.outcomes:
                fault = self.is_seen(check, outcome)
                known = found.get(fault or "")
                if fault and (known is None or max(outcome.chances) > max(known[1].chances)):
                    found[fault] = (check, outcome)
        return found

    def repairs_of(self, fault: str) -> list[RepairOption]:
        """Return the repairs that end a fault, in the library's order."""
        return [repair for repair in self.repairs.values() if repair.ends(fault) > 0]

    @property
    def noticeable(self) -> tuple[str, ...]:
        """Return the effects a customer could complain of, and a watched run shows."""
        return tuple(dict.fromkeys(complaint.effect for complaint in self.complaints.values()))

    def compared_of(self, component: str) -> str:
        """Return what of a part is compared with the old one before it goes in, in words: its plug
        only where it has one."""
        out = self.out.get(component, ())
        wired = any("load" in self.operations[name].opens for name in out)
        return "plug, fixing and size" if wired else "fixing and size"

    def component_of(self, fault: str) -> Component:
        """Return the component a fault belongs to."""
        return self.components[self.faults[fault].component]

    def detail_of(self, fault: str) -> str | None:
        """Return the enlarged drawing a fault is seen in, or None when there is none."""
        return next(
            (
                name
                for name, detail in self.details.items()
                if any(fault in faults for faults in detail.spots.values())
            ),
            None,
        )

    @property
    def title(self) -> str:
        """Return the maker's name and model, or the archetype's name when there is no sheet."""
        model = f"{self.maker} {self.name}" if self.maker else self.name
        return titled(model, self.variant)
