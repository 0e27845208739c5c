"""The events of a job. The log of them is the job; nothing is edited, an event is withdrawn by
another event."""

from datetime import UTC, date, datetime
from typing import Annotated, Literal, get_args

from pydantic import AwareDatetime, BaseModel, ConfigDict, Field

from bottega.core.library.records import Grade
from bottega.core.library.sheet import Plate
from bottega.core.library.vocabulary import (
    Band,
    Door,
    Drum,
    Phase,
    Plug,
    ProofName,
    StateField,
    Taps,
    Unknown,
    Water,
)

MOST_TEXT = 2000
"""Letters of a person's words; chosen, a page of typing."""
Text = Annotated[str, Field(max_length=MOST_TEXT)]
Id = Annotated[str, Field(min_length=1, max_length=80)]
"""An id of the library; chosen, twice the longest."""
Moment = Annotated[
    AwareDatetime, Field(gt=datetime(1990, 1, 1, tzinfo=UTC), lt=datetime(2200, 1, 1, tzinfo=UTC))
]
"""A time something was noted at; outside these centuries a clock was wrong, and zones cannot be
reckoned at the ends."""
Day = Annotated[date, Field(gt=date(1990, 1, 1), lt=date(2200, 1, 1))]
"""A day, within the same centuries."""


class Body(BaseModel):
    """What happened. Frozen; unknown keys are refused."""

    model_config = ConfigDict(frozen=True, extra="forbid", allow_inf_nan=False)


Often = Literal["", "every time", "now and then"]
"""How often the customer says it happens; empty when nobody asked."""
OFTEN: tuple[Often, ...] = get_args(Often)


class Opened(Body):
    """A job was taken: which machine, how old, where, and how it arrived."""

    kind: Literal["opened"] = "opened"
    archetype: Id
    sheet: Id | None = None
    revision: str = Field(default="", max_length=40)
    plate: Plate = Plate()
    age_years: float | None = Field(default=None, ge=0, le=60)
    """None when nobody knows it."""
    place: str = Field(min_length=1, max_length=120)
    customer: str = Field(default="", max_length=120)
    history: tuple[Text, ...] = ()
    power: Plug = "unknown"
    taps: Taps | Unknown = "unknown"
    water: Water = "unknown"
    drum: Drum | Unknown = "unknown"
    door: Door | Unknown = "unknown"
    arrival: Text = ""
    odds: dict[Id, Annotated[float, Field(ge=0.05, le=20)]] = {}
    """By what the shop's own history multiplied the rates of faults when the job was opened."""


class Complained(Body):
    """The customer's words, and the phrases in them that are findings. They are said instead of
    what was noted before, unless they add to it."""

    kind: Literal["complained"] = "complained"
    text: Text
    said: tuple[Id, ...] = ()
    well: tuple[Id, ...] = ()
    """Phrases the customer says are not so: it drains well, it does not leak."""
    often: Often = ""
    adds: bool = False

    def beside(self, before: "Complained") -> "Complained":
        """Return both complaints as one; where they contradict each other this one stands."""
        said = [name for name in before.said if name not in self.well]
        well = [name for name in before.well if name not in self.said]
        return Complained(
            text=f"{before.text} {self.text}".strip()[:MOST_TEXT],
            said=tuple(dict.fromkeys([*said, *self.said])),
            well=tuple(dict.fromkeys([*well, *self.well])),
            often=self.often or before.often,
        )


class StateChanged(Body):
    """The machine was brought into another state. A discharge carries its confirmation."""

    kind: Literal["state_changed"] = "state_changed"
    what: StateField
    to: Literal[
        "on", "off", "open", "shut", "in", "out", "none", "empty", "loaded", "upright", "tipped"
    ]
    measured_v: float | None = Field(default=None, ge=0, le=1000)
    waited_min: float | None = Field(default=None, ge=0, le=600)
    for_check: Annotated[str, Field(max_length=80)] = ""
    """The check it is plugged in for while something is open: a declared live test."""
    qualified: Annotated[str, Field(max_length=60)] = ""
    """Who makes the live test; empty where nobody said so."""
    ticked: bool = False
    """Whether he ticked that the local rule lets him."""


class TookOff(Body):
    """An operation was done: something is off."""

    kind: Literal["took_off"] = "took_off"
    operation: Id
    tag: Literal["", "keep", "inspect", "discard", "salvage"] = ""
    """What becomes of what came off; empty where nobody said."""
    photo: Annotated[str, Field(max_length=80)] = ""
    """How it lay before it was touched, by the name it is kept under."""
    note: Text = ""


