"""What shakes: a cabinet on its feet, a tub on springs and dampers."""

import pytest
from tests.rig.test_machine import ran

from bottega.rig.quantities import shown
from bottega.rig.shaking import rocking_n


def test_a_cabinet_rocks_until_its_gap_is_closed():
    """75 kg, a force of 47 N at 118 rpm (12.4 rad/s) swings freely by 47 / (75 · 153) = 4.1 mm; a
    gap of one stops it after one: 75 kg · 1 mm · 12.4 / 0.02 s = 46 N."""
    assert rocking_n(47.0, 12.36, 1.0, 75.0) == pytest.approx(46.4, rel=0.01)
    assert rocking_n(47.0, 12.36, 9.0, 75.0) == pytest.approx(rocking_n(47.0, 12.36, 5.0, 75.0))
    assert rocking_n(47.0, 0.0, 9.0, 75.0) == 0.0


@pytest.mark.parametrize(
    ("fault", "name"),
    [
        ("spring_off", "knock_db"),
        ("counterweight_loose", "knock_db"),
        ("damper_worn", "shake_share"),
        ("feet_uneven", "shake_share"),
        ("transit_bolts_in", "shake_share"),
    ],
)
def test_what_hangs_or_stands_badly_knocks_or_shakes(f7, fault, name):
    limit = {"knock_db": 58, "shake_share": 0.6}[name]
    assert shown(ran(f7, {}))[name] < limit < shown(ran(f7, {fault: 1.0}))[name]
