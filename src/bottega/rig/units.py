"""Factors between units, for the rig."""

MINUTE_S = 60.0
MICRO = 1e-6
"""Square millimetre in square metre, millilitre in cubic metre, microfarad in farad."""
NEARLY_NOTHING = 1e-9
"""What counts as nought beside figures of everyday size."""
