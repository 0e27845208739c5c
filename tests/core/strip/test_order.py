"""An order timed by hand: what it changes, waits for and takes."""

import pytest

from bottega.core.strip.order import (
    ChangeoverMinutes,
    NoOrder,
    WorkItem,
    WorkToOrder,
    above,
    naive,
    timed,
)

PRICES = ChangeoverMinutes((("tipped", 4.0), ("upright", 3.0)), 0.5)
LIST = WorkToOrder(
    (
        WorkItem("oil", 1.0),
        WorkItem("cover", 2.0, "torx"),
        WorkItem("pump", 5.0, "torx", "tipped", ("cover",)),
        WorkItem("nut", 3.0, "spanner", None, ("oil",), (("oil", 20.0),)),
    ),
    "upright",
    PRICES,
    "upright",
)


def test_an_order_takes_what_a_hand_reckons():
    found = timed(LIST, ["oil", "cover", "pump", "nut"])
    # 1, a tool 0.5 and 2, tipping 4 and 5; oil soaks to minute 21; a tool, 3, and upright again 3.
    at = [(step.begins, step.ends) for step in found.steps]
    assert at == [(0, 1), (1.5, 3.5), (7.5, 12.5), (21, 24)]
    assert (found.minutes, found.tips, found.tool_changes, found.waited) == (27, 2, 2, 8)


def test_the_listed_order_keeps_what_has_to_come_before():
    turned = WorkToOrder(tuple(reversed(LIST.items)), "upright", PRICES)
    assert [step.item.id for step in naive(turned).steps] == ["cover", "pump", "oil", "nut"]


def test_what_comes_before_is_known_near_and_far():
    chain = WorkToOrder(
        (WorkItem("a", 1), WorkItem("b", 1, after=("a",)), WorkItem("c", 1, after=("b",))),
        "upright",
        PRICES,
    )
    assert above(chain) == {"a": set(), "b": {"a"}, "c": {"a", "b"}}


def test_an_order_against_what_waits_is_refused():
    with pytest.raises(NoOrder, match="found 'pump' before what it waits for"):
        timed(LIST, ["pump", "cover"])
