"""The records of the machine library as a technician writes them in YAML; Pydantic validates and
publishes the schema."""

from typing import Annotated, Any, Literal

from pydantic import BaseModel, ConfigDict, Field, model_validator

from bottega.core.library.vocabulary import (
    BANDS,
    Act,
    Band,
    Door,
    Drum,
    Face,
    LimitName,
    Opens,
    Phase,
    PhysicsName,
    Posture,
    Power,
    ProofName,
    Taps,
)

Word = str
"""A named likelihood (always, usually, often, sometimes, rarely, hardly): defined once in
tables/words.yaml."""

Ageing = Literal["early", "random", "wear"]
Severity = Literal["nuisance", "stops", "damages", "dangerous"]
Grade = Literal["sheet", "measured", "remembered", "guessed", "standard", "physics"]
"""How sure a figure is; what does not say is guessed."""
Who = Literal["customer", "anyone", "technician", "qualified"]


class Record(BaseModel):
    """A frozen record that refuses unknown keys."""

    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False)


class Graded(Record):
    """A figure that says how sure it is; what is neither remembered nor guessed names its
    source."""

    grade: Grade
    source: str | None = Field(default=None, max_length=200)

    @model_validator(mode="after")
    def _sourced(self) -> "Graded":
        if self.source is None and self.grade not in ("remembered", "guessed"):
            raise ValueError(f"found the grade {self.grade} and no source, expected its source")
        return self


class GradedChance(Graded):
    """A chance with its grade."""

    value: Annotated[float, Field(ge=0, le=1)] | Word


class GradedWeight(Graded):
    """A weight with its grade."""

    value: float = Field(gt=0, le=100_000)


Chance = Annotated[float, Field(ge=0, le=1)] | Word | GradedChance
Weight = Annotated[float, Field(gt=0, le=100_000)] | GradedWeight
"""How often a fault comes, per 10,000 machine-years."""
Chances = dict[str, Chance]
"""Chances of the states of an effect that are not normal; what is missing to one is normal."""


class Needs(Record):
    """The state of the machine that a step wants; what is not named does not matter."""

    power: Power | None = None
    taps: Taps | None = None
    water: Literal["in", "out"] | None = None
    charge: Literal["none"] | None = None
    drum: Drum | None = None
    door: Door | None = None
    posture: Posture | None = None
    off: tuple[str, ...] = ()

    def differs(self, other: "Needs") -> bool:
        """Return whether the machine cannot stand as both want it."""
        mine, others = self.model_dump(exclude={"off"}), other.model_dump(exclude={"off"})
        return any(None not in (mine[k], others[k]) and mine[k] != others[k] for k in mine)


Hour = Annotated[float, Field(gt=0, le=12)]
"""A place on the clock face, seen from the front."""


class ClockFace(Record):
    """How something round is pressed on: where its mark stands, where its drain holes, and the
    order of the places."""

    mark: Hour
    drains: tuple[Hour, ...] = ()
    order: tuple[Hour, ...] = Field(min_length=4, max_length=16)
    band: str
    """The school that says where the band's screw or spring comes to stand."""


class Part(Record):
    """What is ordered for a component: price in the library's euro before tax, minutes to change it
    once reached."""

    name: str
    price_eur: float = Field(gt=0)
    minutes: float = Field(gt=0)
    success: float = Field(default=0.97, gt=0, le=1)
    needs: Needs = Needs()
    """What changing it needs beyond reaching it: an element is measured with water in, and changed
    without."""
    fitting: tuple[str, ...] = ()
    """How it is fitted, step by step."""
    together: tuple[str, ...] = ()
    """What is replaced with it as a matter of course."""
    reused: dict[str, str] = {}
    """What goes in again if it is sound, and how that is seen."""
    cheap: tuple[str, ...] = ()
    """Of what is reused, what a shop that swaps the cheap part replaces as well."""
    clock: ClockFace | None = None
    """How it is pressed on round, where that has an order."""


class Component(Record):
    """One thing a technician can point at."""

    name: str
    aka: tuple[str, ...] = ()
    function: str
    connects: tuple[str, ...] = ()
    reach: Needs = Needs()
    part: Part | None = None
    may_be_fed: str = ""
    """How it is fed by itself from a fused lead: fuse, longest time. Empty for what is never fed
    so: what glows without water, races without load, or wants its board or capacitor."""
    owes: tuple[ProofName, ...] = ()
    """Proofs owed once it has been disturbed."""
    kind: tuple[str, ...] = ()
    """Kinds of thing it is, of tables/kinds.yaml: what can be asked of such a thing."""
    plug: Needs | None = None
    """What has to be off to come at its plug, where that is not what has to be off to reach it."""
    reads: dict[str, str] = {}
    """By what its kinds demand, the effect that a check of their pattern reads."""
    excused: dict[str, str] = {}
    """By what its kinds demand, the reason why it cannot or need not be asked."""


