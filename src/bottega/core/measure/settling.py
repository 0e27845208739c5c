"""When a reading has settled, and when the probes are lifted: from the samples alone."""

from collections import deque
from dataclasses import dataclass, field
from typing import Literal

from bottega.core.library.tables import Quantity

SAMPLES = 4
"""Samples that have to agree; chosen, four tenths of a second at ten a second."""
OPEN_SAMPLES = 8
"""Samples of overload before it is offered as an open circuit; chosen, longer than a slipping
probe."""

State = Literal["lifted", "moving", "settled", "open"]


@dataclass(frozen=True)
class MeterState:
    """What a meter's last sample makes of it: ``amount`` is what it shows (None at overload),
    ``settled`` what was offered last and stands, None where nothing does; ``kept`` says that the
    probes were lifted from it and touched again."""

    state: State
    amount: float | None
    settled: float | None
    kept: bool = False


@dataclass
class Settler:
    """Follows a meter's samples. Settled is what the last of them agree on within the meter's own
    accuracy; lifted is overload, or nothing where a quantity has no overload; touching again keeps
    what had settled before."""

    quantity: Quantity
    _last: deque[float] = field(default_factory=lambda: deque(maxlen=SAMPLES))
    _over: int = 0
    _settled: float | None = None
    _lifted_since: bool = False

    def take(self, amount: float | None) -> MeterState:
        """Return what one more sample makes of it, in the quantity's unit; None is overload."""
        if self._away(amount):
            self._last.clear()
            self._over += 1
            self._lifted_since = self._settled is not None
            open_ = self.quantity.ol and self._over >= OPEN_SAMPLES and self._settled is None
            return MeterState("open" if open_ else "lifted", amount, self._settled)
        assert amount is not None
        self._over = 0
        kept = self._lifted_since
        settled = self._settled
        if kept:
            self._settled, self._lifted_since = None, False
        self._last.append(amount)
        if not kept and len(self._last) == SAMPLES and self._agree():
            self._settled = settled = sum(self._last) / SAMPLES
            return MeterState("settled", amount, settled)
        if not kept and not self._near(settled):
            self._settled = settled = None
        return MeterState("moving", amount, settled, kept)

    def forget(self) -> None:
        """Begin anew: another pair of points, or what had settled was kept."""
        self._last.clear()
        self._over, self._settled, self._lifted_since = 0, None, False

    def _away(self, amount: float | None) -> bool:
        if amount is None:
            return True
        return not self.quantity.ol and abs(amount) <= self.quantity.floor

    def _band(self, amount: float) -> float:
        return self.quantity.accuracy * abs(amount) + self.quantity.floor

    def _agree(self) -> bool:
        return max(self._last) - min(self._last) <= self._band(self._last[-1])

    def _near(self, settled: float | None) -> bool:
        return settled is not None and abs(self._last[-1] - settled) <= self._band(settled)
