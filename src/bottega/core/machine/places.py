"""Where a change of state is done: the part by which a drawing shows it."""

from bottega.core.library.vocabulary import StateField

STATE_PLACES: dict[StateField, tuple[str, ...]] = {
    "power": ("outlet",),
    "taps": ("tap",),
    "water": ("pump_filter", "outlet_hose"),
    "charge": ("run_capacitor", "board", "motor"),
    "posture": ("feet",),
    "drum": ("drum",),
    "door": ("door_lock", "lid_lock", "lid_switch"),
}
"""The components at which a state is changed; the first that a machine has stands for it."""