class Repair(Record):
    """One way to put a fault right. ``part`` is the component's part; the others are work without
    it."""

    do: Literal["part", "clean", "reseat", "adjust", "remove", "advise", "refer"]
    of: str | None = None
    """The component whose part ends it, when that is not the fault's own."""
    name: str | None = None
    minutes: float | None = Field(default=None, gt=0)
    success: float | None = Field(default=None, gt=0, le=1)
    price_eur: float = Field(default=0, ge=0)


class FaultRecord(Record):
    """One way a component fails. Weight per 10,000 machine-years at the reference age."""

    component: str
    name: str
    weight: Weight
    ageing: Ageing
    effects: dict[str, Chances | str]
    causes: dict[str, Chance] = {}
    repairs: tuple[Repair, ...] = (Repair(do="part"),)
    severity: Severity = "stops"
    ask_why: str | None = None
    """The question that closes the root cause, if something else makes this part fail."""
    shows: float = Field(default=1.0, gt=0, le=1)
    """Chance that it acts on one occasion: a run, a bout of tests. Below one it comes and goes."""
    steady: tuple[str, ...] = ()
    """Effects of one that comes and goes that are there all the time: what can be seen of it."""
    unseen: str = Field(default="", max_length=200)
    """Why no check sees it by eye, hand or meter alone; empty where one does."""


class EffectRecord(Record):
    """Something true of the machine whether or not anybody looks; the first state is normal."""

    name: str
    states: tuple[str, ...] = Field(min_length=2)
    background: Chances | Chance = 0.005
    """Chance of the states that are not normal on a machine without a fault; chosen, one in two
    hundred."""
    keep_off: bool = False
    """Whether a machine that shows it had better not be plugged in to look for the danger."""
    is_fault: bool = False
    """Whether its states are a fault itself, seen or measured at the part: whoever sees one has
    seen the fault."""


class OutcomeRecord(Record):
    """One answer to a check, and the state it reports."""

    label: str
    state: str


class Window(Record):
    """An expected value. ``low`` and ``high`` in the unit given, with where it comes from and how
    sure that is."""

    low: float
    high: float
    unit: str
    source: str
    grade: Grade

    @model_validator(mode="after")
    def _ordered(self) -> "Window":
        if self.low > self.high:
            raise ValueError(f"low {self.low} above high {self.high}, expected low below high")
        return self


class CurveRecord(Record):
    """How an expected value moves with what it is measured at: by temperature or by level, the
    value. Between the points of a ``thermistor`` its ohm goes by the beta equation, else it goes
    straight."""

    against: Literal["degC", "millimeter"]
    unit: str
    points: dict[float, float] = Field(min_length=2, max_length=60)
    within: float = Field(default=0.08, gt=0, lt=0.5)
    """By which share a sound one may be off."""
    thermistor: bool = False
    source: str
    grade: Grade

    @model_validator(mode="after")
    def _in_order(self) -> "CurveRecord":
        at = list(self.points)
        if at != sorted(at):
            raise ValueError(f"found points at {at}, expected them from least to most")
        if self.thermistor and min(self.points.values()) <= 0:
            raise ValueError("found a point at or below 0 ohm, expected more")
        return self


class MeasureRecord(Record):
    """How a check is measured: quantity, terminals, where the expected value comes from, which band
    is which outcome. A winding of ``copper`` is judged at the temperature it has."""

    quantity: str
    terminals: str
    value: str
    physics: PhysicsName | None = None
    generic: Window | None = None
    copper: bool = False
    bands: dict[Band, str]
    at_volts: float | None = Field(default=None, gt=0)
    """The mains the generic window is for. On another mains a resistance goes with the square of
    it, a current with its inverse: the same power (R = U²/P, I = P/U)."""
    limit: LimitName | None = None
    """Which limit of the shop's chosen set stands in place of the generic one."""

    def outcome_of(self, band: Band) -> str:
        """Return the outcome a band stands for; of one that is not named, that of the nearest."""
        near = min(self.bands, key=lambda name: abs(BANDS.index(name) - BANDS.index(band)))
        return self.bands[near]

    @property
    def side(self) -> Literal["", "at least", "at most"]:
        """Return on which side alone a limit stands: "at most" where too little is as good as
        right, "at least" where too much is; empty where both sides are judged."""
        right = self.outcome_of("in")
        if all(self.outcome_of(band) == right for band in ("short", "low")):
            return "at most"
        if all(self.outcome_of(band) == right for band in ("high", "open")):
            return "at least"
        return ""


