"""How a machine of physics stands at one moment, what its board asks for, and what has been seen
of it."""

from dataclasses import dataclass, field

STEP_S = 0.5
"""The fixed step, in second: the stiffest store is the element's film, with a time constant of 9
s."""
OPEN_OHM = 1e5
"""From here on a way carries no current a load would notice."""


@dataclass(slots=True)
class Asks:
    """What the board asks of its loads now."""

    cold: bool = False
    hot: bool = False
    pump: bool = False
    element: bool = False
    lock: bool = False
    shifter: bool = False
    fan: bool = False
    drying: bool = False
    condenser: bool = False
    motor_cut: bool = False
    """Whether the relay before the motor is open, since it raced."""
    rpm: float = 0.0
    """How fast the drum should turn; nought for standing."""

    def nothing(self) -> None:
        """Ask for nothing any more."""
        self.cold = self.hot = self.pump = self.element = self.lock = False
        self.shifter = self.fan = self.drying = self.condenser = False
        self.rpm = 0.0


@dataclass(slots=True)
class Now:
    """How it stands: seconds since the beginning, litres in the tub, turns a minute, watts and
    amperes."""

    seconds: float = 0.0
    tub_l: float = 0.0
    height_m: float = 0.0
    sensed_pa: float = 0.0
    air: float = 1.0
    drum_rpm: float = 0.0
    volts: float = 0.0
    ampere: float = 0.0
    watts: float = 0.0
    taken: dict[str, tuple[float, float]] = field(default_factory=dict)
    """Ampere and watts of each load that takes any in this step; their sums are those of the
    machine."""
    in_l_min: float = 0.0
    out_l_min: float = 0.0
    lock_c: float = 20.0
    """How warm the lock's heater is, in °C: its bolt goes out hot and comes back cool."""
    locked: bool = False
    motor_rpm: float = 0.0
    """Turns a minute of the motor's own shaft."""
    motor_c: float = 20.0
    """How warm the motor's windings are, in °C."""
    plug_w: float = 0.0
    """Watts lost in the plug of the motor's feed, smoothed by its warmth."""
    brush_c: float = 20.0
    """How warm the brushes are, in °C."""
    driven_s: float = 0.0
    """How long the board has asked the drum to turn without a pause, in second."""
    protector_open: bool = False
    """Whether the motor's protector has opened, and not cooled yet."""
    slip_w: float = 0.0
    """Watts of what slips at the belt."""
    strikes_mm: float = 0.0
    """How far the tub swings beyond its travel, in millimetre."""
    pump_rpm: float = 0.0
    coasts: bool = False
    """Whether the drum runs on from a spin."""
    hose_l: float = 0.0
    """Litres in the outlet hose that run back once the pump stops."""
    at_wall: bool = False
    """Whether the laundry lies at the drum's wall."""
    lies: int = 0
    """How often it has fallen off the wall, to lie another way."""
    lies_share: float = 1.0
    """How far off centre it lies, over what this load lies on average."""
    shifted_s: float = 0.0
    """How far the shifter has gone from wash to spin, in second of its motor."""
    in_spin: bool = False
    """Whether the shifter stands at spin, on machines that have one."""
    tripped: bool = False
    cabinet_v: float = 0.0
    """Volts of the cabinet against the room's earth."""
    leakage_a: float = 0.0
    """What comes back by the earth wire and not by neutral, in ampere."""
    condenser_l_min: float = 0.0
    """Water that runs down the dryer's condenser."""
    water_in_l: float = 0.0
    water_by_hand_l: float = 0.0
    """Water that came in with damp laundry."""
    water_out_l: float = 0.0
    leaked_l: float = 0.0


@dataclass(slots=True)
class Seen:
    """What there was to be noticed in a run; kept as plain figures by name."""

    figures: dict[str, float] = field(default_factory=dict)

    def most(self, name: str, value: float) -> None:
        """Keep the largest."""
        if value > self.figures.get(name, 0.0):
            self.figures[name] = value

    def add(self, name: str, value: float) -> None:
        """Add to what there was."""
        self.figures[name] = self.figures.get(name, 0.0) + value

    def put(self, name: str, value: float) -> None:
        """Note a figure, in place of what was noted."""
        self.figures[name] = value

    def get(self, name: str, otherwise: float = 0.0) -> float:
        """Return what was noted, or something else where nothing was."""
        return self.figures.get(name, otherwise)


@dataclass(frozen=True, slots=True)
class Turning:
    """What stays the same of a turning drum while its values do: inertia in kilogram square
    metre, what always holds it back, what its belt carries in newton metre, what lifting a
    kilogram of laundry takes, what a kilogram adds to the inertia, and how loud it knocks in the
    wash, in decibel. A motor whose windings are shorted brakes with ``braked_nm_s`` newton metre
    for each radian/second."""

    inertia: float
    steady_nm: float
    carried_nm: float
    lift_nm_kg: float
    load_m2: float
    knock_db: float
    braked_nm_s: float