class PutBack(Body):
    """What was off is on again."""

    kind: Literal["put_back"] = "put_back"
    operation: Id
    left: int = Field(default=0, ge=0, le=200)
    """Fasteners of its cell of the tray that are left over."""
    note: Text = ""


class Soaked(Body):
    """Oil was laid on what is stuck; it comes off once that has soaked."""

    kind: Literal["soaked"] = "soaked"
    operation: Id
    minutes: float = Field(gt=0, le=2880)


class Stuck(Body):
    """Something will not come off with what is at hand, or it moves after all."""

    kind: Literal["stuck"] = "stuck"
    operation: Id
    moves: bool = False
    note: Text = ""


Order = Literal["", "newest first", "oldest first"]
"""The order of stored codes; empty where nobody knows it."""


class PanelRead(Body):
    """The memory was read: codes in the order shown, none stored, or it could not be read."""

    kind: Literal["panel_read"] = "panel_read"
    result: Literal["codes", "none", "unreadable"]
    shown: tuple[tuple[int, ...], ...] = Field(default=(), max_length=20)
    codes: tuple[Id, ...] = ()
    unlisted: tuple[Annotated[str, Field(min_length=1, max_length=40)], ...] = Field(
        default=(), max_length=20
    )
    """What was shown and is in no table, as it was written down."""
    order: Order = ""
    stays: bool = False
    """Whether it shows by itself, again and again, until the dial moves."""
    version: str = Field(default="", max_length=40)
    """The software version that flashed by."""
    photo: str = Field(default="", pattern=r"^([0-9a-f]{64})?$")
    """The name of a photo of it; empty where none was taken."""
    attempts: int = Field(default=0, ge=0, le=99)
    """How often the way in had failed when it could not be read; nought where nobody counted."""
    told: bool = False
    """Whether the customer told of it: nobody has read the memory, and a code that was not named
    may be there all the same."""
    note: Text = ""


class EntryTried(Body):
    """Somebody tried to enter the service mode: it listened, or it did not."""

    kind: Literal["entry_tried"] = "entry_tried"
    listened: bool = False


class CodesCleared(Body):
    """The stored codes were cleared."""

    kind: Literal["codes_cleared"] = "codes_cleared"


class Reading(Body):
    """What the meter showed, in the unit of the check, and what it was judged against."""

    typed: str = Field(max_length=40)
    amount: float | None
    """None when the meter shows overload (an open circuit)."""
    unit: str = Field(max_length=30)
    verdict: Band
    borderline: bool = False
    low: float
    high: float
    source: str
    grade: Grade
    weights: dict[str, Annotated[float, Field(ge=0, le=1)]]
    terminals: str = Field(default="", max_length=300)
    """Where the probes were; empty in readings of before that was noted."""
    instrument: str = Field(default="", max_length=80)
    """What it was read with, of the shop's register; empty where nothing is written down."""
    conditions: str = Field(default="", max_length=200)
    """How the machine stood, and the mains of the shop."""
    at: float | None = None
    """What the expected value moves with: the part's temperature in °C, or the level in mm."""
    at_unit: Literal["", "degC", "millimeter"] = ""


class Checked(Body):
    """A check was done with this outcome; a measurement carries its reading."""

    kind: Literal["checked"] = "checked"
    check: Id
    outcome: Id
    reading: Reading | None = None
    showed: tuple[Id, ...] = ()
    """Phrases for what was seen in a run through every function that was not all well."""
    step: Annotated[str, Field(max_length=80)] = ""
    """The service step it was seen in; one that was broken off settles nothing."""
    seconds: float | None = Field(default=None, ge=0, le=86400)
    """How long the step ran."""
    leaves: dict[Literal["water", "door"], Literal["in", "out", "unknown", "open", "shut"]] = {}
    """How the machine stands after it, where that is otherwise than before."""
    old_part_of: str = Field(default="", max_length=64)
    """The event of the repair whose old part was looked at on the bench; empty for what is in the
    machine."""
    note: Text = ""


