"""The record of a sheet's panel: what stands on it, how it shows a code, how its service mode is
entered."""

from typing import Annotated, Any, Literal

from pydantic import Field, field_validator

from bottega.core.library.records import Chances, Record

NOUNS = {"flash_trains": "flashes", "strokes": "strokes", "beeps": "beeps", "lamp_pattern": "lit"}


class UnreadableMemory(Record):
    """What it says of the machine when its memory could not be read: the effect, and P(unreadable |
    state)."""

    reads: str
    chances: Chances
    otherwise: float = Field(default=0.15, gt=0, lt=1)


class Face(Record):
    """What stands on a panel, as it is drawn; what it has not stays empty."""

    dial: tuple[str, ...] = Field(default=(), max_length=40)
    """Places of the dial, clockwise from the top; a place without a name is an empty word."""
    keys: tuple[str, ...] = Field(default=(), max_length=24)
    lamps: tuple[Annotated[tuple[str, ...], Field(max_length=24)], ...] = Field(
        default=(), max_length=6
    )
    """Rows of lamps, from the left."""
    ring: tuple[str, ...] = Field(default=(), max_length=24)
    """Lamps round the dial, clockwise from the top."""
    display: int = Field(default=0, ge=0, le=8)
    """Characters of its display."""
    bar: int = Field(default=0, ge=0, le=20)
    """Segments of a bar that grows from the left."""
    door: bool = False
    """Whether the door or lid plays a part in how it is entered."""

    @property
    def lights(self) -> tuple[str, ...]:
        """Return its single lamps, ring or rows, in the order they are read."""
        return self.ring or tuple(lamp for row in self.lamps for lamp in row)


class EntryStep(Record):
    """One step into the service mode: what to do, with what of the panel, and in what time."""

    say: str
    does: Literal["look", "press", "hold", "let_go", "turn", "open", "shut", "plug", "wait"] = (
        "look"
    )
    at: tuple[str, ...] = ()
    """Keys, lamps or places of the dial it is done with; or door, dial, plug."""
    clicks: int = Field(default=0, ge=-60, le=60)
    """Clicks of the dial, to the right if more than nought, to the left if less."""
    times: int = Field(default=1, ge=1, le=40)
    beat_s: float | None = Field(default=None, gt=0.1, le=30)
    """From one to the next, in seconds; nothing where the pace does not matter."""
    within_s: float | None = Field(default=None, gt=0, le=600)
    """The time for the whole step, in seconds."""


class LiveValue(Record):
    """A number the panel shows in service mode, and what it means: shown x times + plus."""

    name: str
    unit: str
    times: float = 1.0
    plus: float = 0.0
    valid: str | None = None
    """In which state of the machine the number says anything."""


class CalibrationPhase(Record):
    """One thing a calibration does: how long it takes, and what it means when it stalls there."""

    name: str
    minutes: float = Field(gt=0, le=60)
    reads: str
    """The effect it needs to be normal."""
    stalls: Chances
    """By state of that effect the chance that it stalls there."""
    otherwise: float = Field(default=0.02, gt=0, lt=1)


class CalibrationRecord(Record):
    """A run by which the machine learns its own weights or places, and which exercises much."""

    steps: tuple[str, ...] = ()
    phases: dict[str, CalibrationPhase] = {}


class PanelRecord(Record):
    """How the panel speaks: what it shows a code with, the entry sequence, how the memory is
    cleared."""

    kind: Literal[
        "flash_trains",
        "strokes",
        "beeps",
        "melody",
        "display",
        "bar",
        "lamp_weights",
        "lamp_pattern",
    ]
    lamps: tuple[str, ...] = Field(min_length=1, max_length=24)
    """Lamps, groups of strokes or beeps, low and high tone, pages of a weighted row, the tone and
    the bar, or the name of the display."""
    weights: tuple[Annotated[int, Field(ge=1, le=999)], ...] = Field(default=(), max_length=12)
    """Weights of the lamps of a row that are added up, in the order of the panel."""
    most_flashes: int = Field(default=9, ge=1, le=99)
    """The highest figure of a group, the longest bar, or the longest melody."""
    long_counts: int = Field(default=5, ge=2, le=10)
    """What a long stroke counts; a short one counts one."""
    blinks: bool = False
    """Whether lamps of a pattern also blink."""
    segments: Literal[0, 7, 14] = 0
    """Bars each character of a display is made of; nought for one that shows any character."""
    face: Face = Face()
    how: str
    entry: tuple[EntryStep, ...]
    listens: str | None = None
    """What it shows once it has listened."""
    advice: tuple[str, ...] = ()
    """What to do otherwise after each attempt that failed, in turn; the usual advice if empty."""
    stop_after: int = Field(default=4, ge=1, le=20)
    """Attempts after which it is likelier the panel than the pace."""
    steps: str | None = None
    """What is pressed to go on from one service step to the next."""
    version: str | None = None
    """Where its software version flashes by."""
    live: dict[str, LiveValue] = {}
    clear: tuple[str, ...]
    unreadable: UnreadableMemory | None = None

    def cannot_show(self, shown: tuple[int, ...]) -> tuple[str, str] | None:
        """Return what was found and what was expected of figures this panel cannot show; None where
        it can."""
        if self.kind == "melody":
            if not 1 <= len(shown) <= self.most_flashes:
                return f"{len(shown)} tones", f"1 to {self.most_flashes}"
            if not set(shown) <= {0, 1}:
                return str(shown), f"0 for {self.lamps[0]} and 1 for the other"
            return None
        if len(shown) != len(self.lamps):
            return f"{len(shown)} counts", f"{len(self.lamps)}: " + " then ".join(self.lamps)
        what = NOUNS.get(self.kind, "lit")
        for n, (lamp, count) in enumerate(zip(self.lamps, shown, strict=True)):
            low, high = self._range(n)
            if not low <= count <= high:
                return f"{count} {lamp} {what}", f"{low} to {high}"
        return None

    def _range(self, place: int) -> tuple[int, int]:
        if self.kind == "lamp_pattern":
            return 0, 2 if self.blinks else 1
        if self.kind == "lamp_weights":
            return 0, sum(self.weights)
        if self.kind == "bar" and place == 0:
            return 0, 1
        return 1, self.most_flashes

    @field_validator("entry", mode="before")
    @classmethod
    def _plain_words_are_steps(cls, entry: Any) -> Any:
        """Sheets of before the coach, and anybody in a hurry, write a step as a sentence."""
        if not isinstance(entry, list | tuple):
            return entry
        return tuple({"say": step} if isinstance(step, str) else step for step in entry)