class HowDone(Record):
    """How a check is done: what it wants and takes, by whom and with what, and how far it is to be
    believed."""

    reliability: float = Field(default=0.93, gt=0.5, lt=1)
    needs: Needs = Needs()
    minutes: float | None = Field(default=None, gt=0)
    tool: str = "none"
    who: Who = "technician"
    acts: tuple[Act, ...] | None = None
    """What doing it does to the machine; None for what follows of its needs: plugged in, it
    runs."""
    steps: tuple[str, ...] = ()
    caution: str | None = None
    why: str | None = None
    measure: MeasureRecord | None = None


class CheckRecord(HowDone):
    """A question put to the machine. It reads exactly one effect; its outcomes are the technician's
    words."""

    name: str
    reads: str
    component: str | None = None
    at: str | None = None
    plug: str | None = None
    """The component at whose plug it is done: only what has to be off for that."""
    asks: dict[str, tuple[str, ...]] = {}
    """By component, what its kind demands and this check meets."""
    outcomes: dict[str, OutcomeRecord]
    table: dict[str, Chances] | None = None
    repeatability: float = Field(default=0.9, ge=0, le=1)
    provokes: dict[str, Chance] = {}
    """Faults that come and go which it makes act, each with the chance that they then do."""
    card: bool = False
    """Whether it is judged by what the programmes are meant to do; they are shown beside it."""
    watches: bool = False
    """Whether it is a run through every function: it shows all a customer could complain of."""

    @model_validator(mode="before")
    @classmethod
    def _short_outcomes(cls, data: Any) -> Any:
        if isinstance(data, dict) and isinstance(data.get("outcomes"), dict):
            outcomes = {
                key: {"label": value, "state": key} if isinstance(value, str) else value
                for key, value in data["outcomes"].items()
            }
            data = {**data, "outcomes": outcomes}
        return data

    @model_validator(mode="before")
    @classmethod
    def _short_asks(cls, data: Any) -> Any:
        if isinstance(data, dict) and isinstance(data.get("asks"), dict):
            asks = {
                component: (demands,) if isinstance(demands, str) else demands
                for component, demands in data["asks"].items()
            }
            data = {**data, "asks": asks}
        return data


class ComplaintRecord(Record):
    """A phrase of the customer's that is a finding. ``hard_to_miss`` is the chance it would have
    been mentioned."""

    says: str
    phase: Phase
    reads: str
    words: tuple[str, ...]
    reports: Chances
    hard_to_miss: float = Field(default=0.0, ge=0, le=1)
    by_slip: float = Field(default=0.01, gt=0, lt=1)
    """Chance that it is said where nothing is so, a slip of the tongue or of the ear; chosen, for
    what is a matter of impression."""


class MarkRecord(Record):
    """Something a technician marks where it was seen or heard, the effect it speaks of and the
    state it shows.

    ``phases`` are those it should show itself in; empty when it does not matter when.
    """

    kind: str
    at: str
    reads: str
    shows: str
    phases: tuple[Phase, ...] = ()


class DetailRecord(Record):
    """A part drawn enlarged: which of its spots each fault is seen at, and what a hand or a probe
    touches at its numbers."""

    name: str
    spots: dict[str, tuple[str, ...]]
    touch: tuple[str, ...] = ()


class Fastener(Record):
    """Screws, clips and the like of one operation."""

    kind: str
    count: int = Field(ge=1, le=200)
    size: str | None = None
    head: str | None = None
    hand: Literal["right", "left"] = "right"
    place: str | None = None
    length_mm: float | None = Field(default=None, gt=0, le=500)
    """How long it is, where another in the same step differs."""
    slacken: bool = False
    """Whether it is only slackened: it holds an open clip and stays."""


class OperationRecord(Record):
    """Takes one thing off."""

    name: str
    minutes: float = Field(gt=0)
    tool: str = "none"
    after: tuple[str, ...] = ()
    needs: Needs = Needs(power="off")
    fasteners: tuple[Fastener, ...] = ()
    caution: str | None = None
    mark: str | None = None
    back: str | None = None
    """What to check when it goes back."""
    instead: str | None = None
    """The operation it does the same as, another way."""
    people: int = Field(default=1, ge=1, le=3)
    soak_minutes: float = Field(default=0, ge=0, le=240)
    """How long it soaks after it was oiled, before it comes off; other work goes on meanwhile."""
    back_minutes: float | None = Field(default=None, gt=0)
    """How long it takes to put back, where that is not what it takes to take off."""
    back_after: tuple[str, ...] = ()
    """What else has to be back before it goes back: the hose before the cover."""
    owes: tuple[ProofName, ...] = ()
    """Proofs owed once it was open, whatever was repaired."""
    risk: str | None = None
    """What this way may cost, where there is another."""
    opens: tuple[Opens, ...] = ()
    """What it lays open; nothing where it may stand so while the machine runs."""
    face: Face = "front"
    """From where it is done."""


