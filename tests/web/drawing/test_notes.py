"""Margin notes: they never overlap nor cross, whatever stands in a margin and however high the
leading one is."""

from itertools import combinations, pairwise

from hypothesis import given
from hypothesis import strategies as st

from bottega.web.drawing.notes import (
    BOTTOM,
    NOTES_TOP,
    MarginNote,
    spread,
    stacked,
)

points = st.lists(
    st.tuples(st.floats(0, 412), st.floats(215, 390)), min_size=0, max_size=4, unique=True
)


def items_of(found, detailed):
    """As many as one margin holds; the first with a detail when asked."""
    items = [MarginNote(y, x, f"part{n}", detailed and n == 0) for n, (y, x) in enumerate(found)]
    while sum(item.height for item in items) > BOTTOM - NOTES_TOP:
        items.pop()
    return items


def crosses(a, b, c, d):
    def turn(p, q, r):
        return (q[0] - p[0]) * (r[1] - p[1]) - (q[1] - p[1]) * (r[0] - p[0])

    return turn(a, b, c) * turn(a, b, d) < -1e-6 and turn(c, d, a) * turn(c, d, b) < -1e-6


@given(found=points, detailed=st.booleans())
def test_notes_stand_apart_and_inside(found, detailed):
    items = items_of(found, detailed)
    tops = spread(items)
    assert len(tops) == len(items)
    for (above, item), (below, _) in pairwise(zip(tops, items, strict=True)):
        assert below - above >= item.height - 1e-6
    for top, item in zip(tops, items, strict=True):
        assert top >= NOTES_TOP
        assert top + item.height <= BOTTOM + 1e-6


@given(found=points)
def test_leader_lines_of_notes_of_one_height_do_not_cross(found):
    """With equal heights some order without a crossing always exists."""
    assert crossings(stacked("left", items_of(found, detailed=False))) == 0


@given(found=points)
def test_no_other_order_crosses_less(found):
    """A detail may stand in the way of a line; then no order of the margin does better."""
    from itertools import permutations

    items = items_of(found, detailed=True)
    best = min(
        crossings(list(zip(spread(list(order)), order, strict=True)))
        for order in permutations(items)
    )
    assert crossings(stacked("left", items)) <= best


def crossings(placed):
    lines = [((210.0, top + item.anchor), (item.x, item.y)) for top, item in placed]
    return sum(crosses(*one, *other) for one, other in combinations(lines, 2))
