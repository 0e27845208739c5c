"""What leaks, where it comes back, and what trips: each figure worked by hand."""

import pytest
from tests.rig.test_machine import ran

from bottega.rig.circuit import Contacts, fed_of
from bottega.rig.specimen import Specimen

HEATS = frozenset({"element", "lock_contact"})


@pytest.fixture
def fed(f7):
    """Return what a sound machine's wiring gives with some figures otherwise, in volts and ampere
    at 230 V."""

    def of(closed=HEATS, **other):
        v = Specimen(f7, "1").sound.but(filter_earth_ohm=1e12, **other)
        found = fed_of(f7.wiring, v, Contacts(frozenset(closed)))
        return 230 * found.cabinet, 230 * found.leakage_per_ohm

    return of


def test_a_bonded_cabinet_carries_what_leaks_to_earth(fed):
    """400 ohm over 0.08 ohm of bond at 230 V: 0.575 A, 46 mV on the cabinet."""
    volts, ampere = fed(element_earth_ohm=400.0, earth_bond_ohm=0.08, filter_y_nf=1e-6)
    assert ampere == pytest.approx(0.575, rel=0.01)
    assert volts == pytest.approx(0.046, rel=0.02)


def test_a_leak_at_the_far_end_of_an_element_that_is_off_comes_from_neutral_and_is_little(fed):
    """With its contact open the element hangs on neutral alone."""
    assert fed(closed=(), element_earth_ohm=400.0, filter_y_nf=1e-6)[1] < 1e-4


def test_a_filter_alone_leaks_a_third_of_a_milliampere(fed):
    """230 V over 4.7 nF: 230 · 2π · 50 · 4.7e-9 = 0.34 mA, below 0.75 mA (IEC 60335-1)."""
    assert fed(closed=(), filter_y_nf=4.7)[1] == pytest.approx(0.3396e-3, rel=0.01)


def test_a_cabinet_without_earth_hangs_at_half_the_mains(fed):
    """Two equal capacitors in series between live and neutral."""
    assert fed(closed=(), earth_bond_ohm=1e9)[0] == pytest.approx(115, rel=0.01)


def test_a_leak_without_earth_makes_the_cabinet_live(fed):
    assert fed(element_earth_ohm=400.0, earth_bond_ohm=1e9)[0] == pytest.approx(230, rel=0.02)


def test_a_person_of_two_kilohm_on_a_live_cabinet_carries_a_tenth_of_an_ampere(fed):
    """Thevenin of 230 V behind 400 ohm over 2 kohm: 230 / 2400 = 96 mA."""
    ampere = fed(element_earth_ohm=400.0, earth_bond_ohm=2000.0, filter_y_nf=1e-6)[1]
    assert ampere == pytest.approx(0.0958, rel=0.02)


@pytest.mark.parametrize(
    ("faults", "values", "trips"),
    [
        ({"element_to_earth": 1.0}, {}, True),
        ({"element_to_earth": 0.0}, {}, False),
        ({"element_to_earth": 1.0}, {"earth_bond_ohm": 1e5}, False),
        ({"earth_loose": 1.0}, {}, False),
    ],
)
def test_what_comes_back_by_earth_trips_and_nothing_else(f7, faults, values, trips):
    machine = ran(f7, faults, **values)
    assert machine.now.tripped is trips


def test_a_live_cabinet_does_not_trip_and_can_be_felt(f7):
    machine = ran(f7, {"element_to_earth": 1.0}, earth_bond_ohm=1e5)
    assert machine.seen.get("cabinet_v") > 200
    assert machine.seen.get("leakage_a") < 0.022


def test_a_wet_stator_trips(shelf):
    machine = ran(shelf.machine("FD", "calvessa-dritta-8"), {"stator_wet": 1.0})
    assert machine.now.tripped
