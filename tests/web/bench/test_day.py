"""The day's strip: bars in the order of the hours, none over another, words only where there is
room."""

from datetime import UTC, datetime
from itertools import pairwise

import pytest

from bottega.app.bench.sheets import bench, works_of
from bottega.core.day.plan import plan_of_day
from bottega.web.bench.day import DAY_LEFT, DAY_WIDTH, ROOM_FOR_NUMBER, strip_of


@pytest.mark.parametrize("hour", [5, 8, 10, 17, 22])
def test_bars_never_overlap_and_stay_on_the_strip(demo, hour):
    now = datetime(2031, 5, 14, hour, 5, tzinfo=UTC)
    names = [member.name for member in demo.members]
    strip = strip_of(plan_of_day(names, works_of(demo, bench(demo), now), now))
    for row in strip.rows:
        spans = sorted((bar.x, bar.x + bar.width) for bar in row.bars)
        assert all(first[1] <= second[0] + 0.2 for first, second in pairwise(spans))
        assert all(DAY_LEFT <= start < end <= DAY_LEFT + DAY_WIDTH + 0.2 for start, end in spans)
        assert all(bar.text == "" for bar in row.bars if bar.width < ROOM_FOR_NUMBER)
        for bar in row.bars:
            whole = f"{bar.number} {bar.place} "
            assert not bar.text or whole.startswith(bar.text + " ")
    assert (strip.now_x is None) == (not 8 <= hour < 18)
