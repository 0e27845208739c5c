"""What is recorded of a run: level, temperature, speed, current, power, a line a moment; as CSV."""

import csv
from collections.abc import Iterable
from dataclasses import astuple, dataclass, fields
from typing import TextIO

from bottega.rig.machine import Machine


@dataclass(frozen=True)
class Sample:
    """One moment: seconds since the beginning, litres, °C, turns a minute, ampere, watt,
    litre/minute."""

    seconds: float
    level_l: float
    water_c: float
    drum_rpm: float
    ampere: float
    watts: float
    in_l_min: float
    out_l_min: float


def sample(machine: Machine) -> Sample:
    """Return how a machine stands, as it is recorded."""
    now = machine.now
    return Sample(
        round(now.seconds, 2),
        round(now.tub_l, 3),
        round(machine.warmth.water_c, 2),
        round(now.drum_rpm, 1),
        round(now.ampere, 3),
        round(now.watts, 1),
        round(now.in_l_min, 2),
        round(now.out_l_min, 2),
    )


class Recorder:
    """Samples of a run from its beginning: when there are more than ``room``, every other one goes
    and from then on half as many are taken, so that a whole programme is seen at one look."""

    def __init__(self, room: int) -> None:
        self.room = room
        self.begin()

    def begin(self) -> None:
        """Forget what was recorded: a run begins."""
        self.samples: list[Sample] = []
        self._every_s = 1

    def note(self, machine: Machine) -> None:
        """Take a sample where one is due; called at every step of a machine."""
        if machine.now.seconds % self._every_s:
            return
        self.samples.append(sample(machine))
        if len(self.samples) > self.room:
            self._every_s *= 2
            self.samples = [one for one in self.samples if one.seconds % self._every_s == 0]


def write_csv(samples: Iterable[Sample], file: TextIO) -> None:
    """Write samples with a head of their names. Raises OSError where there is no room."""
    writer = csv.writer(file, lineterminator="\n")
    writer.writerow([field.name for field in fields(Sample)])
    writer.writerows(astuple(one) for one in samples)
