"""How a part goes in here: by the schools the shop follows, and in the order of a clock face."""

import pytest

from bottega.app.errors import BadValue
from bottega.app.shop.settings import change_settings
from bottega.app.strip.fitting import fitting_of


@pytest.fixture
def bellows(workshop):
    return workshop.shelf.machine("FB").parts["bellows"]


def test_a_line_says_what_the_shops_school_does_and_why(workshop, bellows):
    schools = workshop.shelf.tables.schools.schools
    for choice in ("dry", "soap"):
        change_settings(workshop, {"school_bellows": choice})
        first = fitting_of(workshop, bellows).lines[0]
        side = schools["bellows"].choices[choice]
        assert side.does in first
        assert side.because in first
    assert "{" not in " ".join(fitting_of(workshop, bellows).lines)
    for typed, words in [
        ({"school_bellows": "glue"}, "dry, soap"),
        ({"school_hats": "dry"}, "bellows"),
    ]:
        with pytest.raises(BadValue, match=words):
            change_settings(workshop, typed)
    assert dict(workshop.shop.settings().schools) == {"bellows": "soap"}


def test_a_shop_that_swaps_the_cheap_part_looks_at_less_and_replaces_more(workshop, bellows):
    careful = fitting_of(workshop, bellows)
    change_settings(workshop, {"school": "swap_cheap"})
    swapping = fitting_of(workshop, bellows)
    assert set(careful.reused) == {"the bands", "the seat"}
    assert set(swapping.reused) == {"the seat"}
    assert "the bands" in swapping.together
    assert set(careful.together) | set(careful.reused) == {*swapping.together, *swapping.reused}


def test_opposite_places_follow_each_other(workshop, bellows):
    """As one draws a cover: each second press lies across from the first."""
    order = bellows.clock.order
    assert all(
        abs(first - second) == pytest.approx(6)
        for first, second in zip(order[::2], order[1::2], strict=True)
    )


@pytest.mark.parametrize("kind", ["FB", "FD", "FI", "SL", "TD", "TG", "TS", "WD"])
def test_every_part_of_every_kind_says_how_it_goes_in_and_what_is_laid_down_knows_how(
    workshop, kind
):
    shelf, machine = workshop.shelf, workshop.shelf.machine(kind)
    lines = [line for part in machine.parts.values() for line in fitting_of(workshop, part).lines]
    lines += [shelf.tables.schools.said(line, {}) for line in machine.hub.order]
    assert all(fitting_of(workshop, part).lines for part in machine.parts.values())
    assert not [line for line in lines if "{" in line]
    if any(operation.needs.posture == "tipped" for operation in machine.operations.values()):
        assert shelf.tables.make_safe.laid(machine.laid)
    assert shelf.tables.schools.said("{hats}", {}) == "{hats}"
