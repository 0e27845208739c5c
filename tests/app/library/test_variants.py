"""Sheets that are like another: brought in together in any order, extended, and found by a
plate."""

import pytest

from bottega.app.call.call import sheets_like
from bottega.app.job.variants import variants_of
from bottega.app.library.sheets import (
    DIVIDER,
    BrokenSheet,
    add_code,
    add_value,
    export_all,
    incoming,
    take_incoming,
)
from bottega.core.library.sheet import Plate

WHO = "Pia Lund"
FIRST, LATER = "nembrio-f7", "nembrio-f7-white"
BASE = """sheet: zeta-one
maker: Zeta
model: One
archetype: FI
plate: {volts: 230, heater_w: 1450}
variant: {name: black hinge, tell: The hinge is black.}
"""
LIKE = """sheet: alpha-one
maker: Zeta
model: One
archetype: FI
like: zeta-one
variant: {name: grey hinge, tell: The hinge is grey.}
"""


@pytest.mark.parametrize("texts", [(BASE, LIKE), (LIKE, BASE)])
def test_they_come_in_together_in_any_order_and_are_there_at_the_next_start(workshop, texts):
    found = incoming(workshop, DIVIDER.join(texts).encode())
    assert [item.sheet for item in found] == ["zeta-one", "alpha-one"]
    take_incoming(workshop, found, {}, WHO)
    machine = workshop.machine("FI", "alpha-one")
    assert machine.plate.heater_w == 1450
    assert [c.variant.name for c in variants_of(workshop, machine)] == ["black hinge", "grey hinge"]
    assert workshop.sheets.names() == ["zeta-one", "alpha-one"]
    again = incoming(workshop, export_all(workshop).encode())
    assert {item.sheet for item in again} == set(workshop.shelf.sheets)


def test_one_alone_or_in_a_circle_is_refused_with_what_it_is_like(workshop):
    with pytest.raises(BrokenSheet, match="zeta-one"):
        incoming(workshop, LIKE.encode())
    circle = BASE + "like: alpha-one\n"
    with pytest.raises(BrokenSheet, match=r"zeta-one|alpha-one"):
        incoming(workshop, DIVIDER.join((circle, LIKE)).encode())
    assert "alpha-one" not in workshop.shelf.sheets


def test_a_variant_is_extended_by_the_panel_and_values_it_takes_over(workshop):
    code = {"code": "7-1", "shows": "7 1", "name": "suds stay", "reads": "suds"}
    made = add_code(workshop, LATER, {**code, "stored": "high=often"}, WHO)
    assert made.codes["7-1"].record.show == (7, 1)
    assert "7-1" not in workshop.machine("FB", FIRST).codes
    value = {"key": "valve_coil_ohm", "low": "3000", "high": "3900", "unit": "ohm"}
    own = add_value(workshop, LATER, {**value, "grade": "measured", "source": "two valves"}, WHO)
    assert own.values["valve_coil_ohm"].low == 3000
    assert workshop.machine("FB", FIRST).values["valve_coil_ohm"].low == 3500


def test_a_plate_fits_all_variants_of_its_model(workshop):
    plate = workshop.machine("FB", FIRST).plate
    fits = dict(sheets_like(workshop, Plate(motor_w=plate.motor_w, heater_w=plate.heater_w)))
    assert {FIRST, LATER} <= set(fits)
    assert len(set(fits.values())) == len(fits)
