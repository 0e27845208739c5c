"""The doubt of the library's figures: what is believed is the mean over what may be so, and that is
exact for the engine."""

from itertools import product
from math import exp

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from pydantic import ValidationError

from bottega.core.library.doubt import SUREST, least_sure
from bottega.core.library.layers import Layering
from bottega.core.library.records import FaultRecord, GradedChance, GradedWeight

CHANCES = st.lists(st.floats(0.001, 1), min_size=2, max_size=4).map(
    lambda parts: tuple(part / sum(parts) for part in parts)
)


@given(CHANCES, st.sampled_from(SUREST))
def test_a_distribution_stays_one_and_keeps_how_its_bad_states_share(shelf, stated, grade):
    believed = shelf.tables.doubts.of_chances(stated, grade)
    assert sum(believed) == pytest.approx(1)
    assert min(believed) >= 0
    for k in range(1, len(stated)):
        assert believed[k] / (1 - believed[0]) == pytest.approx(stated[k] / (1 - stated[0]))
    assert grade not in ("physics", "standard") or believed == pytest.approx(stated)


def test_a_guessed_word_is_the_mean_of_its_neighbours_and_the_ends_stay_inside(shelf):
    doubts = shelf.tables.doubts
    ladder = sorted(shelf.tables.words.values())
    for place, bad in enumerate(ladder):
        beside = (ladder[max(place - 1, 0)], ladder[min(place + 1, len(ladder) - 1)])
        believed = doubts.of_chances((1 - bad, bad), "guessed")
        assert believed[1] == pytest.approx(sum(beside) / 2)
    assert doubts.of_chances((0.0, 1.0), "guessed") == (0.0, 1.0)
    assert doubts.of_chances((1.0, 0.0), "guessed") == (1.0, 0.0)


def test_a_guessed_rate_is_the_mean_of_a_third_more_and_less_of_its_logarithm(shelf):
    off = shelf.tables.doubts.grades["guessed"].rate
    mean = (exp(off) + exp(-off)) / 2
    assert shelf.tables.doubts.of_rate(0.002, "guessed") == pytest.approx(0.002 * mean)
    assert shelf.tables.doubts.of_rate(0.002, "physics") == 0.002


def test_the_mean_over_all_that_may_be_so_is_what_the_means_say(shelf):
    """Two faults that touch two effects, each of their likelihoods and rates off or on: the mean of
    P(found, set) over all of it against P(found, set) of the believed figures."""
    doubts, bad = (
        shelf.tables.doubts,
        {(f, e): 0.12 + 0.2 * f + 0.3 * e for f in (0, 1) for e in (0, 1)},
    )
    rates, likelihood = (0.004, 0.01), np.array([[0.1, 0.8], [0.3, 0.9]])

    def joint(rates, bad):
        found = rates[0] * rates[1]
        for e in (0, 1):
            well = (1 - bad[0, e]) * (1 - bad[1, e])
            found *= well * likelihood[e, 0] + (1 - well) * likelihood[e, 1]
        return found

    off = doubts.grades["guessed"].rate
    cases = [
        joint(
            [rate * exp(sign * off) for rate, sign in zip(rates, signs, strict=True)],
            {key: doubts.beside(p)[up] for (key, p), up in zip(bad.items(), ups, strict=True)},
        )
        for signs in product((-1, 1), repeat=2)
        for ups in product((0, 1), repeat=4)
    ]
    believed = joint(
        [doubts.of_rate(rate, "guessed") for rate in rates],
        {key: doubts.of_chances((1 - p, p), "guessed")[1] for key, p in bad.items()},
    )
    assert believed == pytest.approx(np.mean(cases), rel=1e-12)


def test_the_least_sure_counts_and_what_says_nothing_is_guessed():
    sure = GradedChance(value="often", grade="physics", source="Ohm's law")
    told = GradedChance(value=0.3, grade="remembered")
    assert least_sure([sure, told]) == "remembered"
    assert least_sure([sure, "often"]) == "guessed"
    assert least_sure([]) == "physics"


def test_a_measured_figure_names_its_source():
    with pytest.raises(ValidationError, match="grade measured and no source"):
        GradedWeight(value=12, grade="measured")


def test_a_graded_fault_is_read_kept_and_believed_by_its_grades(shelf):
    drain = shelf.assemblies["drain"]
    written = {
        **drain.faults["rotor_slips"].model_dump(),
        "weight": {"value": 18, "grade": "measured", "source": "our own books, 2019 to 2025"},
        "effects": {
            "rotor_feel": "free",
            "drain_flow": {"none": {"value": "usually", "grade": "measured", "source": "bench"}},
            "spin": {"none": "usually"},
        },
    }
    record = FaultRecord.model_validate(written)
    changed = drain.model_copy(update={"faults": {**drain.faults, "rotor_slips": record}})
    archetype = shelf.archetype("FB")
    chosen = [changed if n == "drain" else shelf.assemblies[n] for n in archetype.assemblies]
    known = {effect for assembly in shelf.assemblies.values() for effect in assembly.effects}
    fault = (
        Layering(shelf.tables, known, {}, {}).join(archetype, chosen, None).faults["rotor_slips"]
    )
    assert fault.stated.grade == "measured"
    assert fault.stated.grades == {
        "rotor_feel": "physics",
        "drain_flow": "measured",
        "spin": "guessed",
    }
    usually = shelf.tables.words["usually"]
    off = {effect: abs(1 - fault.effects[effect][0] - usually) for effect in ("drain_flow", "spin")}
    assert 0 < off["drain_flow"] < off["spin"]
    assert fault.guesses == (1, 3)
