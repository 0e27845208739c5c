"""Layout that is computed: margin notes never overlap nor cross, the day's strip never does two
things at once."""

from itertools import combinations, pairwise

from hypothesis import given
from hypothesis import strategies as st

from bottega.web.drawing.section import BOTTOM, NOTE_HEIGHT, TOP, spread, uncrossed

heights = st.lists(st.floats(0, 412), min_size=0, max_size=5).map(sorted)
points = st.lists(
    st.tuples(st.floats(0, 412), st.floats(210, 390)), min_size=2, max_size=4, unique=True
)


@given(wanted=heights)
def test_notes_stand_apart_and_inside(wanted):
    tops = spread(wanted)
    assert len(tops) == len(wanted)
    for above, below in pairwise(tops):
        assert below - above >= NOTE_HEIGHT - 1e-6 or above == TOP
    if len(tops) <= 4:
        assert all(TOP <= top <= BOTTOM for top in tops)


def crosses(a, b, c, d):
    def turn(p, q, r):
        return (q[0] - p[0]) * (r[1] - p[1]) - (q[1] - p[1]) * (r[0] - p[0])

    return turn(a, b, c) * turn(a, b, d) < -1e-6 and turn(c, d, a) * turn(c, d, b) < -1e-6


@given(found=points)
def test_leader_lines_do_not_cross(found):
    items = sorted((y, x, f"part{n}", 0.1) for n, (y, x) in enumerate(found))
    tops = spread([item[0] - 20 for item in items])
    lines = [
        ((210.0, top + 20), (item[1], item[0]))
        for top, item in zip(tops, uncrossed("left", tops, items), strict=True)
    ]
    for one, other in combinations(lines, 2):
        assert not crosses(*one, *other)
