"""What has come into sight is offered in passing, best first."""

from tests.app.steps import note

from bottega.app.job.answer import diagnose
from bottega.app.strip.sight import LONGEST_MIN, MOST_OFFERED, in_sight


def test_what_came_off_last_lays_open_what_can_be_answered_at_once(workshop, houseboat):
    assert in_sight(diagnose(workshop, houseboat)) == []
    note(workshop, houseboat, kind="state_changed", what="taps", to="shut")
    note(workshop, houseboat, kind="state_changed", what="water", to="out")
    note(workshop, houseboat, kind="took_off", operation="filter_flap")
    note(workshop, houseboat, kind="took_off", operation="filter_cap")
    answer = diagnose(workshop, houseboat)
    found = in_sight(answer)
    assert 0 < len(found) <= MOST_OFFERED
    place = {step.check.id: n for n, step in enumerate(answer.plan.steps)}
    assert [place[c.id] for c in found] == sorted(place[c.id] for c in found)
    for check in found:
        assert answer.job.state.meets(check.needs)
        assert check.minutes <= LONGEST_MIN
        assert check.measure is None
    first = found[0]
    note(workshop, houseboat, kind="checked", check=first.id, outcome=first.outcomes[0].id)
    assert first.id not in [c.id for c in in_sight(diagnose(workshop, houseboat))]