class Marked(Body):
    """Something was seen or heard at a place: what, in which phase, and whether it is live or an
    old trail.

    ``x`` and ``y`` say where on the drawing, in its own units; without them it stands at the part.
    """

    kind: Literal["marked"] = "marked"
    what: Literal["water", "oil", "scum", "soot", "rub", "noise"]
    at: Id
    phase: Phase
    age: Literal["live", "old", "unsure"]
    x: float | None = Field(default=None, ge=0, le=1000)
    y: float | None = Field(default=None, ge=0, le=1000)
    note: Text = ""


class Sighted(Body):
    """A fault lies before somebody's eyes, without the check that would ask for it."""

    kind: Literal["sighted"] = "sighted"
    fault: Id
    note: Text = ""


class SetAside(Body):
    """A check cannot be done, or not now. Every other check for which the same reason holds goes
    with it."""

    kind: Literal["set_aside"] = "set_aside"
    check: Id
    why: Literal["not_now", "tool_missing", "not_allowed", "too_dangerous", "no_access", "other"]
    reason: Text = ""


class QuoteLine(Body):
    """One line of a quote: money before tax in the shop's currency."""

    text: str
    amount: float


Choice = Literal["repair", "refer", "replace", "nothing_wrong"]


class Decided(Body):
    """What is to be done, with the quote as it stood."""

    kind: Literal["decided"] = "decided"
    choice: Choice
    repair: Id | None = None
    also: tuple[Id, ...] = Field(default=(), max_length=2)
    """The repairs that are made together with ``repair``, after it."""
    lines: tuple[QuoteLine, ...] = ()
    total: float = Field(default=0, ge=0)
    currency: str = Field(default="EUR", max_length=3)
    reason: Text = ""

    @property
    def repairs(self) -> tuple[str, ...]:
        """Return the repairs decided on, in the order in which they are made."""
        return (self.repair, *self.also) if self.repair else ()


class Repaired(Body):
    """Something was put right."""

    kind: Literal["repaired"] = "repaired"
    repair: Id
    part_number: str = Field(default="", max_length=60)
    compared: bool = False
    """Whether plug, fixing and size of a part with another number were compared with the old
    one's."""
    note: Text = ""


class Recheck(Body):
    """A cure that is temporary, or that nobody can explain, is looked at again on a day."""

    kind: Literal["recheck"] = "recheck"
    repair: Id
    why: Literal["temporary", "unexplained"]
    on: Day
    note: Text = ""


class Substituted(Body):
    """Stock parts were chosen in place of the maker's, measured before they go in."""

    kind: Literal["substituted"] = "substituted"
    component: Id
    parts: tuple[Annotated[str, Field(min_length=1, max_length=60)], ...] = Field(
        min_length=1, max_length=6
    )
    price_eur: float = Field(ge=0, le=10_000)
    seat: Annotated[str, Field(max_length=300)]
    """Every dimension of the seat as it was measured, in words."""
    on: Day | None = None
    """The day they are here; None for what lies on the shelf."""
    note: Text = ""


class SeatingMeasured(Body):
    """How a part sits, measured at points evenly round, in mm, and held against its window."""

    kind: Literal["seating_measured"] = "seating_measured"
    what: Annotated[str, Field(min_length=1, max_length=120)]
    points_mm: tuple[Annotated[float, Field(ge=0, le=500)], ...] = Field(
        min_length=3, max_length=12
    )
    low: float
    high: float
    tilt_mm: float = Field(ge=0)
    mean_mm: float
    verdict: Literal["sits", "too deep", "too far out", "tilted"]
    note: Text = ""


class Limits(Body):
    """The limits an electrical check was held against, as they stood then, and their name."""

    name: str = Field(max_length=80)
    earth_ohm: float = Field(gt=0)
    insulation_mohm: float = Field(gt=0)
    leakage_ma: float = Field(gt=0)


