"""Which codes of a sheet the panel of a machine of physics shows: what its board stored, as this
model names it."""

from bottega.core.library.machine_type import MachineType
from bottega.rig.asking import Bench

MEANS: dict[str, tuple[str, ...]] = {
    "filling": ("fill",),
    "level": ("sensor_track",),
    "overfilled": ("overfill",),
    "emptying": ("drain_flow",),
    "heating": ("heat_rise",),
    "thermistor": ("thermistor_curve",),
    "not_turning": ("turning",),
    "racing": ("speed_jump", "tacho_signal", "spin", "turning"),
    "no_speed": ("tacho_coil", "tacho_signal", "rotor_position", "speed_signal", "turning"),
    "not_spinning": ("spin",),
    "not_locked": ("starts", "lid_click", "lid_contact", "spin"),
    "not_unlocked": ("unlocks", "lid_unlocks"),
}
"""By what a board stores, the effects whose code it shows on this panel, the nearest first."""


def codes_shown(bench: Bench, machine: MachineType, occasion: str) -> list[str]:
    """Return the codes a panel shows after the last washes, by their names on the sheet; none that
    could be read where it shows them by lamps and some are dead."""
    whole = bench.machine(frozenset(bench.specimen.faults))
    if machine.panel is not None and machine.panel.lamps and not whole.lamps_light:
        return []
    own = {code.effect: code.id for code in reversed(machine.codes.values())}
    found: list[str] = []
    for meaning in bench.codes(occasion):
        shown = next((own[effect] for effect in MEANS.get(meaning, ()) if effect in own), None)
        if shown is not None and shown not in found:
            found.append(shown)
    return found
