"""The short notation of chances: whatever it is, a distribution comes out, or an error that says
where."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from bottega.core.library.chances import (
    ChanceError,
    chance,
    outcome_table,
    over_states,
    per_state,
    placed,
)
from bottega.core.library.errors import LibraryError

WORDS = {"always": 1.0, "often": 0.6, "rarely": 0.1}
STATES = ("normal", "slow", "none")


@given(st.floats(0, 1), st.floats(0, 1))
def test_what_is_missing_to_one_is_normal(slow, none):
    if slow + none <= 1:
        given_ = over_states({"slow": slow, "none": none}, STATES, WORDS)
        assert sum(given_) == pytest.approx(1)
        assert given_[1:] == (slow, none)


def test_a_number_is_spread_and_a_name_holds_always():
    assert over_states(0.4, STATES, WORDS) == pytest.approx((0.6, 0.2, 0.2))
    assert over_states("none", STATES, WORDS) == (0.0, 0.0, 1.0)
    assert over_states({"slow": "often"}, STATES, WORDS) == pytest.approx((0.4, 0.6, 0.0))


@pytest.mark.parametrize(
    ("spec", "found"),
    [
        ({"fast": 0.2}, "the state 'fast'"),
        ({"slow": "seldom"}, "the word 'seldom'"),
        ({"slow": 0.9, "none": 0.2}, "sum to 1.10"),
    ],
)
def test_what_is_no_distribution_says_so_and_where(spec, found):
    with pytest.raises(ChanceError, match=found):
        over_states(spec, STATES, WORDS)
    with pytest.raises(LibraryError) as caught:
        placed("drain", "effects.flow", over_states, spec, STATES, WORDS)
    problem = caught.value.problems[0]
    assert (problem.file, problem.key) == ("drain.yaml", "effects.flow")
    assert found in problem.found


def test_states_nobody_names_get_the_rest():
    assert per_state({"none": "always"}, STATES, WORDS, 0.03) == (0.03, 0.03, 1.0)
    assert chance("rarely", WORDS) == 0.1


@given(
    st.lists(st.integers(0, 4), min_size=2, max_size=5),
    st.floats(0.5, 1),
)
def test_every_state_reads_as_something_and_mostly_as_itself(reported, reliability):
    rows = outcome_table(reported, 5, reliability)
    for state in range(5):
        assert sum(row[state] for row in rows) == pytest.approx(1)
        own = [o for o, r in enumerate(reported) if r == state]
        if own and len(own) < len(reported):
            assert sum(rows[o][state] for o in own) == pytest.approx(reliability)