class Proved(Body):
    """A proof of the repair: a run, a leak watch, a spin, a lock test, a calibration, an earth
    test."""

    kind: Literal["proved"] = "proved"
    proof: ProofName
    went: Literal["well", "badly"]
    insulation_mohm: float | None = Field(default=None, ge=0, le=1e5)
    """Insulation as measured, in megohm; of an electrical proof."""
    earth_ohm: float | None = Field(default=None, ge=0, le=1e4)
    """From the plug's earth pin to metal that can be touched."""
    leakage_ma: float | None = Field(default=None, ge=0, le=1e4)
    """Through the protective conductor, in milliampere."""
    polarity: Literal["", "right", "wrong"] = ""
    """Of socket and cord, where somebody looked."""
    limits: Limits | None = None
    no_instrument: bool = False
    """Said of an electrical proof that was made without measuring; the report says so too."""
    still: tuple[Id, ...] = ()
    """Complaints that showed again in a run that went badly; none named, all did."""
    programme: Annotated[str, Field(max_length=80)] = ""
    """The programme that was run; empty where nobody said it."""
    watched_to: Phase | Literal[""] = ""
    """The phase it was watched to."""
    seconds: float | None = Field(default=None, ge=0, le=86400)
    """How long it took by the stopwatch."""
    stalled: Annotated[str, Field(max_length=80)] = ""
    """The phase of a calibration it stalled in."""
    note: Text = ""

    def names(self, complaint: str) -> bool:
        """Return whether it names a complaint as still so, or names none at all."""
        return not self.still or complaint in self.still


class ProofBegun(Body):
    """A proof by time was begun: its clock runs from here, as long as the machine stands so."""

    kind: Literal["proof_begun"] = "proof_begun"
    proof: ProofName


class CauseClosed(Body):
    """What made a part fail was looked into."""

    kind: Literal["cause_closed"] = "cause_closed"
    fault: Id
    answer: Annotated[str, Field(min_length=1, max_length=2000)]


DebtKind = Literal[
    "back", "tray", "temporary", "cause", "follow", "recheck", "clear", "check", "proof"
]
"""What can be owed: something put back, a fastener left over, something undone, a cause or
consequence looked into, a day to look again, the memory cleared, the telling check repeated, a
proof by running."""


class Waived(Body):
    """Something owed, or a station, is waived with a written reason. ``subject`` is its id within
    its kind."""

    kind: Literal["waived"] = "waived"
    owed: DebtKind | Literal["station"]
    subject: Id
    reason: Annotated[str, Field(min_length=3, max_length=2000)]


class Waiting(Body):
    """What the job waits for."""

    kind: Literal["waiting"] = "waiting"
    on: Literal["nothing", "part", "customer", "clock"]
    until: Day | None = None
    note: Text = ""


class Temporary(Body):
    """Something temporary was made (a prop, tape, a striker in the lock), or undone."""

    kind: Literal["temporary"] = "temporary"
    what: Annotated[str, Field(min_length=2, max_length=200)]
    undone: bool = False
    interlock: bool = False
    """Whether it defeats a lock or a switch that keeps people from what moves or is live."""
    reason: Text = ""


class Noted(Body):
    """A note."""

    kind: Literal["noted"] = "noted"
    text: Annotated[str, Field(min_length=1, max_length=2000)]


Mark = Annotated[str, Field(max_length=40, pattern=r"^[^;\n]*$")]
"""What is written on a machine: the maker's serial, or the shop's own number."""


class Identified(Body):
    """Which washer it is: by the shop's own number on it, by the maker's serial, or by both."""

    kind: Literal["identified"] = "identified"
    label: Mark = ""
    serial: Mark = ""


class Rebased(Body):
    """From here on the job is diagnosed with another revision of its sheet, or with a sheet where
    it had none."""

    kind: Literal["rebased"] = "rebased"
    revision: str = Field(min_length=6, max_length=40)
    sheet: Id | None = None


class HandedOver(Body):
    """The job was handed over."""

    kind: Literal["handed_over"] = "handed_over"
    advice: Text = ""


class Withdrawn(Body):
    """An earlier event does not count any more; withdrawing a withdrawal restores it."""

    kind: Literal["withdrawn"] = "withdrawn"
    event: Id
    reason: Text = ""


AnyBody = Annotated[
    Opened
    | Complained
    | StateChanged
    | TookOff
    | PutBack
    | Soaked
    | Stuck
    | PanelRead
    | EntryTried
    | CodesCleared
    | Checked
    | Marked
    | Sighted
    | SetAside
    | Decided
    | Repaired
    | Recheck
    | Substituted
    | SeatingMeasured
    | Proved
    | ProofBegun
    | CauseClosed
    | Waived
    | Waiting
    | Temporary
    | Noted
    | Identified
    | Rebased
    | HandedOver
    | Withdrawn,
    Field(discriminator="kind"),
]


class Event(BaseModel):
    """One event with its client-made id, time and author. Sent twice, it is stored once."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    id: Annotated[str, Field(pattern=r"^[A-Za-z0-9-]{8,64}$")]
    at: Moment
    author: str = Field(min_length=1, max_length=60)
    body: AnyBody
