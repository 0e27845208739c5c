"""Times of stages, gathered from when things were noted."""

from datetime import timedelta

import pytest
from tests.app.steps import note, take_out

from bottega.app.errors import Refused
from bottega.app.job.answer import diagnose
from bottega.app.shop.pace import learning_of, take_library_pace, take_own_pace
from bottega.app.shop.times import PAUSE_MIN, last_jobs, stage_minutes, times_taken
from bottega.app.strip.plan import plan_of


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
    take_out(workshop, houseboat, "drain_pump.part")
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
    [row] = times_taken(workshop, last_jobs(workshop))
    assert row.jobs == 1
    assert row.minutes["close"] == pytest.approx(7)
    assert row.minutes["fit"] is None
    assert row.planned > 20


def test_no_repair_is_no_row(workshop, houseboat):
    assert times_taken(workshop, last_jobs(workshop)) == []


def open_and_close(workshop, number, moved, slow):
    """Open and close the filter often enough to learn from, each step so many times as slow."""
    note(workshop, number, kind="state_changed", what="water", to="out")
    operations = diagnose(workshop, number).machine.operations
    for _ in range(5):
        for kind, names in (
            ("took_off", ("filter_flap", "filter_cap")),
            ("put_back", ("filter_cap", "filter_flap")),
        ):
            for name in names:
                record = operations[name]
                back = kind == "put_back" and record.back_minutes
                moved(slow * (back or record.minutes))
                note(workshop, number, kind=kind, operation=name)


def test_plans_count_with_the_shops_own_minutes_once_it_wants_that(workshop, houseboat, moved):
    with pytest.raises(Refused, match="expected at least"):
        take_own_pace(workshop)
    open_and_close(workshop, houseboat, moved, slow=2)
    answer = diagnose(workshop, houseboat)
    repair = answer.machine.repairs["drain_pump.part"]
    usual = plan_of(workshop, answer, repair).best
    found = learning_of(workshop, last_jobs(workshop))
    assert found.overall == pytest.approx(2.0)
    assert {row.times for row in found.rows} == {10}
    take_own_pace(workshop)
    own = plan_of(workshop, answer, repair).best
    assert own.opening.minutes > usual.opening.minutes
    assert dict(workshop.shop.settings().pace) == pytest.approx(found.pace)
    take_library_pace(workshop)
    assert plan_of(workshop, answer, repair).best == usual
