"""Advice for the customer that follows the cause."""

from bottega.core.library.machine_type import MachineType

BY_COMPONENT = {
    "drain_pump": "Empty pockets; open and clean the pump filter every month.",
    "pump_filter": "Open and clean the pump filter every month.",
    "inlet_valve": "Look at the inlet screens and hoses every half year.",
    "element": "Hard water: descale, and dose for your water's hardness.",
    "bellows": "Empty pockets; wipe the folds dry and leave the door ajar.",
    "damper": "Do not overload it; one heavy piece alone shakes it most.",
    "use": "Dose by the line on the pack for your water.",
}
OTHERWISE = "Look at hoses for bulges and rust every half year; clean screens and filter."


def advice(machine: MachineType, fault: str) -> str:
    """Return what the customer should do so that a fault does not come back, to be put right by
    whoever hands over."""
    return BY_COMPONENT.get(machine.faults[fault].component, OTHERWISE)
