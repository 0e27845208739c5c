"""Ways of working, each to its end."""

import pytest
from tests.benchmark.test_policy import CALLS, drawn_play, result

from bottega.benchmark.play import played
from bottega.benchmark.policies import POLICIES, Foretold, foretelling, without
from bottega.benchmark.policy import summed


def test_what_is_said_of_money_is_held_against_what_was_paid():
    """A check drawn of three counts for all three; where nothing was checked nothing is said."""
    told = Foretold("look_belt", expected=80.0, saving=2.0, paid=10.0)
    dear = Foretold("look_hose", expected=40.0, saving=6.0, paid=0.0)
    own = [
        result(all_in=100.0, foretold=told, of=3, without=101.0),
        result(all_in=20.0, foretold=dear, of=1, without=40.0),
        result(all_in=500.0),
        result(kind="two", all_in=30.0, foretold=dear, of=5, without=30.0),
        result(kind="sound"),
    ]
    money = summed({"bottega": own, "information": own}, 4, 1, False, shares=CALLS).money
    weights = (0.75 * 3 / 3, 0.75 / 3, 0.1 * 5)

    def mean(*figures):
        return sum(w * f for w, f in zip(weights, figures, strict=True)) / sum(weights)

    assert money.costs.mean == pytest.approx(mean(80, 40, 40), abs=1e-3)
    assert money.paid.mean == pytest.approx(mean(90, 20, 30), abs=1e-3)
    assert money.saves.mean == pytest.approx(mean(2, 6, 6), abs=1e-3)
    assert money.saved.mean == pytest.approx(mean(1, 20, 0), abs=1e-3)


def test_what_is_foretold_is_what_the_plan_does(shop, machine):
    """The plan that notes what it says makes the same moves, and without a check never makes it."""
    told = []
    noting, plain = (drawn_play(shop, machine, "one", "foretold") for _ in range(2))
    played(noting, foretelling(told))
    played(plain, POLICIES["bottega"])
    assert (noting.cost, noting.done, noting.ended) == (plain.cost, plain.done, plain.ended)
    assert told
    assert [one.paid for one in told] == sorted(one.paid for one in told)
    assert all(one.expected > one.saving for one in told)
    never = drawn_play(shop, machine, "one", "foretold")
    played(never, without(told[0].check))
    assert told[0].check in {f.source.subject for f in noting.findings}
    assert told[0].check not in {f.source.subject for f in never.findings}
