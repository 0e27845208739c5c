"""Plugs drawn beside the measurements made at them."""

import re

import pytest

from bottega.app.job.answer import diagnose
from bottega.core.library.errors import LibraryError
from bottega.core.library.records import ConnectorRecord
from bottega.core.library.shelf import shipped_shelf
from bottega.web.measure.pins import pin_map

SHELF = shipped_shelf()


def test_the_pair_to_touch_is_lit_and_the_mirror_turns_it_round(shop):
    answer = diagnose(shop, "0412")
    check = answer.machine.checks["measure_windings"]
    plug = pin_map(shop, answer, check)
    assert [pin.number for pin in plug.pins if pin.lit] == [5, 6]
    ahead = [pin.number for pin in sorted(plug.pins, key=lambda pin: pin.x)]
    behind = [pin.number for pin in sorted(plug.pins, key=lambda pin: pin.mirrored_x)]
    assert behind == ahead[::-1]
    own = [(pins, window) for pins, _, window, mine in plug.pairs if mine]
    assert own == [("5–6", "1.6 to 3.4 Ω")]


def test_one_motor_has_several_pairs_with_different_windows(shop):
    answer = diagnose(shop, "0412")
    plug = pin_map(shop, answer, answer.machine.checks["measure_tacho"])
    assert len({window for _, _, window, _ in plug.pairs}) > 3


def test_a_check_that_is_made_at_no_plug_has_none(shop):
    answer = diagnose(shop, "0412")
    assert pin_map(shop, answer, answer.machine.checks["bucket_flow"]) is None


def test_the_page_draws_both_sides(reader):
    page = reader.get("/jobs/0412/prove?check=measure_pump_coil").text
    assert len(re.findall(r'class="section pins', page)) == 2
    assert "tongue up" in page


def test_a_variant_has_its_own_plug():
    grey, white = (SHELF.machine("FB", name) for name in ("nembrio-f7", "nembrio-f7-white"))
    assert grey.connectors["drain_pump"].rows == ((1, 2),)
    assert white.connectors["drain_pump"].rows == ((1,), (2,))
    assert white.connectors["motor"] == grey.connectors["motor"]


@pytest.mark.parametrize("archetype", sorted(SHELF.archetypes))
def test_every_kind_has_its_plugs_and_every_pair_its_check(archetype):
    machine = SHELF.machine(archetype)
    assert len(machine.connectors) >= 3
    for component, plug in machine.connectors.items():
        assert component in machine.components
        for check in plug.pairs:
            if check in machine.checks:
                assert machine.checks[check].measure is not None, check


@pytest.mark.parametrize(
    "wrong",
    [
        {"rows": [[1, 2]], "pins": {1: {"wire": "red", "goes": "coil"}}},
        {"rows": [[1]], "pins": {1: {"wire": "red", "goes": "coil"}}, "pairs": {"x": [[1, 1]]}},
        {"rows": [[1]], "pins": {1: {"wire": "red", "goes": "coil"}}, "pairs": {"x": [[1, 9]]}},
    ],
)
def test_a_plug_that_cannot_be_is_refused(wrong):
    with pytest.raises((ValueError, LibraryError)):
        ConnectorRecord(name="plug", seen="the front", **wrong)
