"""The values of a machine without any spread."""

from bottega.rig.parameters import parameters
from bottega.rig.specimen import FOLLOWS
from bottega.rig.values import Values


def middle(**other):
    """Return the values in the middle of a front loader's, some of them otherwise."""
    figures = {name: figure.value for name, figure in parameters("FB").items()}
    return Values(**figures, **dict.fromkeys(FOLLOWS, 1.0)).but(**other)
