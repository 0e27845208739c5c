"""What bare hands feel: from geometry and force, by kind."""

from math import isfinite

import pytest

from bottega.app.errors import BadValue, Refused
from bottega.app.rig.acts import act
from bottega.app.rig.fetch import stand
from bottega.app.rig.gestures import STEPS, felt, offered, wheels
from bottega.store.rigs import RigTicket


def drawn(workshop, kind="FB", faults=None):
    workshop.stands.clear()
    workshop.rigs.keep(RigTicket("one", kind, None, "seed", faults or {}))
    at = stand(workshop, "one")
    if at.machine.plugged:
        act(workshop, "one", "plug", "out", seen=at.acts)
    return at


@pytest.mark.parametrize("kind", ["FB", "FD", "SL", "TD", "TG", "TS", "WD"])
def test_every_gesture_of_a_kind_is_felt_in_figures(workshop, kind):
    at = drawn(workshop, kind)
    assert ("plate" in offered(at)) is (kind in ("SL", "TD", "TG", "TS"))
    for what in set(offered(at)) - {"rotor"}:
        curve = felt(at, what)
        assert len(curve.values) > 1
        assert all(isfinite(value) for value in curve.values)
    with pytest.raises(Refused):
        felt(at, "rotor")
    assert len(wheels(at)) == len({"drum", "plate"} & set(offered(at)))


def test_a_worn_bearing_lets_a_lifted_rim_go_further(workshop):
    """The same lift meets less force where the play comes first."""
    sound = max(felt(drawn(workshop), "lift").values)
    worn = max(felt(drawn(workshop, faults={"bearings_worn": 1.0}), "lift").values)
    assert worn < sound


def test_what_no_hand_does_is_said(workshop):
    with pytest.raises(BadValue, match="Found 'kick'"):
        felt(drawn(workshop), "kick")


def test_the_curve_of_what_turns_goes_once_round(workshop):
    curve = felt(drawn(workshop), "drum")
    assert len(curve.values) >= STEPS // 2
