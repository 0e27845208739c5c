"""A job's log being written, checked by the rules as it grows."""

from datetime import UTC, datetime, timedelta

import pytest

from bottega.core.job.events import (
    Checked,
    Complained,
    Decided,
    Event,
    Opened,
    PanelRead,
    Proved,
    PutBack,
    Repaired,
    StateChanged,
    TookOff,
)
from bottega.core.job.fold import fold
from bottega.core.job.kinds import allow
from bottega.core.job.refusal import JobRefusal
from bottega.core.job.safety import Law
from bottega.core.library.shelf import shipped_shelf

INVARIANTS = shipped_shelf().tables.invariants
PROOFS = shipped_shelf().tables.proofs


class Log:
    """A job's log being written, checked by the rules as it grows."""

    def __init__(self, machine, **opened):
        self.machine, self.events = machine, []
        said = {"power": "on", "taps": "open", "drum": "empty", "door": "shut", **opened}
        self._append(Opened(archetype="FB", age_years=7, place="Houseboat", **said))

    def _append(self, body):
        self.events.append(
            Event(
                id=f"event-{len(self.events):04d}",
                at=self.now,
                author="Tomo",
                body=body,
            )
        )
        return self

    @property
    def now(self):
        """A quarter of an hour lies between two events, so that every charge was waited for."""
        return datetime(2031, 5, 14, tzinfo=UTC) + timedelta(minutes=15 * len(self.events))

    @property
    def law(self):
        return Law(INVARIANTS, PROOFS, at=self.now)

    @property
    def job(self):
        return fold(self.events, self.machine.charge is not None)

    def do(self, *bodies):
        for body in bodies:
            allow(self.job, self.machine, body, self.law)
            self._append(body)
        return self

    def refused(self, body, words):
        with pytest.raises(JobRefusal, match=words):
            allow(self.job, self.machine, body, self.law)


def off(*operations):
    return [TookOff(operation=operation) for operation in operations]


UNPLUG = StateChanged(what="power", to="off")


PLUG_IN = StateChanged(what="power", to="on")


TIPPED, UPRIGHT = (StateChanged(what="posture", to=to) for to in ("tipped", "upright"))
SHUT, OPEN = (StateChanged(what="taps", to=to) for to in ("shut", "open"))
PUMP_OUT = [SHUT, TookOff(operation="base_cover"), TIPPED, TookOff(operation="pump_out")]
PUMP_IN = [PutBack(operation="pump_out"), UPRIGHT, PutBack(operation="base_cover"), OPEN]
RUN_WELL = Proved(proof="run", went="well", programme="Cottons 60", watched_to="spin")


CLOSE = [PutBack(operation="filter_cap"), PutBack(operation="filter_flap")]
"""What to_repair took off, back on."""


DRAIN = StateChanged(what="water", to="out")


def to_repair(log, *looked):
    """Bring a job to a fitted pump; ``looked`` is what was looked at before it went in."""
    return log.do(
        Complained(text="hums", said=("says_water_stays", "says_hums")),
        PanelRead(result="codes", shown=((3, 2),), codes=("3-2",)),
        UNPLUG,
        DRAIN,
        *off("filter_flap", "filter_cap"),
        Checked(check="turn_rotor", outcome="free"),
        *looked,
        Decided(choice="repair", repair="drain_pump.part"),
        *PUMP_OUT,
        Repaired(repair="drain_pump.part"),
        *PUMP_IN,
    )
