"""Orders of work against brute force over every order there is."""

from itertools import permutations
from random import Random

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from bottega.core.strip.order import ChangeoverMinutes, NoOrder, WorkItem, WorkToOrder, naive, timed
from bottega.core.strip.shortest import shortest

PRICES = ChangeoverMinutes((("upright", 2.0), ("tipped", 3.0)), 0.5)


def made(seed: int, most: int = 9) -> WorkToOrder:
    """A made-up piece of work: random precedences, tools, postures, one or two soaks."""
    rng = Random(seed)
    size = rng.randint(1, most)
    items: list[WorkItem] = []
    for n in range(size):
        after = tuple(f"i{m}" for m in range(n) if rng.random() < 0.25)
        posture = rng.choice([None, "upright", "upright", "tipped"])
        tool = rng.choice(["none", "screwdriver", "spanner", "pliers"])
        soaks = ((after[0], rng.choice([3.0, 12.0])),) if after and rng.random() < 0.35 else ()
        minutes = rng.choice([0.5, 1.0, 4.0])
        items.append(WorkItem(f"i{n}", minutes, tool, posture, after, soaks))
    rng.shuffle(items)
    return WorkToOrder(
        tuple(items), rng.choice(["upright", "tipped"]), PRICES, rng.choice([None, "upright"])
    )


def brute(work: WorkToOrder) -> float:
    """The least minutes of all orders that keep what comes before what."""
    best = float("inf")
    for ids in permutations([item.id for item in work.items]):
        try:
            best = min(best, timed(work, ids).minutes)
        except NoOrder:
            continue
    return best


@pytest.mark.parametrize("seed", range(60))
def test_no_order_takes_less(seed):
    work = made(seed, 7)
    found = shortest(work)
    assert found.optimal
    assert found.minutes == pytest.approx(brute(work), abs=0.051)


@pytest.mark.parametrize("seed", [3, 11])
def test_no_order_of_nine_takes_less(seed):
    rng, work = Random(seed), made(seed)
    while len(work.items) < 9 or not any(item.soaks for item in work.items):
        work = made(rng.randint(100, 10_000))
    assert shortest(work).minutes == pytest.approx(brute(work), abs=0.051)


@settings(max_examples=60)
@given(st.integers(0, 10**6))
def test_every_item_once_and_nothing_before_what_it_waits_for(seed):
    work = made(seed, 14)
    found = shortest(work)
    order = [step.item.id for step in found.steps]
    assert sorted(order) == sorted(item.id for item in work.items)
    for n, step in enumerate(found.steps):
        assert set(step.item.after) <= set(order[:n])
        for before, minutes in step.item.soaks:
            over = next(s.ends for s in found.steps if s.item.id == before)
            assert step.begins >= over + minutes - 1e-9
    assert found.minutes <= naive(work).minutes + 1e-9
    spent = sum(item.minutes for item in work.items)
    assert found.minutes >= spent - 1e-9


def test_a_soak_is_filled_with_other_work():
    work = WorkToOrder(
        (
            WorkItem("oil", 0.5),
            WorkItem("nut", 2, "spanner", None, ("oil",), (("oil", 20),)),
            WorkItem("panel", 6, "screwdriver"),
            WorkItem("door", 12, "screwdriver"),
        ),
        "upright",
        PRICES,
    )
    found = shortest(work)
    assert [step.item.id for step in found.steps] == ["oil", "panel", "door", "nut"]
    assert found.waited == pytest.approx(1.0)
    assert found.minutes == pytest.approx(0.5 + 20 + 2)


def test_work_on_its_back_is_done_in_one_go():
    def item(name, posture, *after):
        return WorkItem(name, 1, "none", posture, after)

    work = WorkToOrder(
        (item("a", "tipped"), item("b", "upright"), item("c", "tipped"), item("d", "upright")),
        "upright",
        PRICES,
        "upright",
    )
    assert shortest(work).tips == 2
    assert naive(work).tips == 4


def test_a_circle_is_refused():
    work = WorkToOrder(
        (WorkItem("a", 1, after=("b",)), WorkItem("b", 1, after=("a",))), "upright", PRICES
    )
    with pytest.raises(NoOrder):
        shortest(work)
    with pytest.raises(NoOrder, match="before what it waits for"):
        timed(
            WorkToOrder((WorkItem("a", 1), WorkItem("b", 1, after=("a",))), "upright", PRICES),
            ["b", "a"],
        )
