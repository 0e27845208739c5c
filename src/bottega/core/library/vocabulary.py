"""Words with a fixed meaning that several packages share: each set is stated here and nowhere
else."""

from typing import Literal, get_args

Phase = Literal[
    "power-up", "lock", "fill", "wash", "heat", "drain", "rinse", "spin", "dry", "unlock", "any"
]
PHASES: tuple[Phase, ...] = get_args(Phase)
"""The phases of a cycle in their order; ``any`` where the phase does not matter or is not known."""

Band = Literal["short", "low", "in", "high", "open"]
BANDS: tuple[Band, ...] = get_args(Band)
"""Where a reading lies against its window, from the least to the most."""

LimitName = Literal["earth_ohm", "insulation_mohm"]
"""Limits of the electrical check that a measurement is held against."""

INCONCLUSIVE = "inconclusive"
"""The outcome of a reading that settles nothing: it is kept and weighs nothing."""
ProofName = Literal["run", "leak_watch", "spin", "lock_test", "calibration", "earth"]
"""Proofs of a repair by running or measuring."""

PhysicsName = Literal[
    "element_resistance", "mains_supply", "heating_current", "bus_voltage", "fill_time"
]
"""Expected values that follow from the rating plate."""

Power = Literal["on", "off"]
Taps = Literal["open", "shut"]
Drum = Literal["empty", "loaded"]
Posture = Literal["upright", "tipped"]
Door = Literal["shut", "open"]
"""Of the door, or of the lid."""
Unknown = Literal["unknown"]
"""What nobody said of how a machine stands."""
Plug = Literal["on", "off", "unknown"]
Water = Literal["in", "out", "unknown"]
Charge = Literal["none", "held", "unknown"]

Opens = Literal["cover", "water", "moving", "load", "drawer", "inlet"]
"""What taking something off lays open: a cover over live or moving parts, a water joint inside,
what turns or is hung, a part that is switched on; the drawer; the house side of the inlet."""
Face = Literal["front", "top", "rear", "below", "bench"]
"""From where an operation is done."""
Act = Literal[
    "run",
    "fill",
    "pump",
    "heat",
    "panel",
    "open_door",
    "turn_by_hand",
    "touch",
    "feed",
    "defeat",
    "measure",
    "look",
]
"""What is done to a machine by a command, a check or a step of it."""

StateField = Literal["power", "taps", "water", "charge", "drum", "door", "posture"]
STATES: dict[StateField, tuple[str, ...]] = {
    "power": get_args(Plug),
    "taps": (*get_args(Taps), "unknown"),
    "water": get_args(Water),
    "charge": get_args(Charge),
    "drum": (*get_args(Drum), "unknown"),
    "door": (*get_args(Door), "unknown"),
    "posture": get_args(Posture),
}
"""What can be said of how a machine stands, in the order in which it is made safe."""

INSTRUMENTS = {
    "meter",
    "live_meter",
    "clamp",
    "capacitance",
    "insulation",
    "thermometer",
    "tacho",
}
"""Tools that show a figure: what is done with one is measured, not seen."""

NOT_CHOSEN = {"unknown", "held"}
"""States that come about by themselves; nobody brings a machine into them."""
