"""What a record of a run is held against: the pass band of a step, and the rating plate."""

from dataclasses import dataclass

from bottega.app.answer import Answer
from bottega.app.measure.reading import plate_of
from bottega.app.service.run import Led
from bottega.core.measure.physics import TOLERANCE_ELEMENT
from bottega.core.measure.trace import Shows

RECORDED = {
    "revolution / minute": "drum_rpm",
    "degC": "water_c",
    "watt": "watts",
    "liter": "level_l",
}
"""What is recorded, by the unit of a step's pass band."""
OTHERS_W = 100.0
"""What runs beside the element while it heats, at most, in watt; chosen, pump, lock and board."""


@dataclass(frozen=True)
class Sum:
    """One sum of a record: what is held against what, in watt, and whether they agree."""

    words: str
    found_w: float
    low_w: float
    high_w: float

    @property
    def agrees(self) -> bool:
        """Return whether what was found lies within."""
        return self.low_w <= self.found_w <= self.high_w


def bands_of(answer: Answer, led: Led | None) -> dict[str, tuple[float, float]]:
    """Return the pass bands of a step by what is recorded: its own, and of one that heats the
    watts of the plate."""
    if led is None:
        return {}
    found = {}
    field = RECORDED.get(led.step.unit or "")
    if field and led.step.low is not None and led.step.high is not None:
        found[field] = (led.step.low, led.step.high)
    heater = plate_of(answer.job, answer.machine).heater_w
    if led.step.runs == "heat" and heater:
        least, most = TOLERANCE_ELEMENT
        found["watts"] = (least * heater, most * heater + OTHERS_W)
    return found


def sums(answer: Answer, shown: Shows) -> list[Sum]:
    """Return the sums of a record: the largest load switched on against the plate's element, and
    that load with what ran before against the most in all."""
    heater = plate_of(answer.job, answer.machine).heater_w
    on = max(shown.switched, key=lambda one: one.after_w - one.before_w, default=None)
    if on is None or heater is None or shown.most_w is None or on.after_w <= on.before_w:
        return []
    least, most = TOLERANCE_ELEMENT
    load, low, high = on.after_w - on.before_w, least * heater, most * heater
    return [
        Sum("the largest load switched on, against the element", load, low, high),
        Sum(
            "the most in all, against the element and what ran before",
            shown.most_w,
            on.before_w + low,
            on.before_w + high + OTHERS_W,
        ),
    ]
