"""Findings as likelihoods: repeats of one thing add little, answers that differ say it was chance,
silence and codes follow the tables by hand."""

from itertools import permutations

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from bottega.core.diagnosis.evidence import (
    Evidence,
    answered,
    not_said,
    read_code,
    repeated,
    said,
    seen_at,
)

rows = st.lists(st.tuples(*[st.floats(0.01, 1)] * 3), min_size=1, max_size=4)


@given(rows=rows, repeatability=st.floats(0, 1))
def test_the_order_of_repeats_does_not_matter(rows, repeatability):
    answers = ["same"] * len(rows)
    first = repeated(np.array(rows), answers, repeatability)
    for order in permutations(range(len(rows))):
        again = repeated(np.array([rows[n] for n in order]), answers, repeatability)
        assert np.array_equal(again, first)


@given(row=st.tuples(*[st.floats(0.01, 0.99)] * 3), times=st.integers(2, 5))
def test_repeats_lie_between_one_finding_and_as_many_independent_ones(row, times):
    same = np.array([row] * times)
    answers = ["same"] * times
    assert repeated(same, answers, 1.0) == pytest.approx(np.array(row))
    assert repeated(same, answers, 0.0) == pytest.approx(np.array(row) ** times)
    between = repeated(same, answers, 0.6)
    assert (np.array(row) ** times - 1e-12 <= between).all()
    assert (between <= np.array(row) + 1e-12).all()


def test_answers_that_differ_are_chance_and_independent():
    two = np.array([[0.9, 0.1], [0.2, 0.8]])
    assert repeated(two, ["yes", "no"], 0.75) == pytest.approx([0.25 * 0.18, 0.25 * 0.08])


def test_a_borderline_reading_is_a_blend_of_its_outcomes(f7):
    check = f7.checks["turn_rotor"]
    steps, free = (answered("a", check, name, 0).likelihood for name in ("steps", "free"))
    blend = answered("a", check, "steps", 0, weights={"steps": 0.25, "free": 0.75}).likelihood
    assert blend == pytest.approx([0.25 * a + 0.75 * b for a, b in zip(steps, free, strict=True)])


def test_what_is_not_mentioned_speaks_softly_against_it(f7):
    complaint = f7.complaints["says_water_stays"]
    loud, silent = said("a", complaint, 0).likelihood, not_said("a", complaint, 0).likelihood
    share = complaint.record.hard_to_miss
    assert silent == pytest.approx([1 - share * p for p in loud])
    ratios = [a / b for a, b in zip(loud, silent, strict=True)]
    assert max(ratios) / min(ratios) > 1


@pytest.mark.parametrize("stored", [True, False])
def test_a_code_stored_and_not_stored_are_all_there_is(f7, stored):
    for code in f7.codes.values():
        finding = read_code("a", code, stored, 0, repeatability=0.9)
        other = read_code("a", code, not stored, 0, repeatability=0.9)
        both = [a + b for a, b in zip(finding.likelihood, other.likelihood, strict=True)]
        assert both == pytest.approx([1.0] * len(both))


def test_a_live_mark_speaks_louder_than_an_old_trail_and_in_its_phase_louder_still(shelf, f7):
    table = shelf.tables.marks
    for mark in f7.marks.values():

        def odds(age, phase, mark=mark):
            likelihood = seen_at("a", mark, age, phase, epoch=0, table=table).likelihood
            others = [p for k, p in enumerate(likelihood) if k != mark.shows]
            return likelihood[mark.shows] / max(others)

        assert odds("live", "any") > odds("unsure", "any") > odds("old", "any") >= 1
        if mark.record.phases and "power-up" not in mark.record.phases:
            assert odds("live", mark.record.phases[0]) > odds("live", "power-up")


def test_evidence_without_one_finding_keeps_the_others_and_the_repairs(f7):
    one = said("a", f7.complaints["says_water_stays"], 0)
    two = answered("b", f7.checks["turn_rotor"], "free", 0)
    evidence = Evidence((one, two))
    assert evidence.without(one) == Evidence((two,))
    assert evidence.epoch == 0
