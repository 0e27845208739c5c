"""What to load for a visit."""

from datetime import UTC, datetime

import pytest

from bottega.app.call.loading import loading
from bottega.app.job.answer import diagnose, diagnose_events
from bottega.core.job.events import Complained, Event, Opened


def test_what_to_load_for_the_houseboat(workshop, houseboat):
    load = loading(workshop, diagnose(workshop, houseboat))
    assert (load.parts[0].name, load.parts[0].number) == ("drain pump", "NB-4410")
    assert "flat tray and cloth" in load.tools
    assert load.band[0] < load.band[1]


def called(workshop, kind, said):
    bodies = (
        Opened(archetype=kind, age_years=9, place="made up", power="on", water="out"),
        Complained(text="made up", said=said),
    )
    at = datetime(2030, 1, 1, tzinfo=UTC)
    events = [
        Event(id=f"event-{n:06d}", at=at, author="x", body=body) for n, body in enumerate(bodies)
    ]
    return diagnose_events(workshop, "x", events, workshop.settings)


@pytest.mark.parametrize("kind", ["FB", "FD", "FI", "SL", "TD", "TG", "TS", "WD"])
def test_the_shares_of_the_parts_add_to_at_most_one(workshop, kind):
    """Whatever is said, each case counts for one part of the list; every sixth complaint."""
    for name in list(workshop.shelf.machine(kind).complaints)[::6]:
        parts = loading(workshop, called(workshop, kind, (name,))).parts
        assert sum(part.share or 0.0 for part in parts) <= 1
        assert all(part.share <= part.chance + 1e-12 for part in parts if part.share)


def test_a_part_is_wanted_only_where_nothing_cheaper_will_do(workshop, houseboat):
    """What is cleared out of a pump wants no new one."""
    answer = diagnose(workshop, houseboat)
    now = answer.belief.fault_now()
    pump = loading(workshop, answer).parts[0]
    every = answer.belief.any_of(
        {f: 1.0 for f, _ in answer.machine.repairs["drain_pump.part"].covers}
    )
    assert now["pump_object_in"] > 0.05
    assert pump.chance == pytest.approx(every - now["pump_object_in"], abs=0.03)
