"""How it thinks: the belief as it moved, event by event."""

import pytest
from tests.conftest import new_id

from bottega.app.job.answer import diagnose
from bottega.app.job.record import record
from bottega.app.thinking.history import thinking_of
from bottega.core.job.events import Checked, Withdrawn

WHO = "Ilaria Venn"


def test_how_it_thinks_begins_with_the_prior_and_ends_with_what_is_believed(shop):
    answer = diagnose(shop, "0403")
    thinking = thinking_of(shop, answer)
    assert thinking.stages[0].what == "Before anything was said"
    assert thinking.stages[0].shares[0] == pytest.approx(
        answer.belief.model.by_fault(answer.believed.before)[
            answer.belief.model.fault_index(thinking.faults[0][0])
        ]
    )
    now = dict(answer.ranking)
    assert thinking.stages[-1].shares[0] == pytest.approx(now[thinking.faults[0][0]])
    believed = [now[fault] for fault, _ in thinking.faults]
    assert thinking.stages[-1].chances == pytest.approx(believed)
    assert [stage.what for stage in thinking.stages][:3] == [
        "Before anything was said",
        "What the customer says",
        "Panel",
    ]
    assert "points" in thinking.stages[1].moved


def test_the_bars_are_of_disjoint_events_and_make_up_one(shop):
    """Also where two faults are both all but certain, as worn bearings and the seal that let the
    water in."""
    for number in shop.log.numbers():
        for stage in thinking_of(shop, diagnose(shop, number)).stages:
            assert sum(stage.shares) + stage.other + stage.healthy == pytest.approx(1)
    answer = diagnose(shop, "0403")
    now = [p for _, p in answer.ranking[:2]]
    assert sum(now) > 1.3
    assert "Shaft seal" in thinking_of(shop, answer).stages[-1].moved


def test_how_it_thinks_leaves_withdrawn_entries_out(workshop, houseboat):
    before = thinking_of(workshop, diagnose(workshop, houseboat))
    record(
        workshop,
        houseboat,
        Checked(check="ask_filter", outcome="clear"),
        WHO,
        event_id="check-00002",
    )
    assert (
        len(thinking_of(workshop, diagnose(workshop, houseboat)).stages) == len(before.stages) + 1
    )
    record(workshop, houseboat, Withdrawn(event="check-00002"), WHO, event_id=new_id())
    again = thinking_of(workshop, diagnose(workshop, houseboat))
    assert again.stages == before.stages
