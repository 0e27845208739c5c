"""Words find the checks and the sights that hold all of them."""

from bottega.app.job.answer import diagnose
from bottega.app.job.find import MOST_SIGHTS, find_sights, find_steps


def test_every_word_has_to_be_there_in_name_part_tool_or_state(workshop, houseboat):
    answer = diagnose(workshop, houseboat)
    found = find_steps(workshop, answer, "Pump rotor")
    assert "turn_rotor" in {step.check.id for step in found}
    assert [s for s in answer.plan.steps if s in found] == found
    assert find_steps(workshop, answer, "pump nonsense") == []
    assert find_steps(workshop, answer, "") == list(answer.plan.steps)


def test_faults_that_can_be_seen_are_found_by_name_and_by_part(workshop, houseboat):
    answer = diagnose(workshop, houseboat)
    by_part = find_sights(answer, "belt")
    assert by_part
    for fault, title in by_part:
        assert "belt" in title.lower()
        assert answer.machine.looked_at(fault) is not None
    assert find_sights(answer, "") == []
    assert len(find_sights(answer, "e")) <= MOST_SIGHTS
