"""The mechanical timer: contacts on a cam that goes on by its clock. It waits for one thing alone,
the pressure switch while it fills; it measures nothing, knows nothing, and stores nothing."""

from bottega.rig.board import STANDS_S, Board, Sensed
from bottega.rig.programmes import WASH_RPM, Phase

EMPTIES_S = 180.0
"""How long the cam keeps the pump on to empty the tub; chosen, as long as a full tub needs, half as
much again."""


class Timer(Board):
    """Runs a list of phases as a timer's cam does. ``stopped`` names the phase in which whoever
    watches gives up."""

    def _lock(self, phase: Phase, sensed: Sensed, dt: float) -> None:
        self._next()

    def _fill(self, phase: Phase, sensed: Sensed, dt: float) -> None:
        self._litres = phase.litres
        self.asks.cold, self.asks.hot = True, phase.hot
        self.seen.add("fill_asked_s", dt)
        if (sensed.level_l or 0.0) >= phase.litres:
            self._next()
        elif self.since > STANDS_S:
            self._give_up("fill", None)

    def _wash(self, phase: Phase, sensed: Sensed, dt: float) -> None:
        self._turn(sensed, dt)
        if self.since >= phase.seconds:
            self._next()

    def _turn(self, sensed: Sensed, dt: float) -> None:
        self.asks.rpm = self.meant_rpm = WASH_RPM if self._beats() else 0.0

    def _drain(self, phase: Phase, sensed: Sensed, dt: float) -> None:
        self.asks.pump = True
        self.seen.add("drain_asked_s", dt)
        if self.since > EMPTIES_S * self._more:
            self._next()

    def _spin(self, phase: Phase, sensed: Sensed, dt: float) -> None:
        self.asks.pump = True
        self.seen.put("spin_entered", 1.0)
        if sensed.contact:
            self.seen.put("lock_shut", 1.0)
        self.asks.rpm = phase.rpm if sensed.contact else 0.0
        if self.since > phase.seconds:
            self._next()

    def _unlock(self, phase: Phase, sensed: Sensed, dt: float) -> None:
        self.asks.nothing()
        if self.since >= phase.seconds:
            self.seen.put("opens", 1.0)
            self._next()

    def _races(self, sensed: Sensed, dt: float) -> bool:
        """Return that nothing races: a timer does not watch the speed."""
        return False

    def _store(self, code: str) -> None:
        """Store nothing: a timer has no memory."""
