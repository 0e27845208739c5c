"""What is said when nothing is left to check fits how the job stands."""

from dataclasses import replace

from bottega.app.decide.nothing_left import PROVED, nothing_left
from bottega.app.job.answer import diagnose


def with_first_at(answer, chance):
    """Return an answer whose likeliest fault stands at a chance."""
    (fault, _), *others = answer.ranking
    ranking = ((fault, chance), *others)
    return replace(answer, believed=replace(answer.believed, ranking=ranking))


def test_a_likely_fault_is_named_and_an_unlikely_one_is_not(workshop, houseboat):
    answer = diagnose(workshop, houseboat)
    fault = answer.ranking[0][0]
    name = answer.machine.faults[fault].name
    likely = with_first_at(answer, PROVED + 0.2)
    found = nothing_left(likely, 0.9)
    assert found.proved
    assert name in found.words
    unlikely = with_first_at(answer, PROVED - 0.2)
    found = nothing_left(unlikely, 0.9)
    assert not found.proved
    assert name not in found.words


def test_after_enough_checks_it_is_to_be_referred(workshop, houseboat):
    answer = diagnose(workshop, houseboat)
    doubtful = with_first_at(answer, PROVED - 0.2)
    tired = replace(doubtful, plan=replace(answer.plan, enough=True))
    assert nothing_left(tired, 0.9).words.startswith("Refer it")
