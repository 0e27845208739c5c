"""What the subsystems of a machine see of it: they are stepped by the machine, and know no more of
it than this."""

from typing import Protocol

from bottega.rig.air_loop import AirLoop
from bottega.rig.board import Board
from bottega.rig.drives import Motor
from bottega.rig.heat import Warmth
from bottega.rig.parameters import Joint
from bottega.rig.sensing import Sensing
from bottega.rig.state import Asks, Now, Seen, Turning
from bottega.rig.values import Values
from bottega.rig.water import Tub


class Works(Protocol):
    """A machine at work: its values ``v``, what is asked of its loads, how it stands and what there
    was to notice; its tub, its joints with their holes in square millimetre, and what follows from
    its values."""

    kind: str
    v: Values
    asks: Asks
    now: Now
    seen: Seen
    board: Board
    warmth: Warmth
    air: AirLoop
    sensing: Sensing
    tub: Tub
    turning: Turning
    drive: Motor
    holes: list[tuple[Joint, float]]
    inlet_l_min: float
    """The most that flows in, in litre/minute."""
    tap_open: bool
    door_shut: bool
    tight: bool
    still_l: float
    unbalance: float
    """Kilogram metre."""
    shake: dict[int, tuple[float, float]]

    def lie_anew(self) -> None:
        """Let the laundry lie another way in the drum."""

    @property
    def alive(self) -> bool:
        """Return whether the board or timer has current and works."""

    @property
    def has_fan(self) -> bool:
        """Return whether the machine dries."""

    @property
    def suds_share(self) -> float:
        """Return how much suds there are, nought to one."""

    def volts_at(self, load: str) -> float:
        """Return the volts across a load."""

    @property
    def motor_stuck(self) -> bool:
        """Return whether the motor is fed though nothing asks it to turn."""

    def take(self, volts: float, load: str) -> None:
        """Let a load take its current."""

    def flows(self, load: str, ampere: float, watts: float) -> None:
        """Let so much flow through a load in this step."""
