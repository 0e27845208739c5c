"""Times of stages, gathered from when things were noted."""

from datetime import timedelta

import pytest
from tests.app.steps import note

from bottega.app.job.answer import diagnose
from bottega.app.shop.times import PAUSE_MIN, stage_minutes, times_taken


@pytest.fixture
def moved(workshop):
    """A way to let so many minutes pass before the next entry."""
    now = [workshop.now()]
    workshop.clock = lambda: now[0]

    def later(minutes):
        now[0] += timedelta(minutes=minutes)

    return later


def test_each_gap_is_the_stage_of_what_ends_it(workshop, houseboat, moved):
    moved(2)
    note(workshop, houseboat, kind="state_changed", what="water", to="out")
    moved(4)
    note(workshop, houseboat, kind="took_off", operation="filter_flap")
    moved(1)
    note(workshop, houseboat, kind="took_off", operation="filter_cap")
    moved(3)
    note(workshop, houseboat, kind="checked", check="turn_rotor", outcome="free")
    moved(PAUSE_MIN + 1)
    note(workshop, houseboat, kind="repaired", repair="drain_pump.part")
    moved(5)
    note(workshop, houseboat, kind="put_back", operation="filter_cap")
    moved(2)
    note(workshop, houseboat, kind="put_back", operation="filter_flap")
    found = stage_minutes(diagnose(workshop, houseboat).job)
    assert found["open"] == pytest.approx(5)
    assert found["prove"] == pytest.approx(3)
    assert found["close"] == pytest.approx(7)
    assert "fit" not in found
    [row] = times_taken(workshop)
    assert row.jobs == 1
    assert row.minutes["close"] == pytest.approx(7)
    assert row.minutes["fit"] is None
    assert row.planned > 20


def test_no_repair_is_no_row(workshop, houseboat):
    assert times_taken(workshop) == []