class ServiceStep(Record):
    """One thing the service mode does: what to watch, the check it answers, pass band, time-out,
    when to stop it."""

    name: str
    does: str
    watch: str
    answers: str
    low: float | None = None
    high: float | None = None
    unit: str | None = None
    timeout_s: float = Field(gt=0)
    stop: str = "Stop it at once if something knocks, smokes or runs over."
    runs: Literal["", "lock", "fill", "turn", "drain", "spin", "heat", "dry"] = ""
    """What a machine of physics does in it; empty where it does nothing that moves."""


class StoredCharge(Record):
    """A circuit that holds its charge after the plug is out: full at first, after the wait fallen
    by its own discharge to what may be touched (``touch_below_v`` of the invariants)."""

    where: str
    full_v: float = Field(gt=0)
    wait_minutes: float = Field(gt=0)
    source: str


class CodeRecord(Record):
    """One stored code: how it shows, the effect the board watches, the chance that it is stored
    when that is bad. One of an assembly shows no way of its own: it is known by its meaning."""

    show: tuple[int, ...] = ()
    """Counts per lamp or group, sums of lamp weights per page, 0, 1 and 2 for dark, lit and
    blinking lamps, 0 and 1 for low and high tones, or the tone and the length of a bar."""
    text: str | None = Field(default=None, max_length=8)
    """What a display shows."""
    name: str
    reads: str
    stored: Chances
    stale: float = Field(default=0.04, ge=0, le=1)
    family: str | None = None
    formerly: tuple[str, ...] = ()
    """Names it had in earlier versions of its sheet; jobs of then still speak of it."""


class Pin(Record):
    """One pin of a plug: the colour of its wire, and where it goes."""

    wire: str = Field(max_length=30)
    goes: str = Field(max_length=60)


class ConnectorRecord(Record):
    """A plug as it is seen from the side that is probed: rows of numbered pins, and which pairs
    each measurement touches, one after the other."""

    name: str = Field(max_length=60)
    seen: str = Field(max_length=80)
    """From which side it is drawn, and what is up."""
    rows: tuple[tuple[int, ...], ...] = Field(min_length=1, max_length=4)
    pins: dict[int, Pin] = Field(min_length=1, max_length=40)
    pairs: dict[str, tuple[tuple[int, int], ...]] = {}
    grade: Grade = "guessed"
    source: str | None = None

    @model_validator(mode="after")
    def _every_pin_is_there(self) -> "ConnectorRecord":
        drawn = [pin for row in self.rows for pin in row]
        if sorted(drawn) != sorted(self.pins):
            raise ValueError(f"found the pins {sorted(drawn)}, expected {sorted(self.pins)}")
        for check, pairs in self.pairs.items():
            for pair in pairs:
                if pair[0] == pair[1] or not set(pair) <= set(self.pins):
                    raise ValueError(f"found the pair {pair} for '{check}', expected two pins")
        return self


class AssemblyFile(Record):
    """assemblies/NAME.yaml: what a drain, an inlet, a belt drive is."""

    assembly: str
    name: str
    components: dict[str, Component] = {}
    effects: dict[str, EffectRecord] = {}
    faults: dict[str, FaultRecord] = {}
    checks: dict[str, CheckRecord] = {}
    complaints: dict[str, ComplaintRecord] = {}
    marks: dict[str, MarkRecord] = {}
    details: dict[str, DetailRecord] = {}
    operations: dict[str, OperationRecord] = {}
    service: dict[str, ServiceStep] = {}
    codes: dict[str, CodeRecord] = {}
    """What boards store of it, by meaning alone: for a machine whose sheet nobody has typed in."""
    connectors: dict[str, ConnectorRecord] = {}
    """By component, its plug."""
    out: dict[str, tuple[str, ...]] = {}
    """By component, the operations that take it out: its own way, beyond what has to be off to
    reach it."""


class Omit(Record):
    """What an archetype leaves out of its assemblies; a component takes its faults, checks and
    operations with it."""

    components: tuple[str, ...] = ()
    faults: tuple[str, ...] = ()
    checks: tuple[str, ...] = ()
    operations: tuple[str, ...] = ()
