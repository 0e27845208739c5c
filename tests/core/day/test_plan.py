"""The plan of a day: nobody does two things at once, and what waits goes to whoever knows it or is
free."""

from datetime import UTC, date, datetime, timedelta
from itertools import pairwise

from hypothesis import given
from hypothesis import strategies as st

from bottega.core.day.plan import FIRST_HOUR, LAST_HOUR, DayWork, next_day_of, plan_of_day

PEOPLE = ("Ilaria", "Pia", "Tomo")
moments = st.builds(
    lambda hour, minute: datetime(2031, 5, 14, hour, minute, tzinfo=UTC),
    st.integers(0, 23),
    st.integers(0, 59),
)
stamps = st.tuples(moments, st.sampled_from([*PEOPLE, "gone"]))
works = st.lists(
    st.builds(
        DayWork,
        number=st.from_regex(r"04[0-9]{2}", fullmatch=True),
        place=st.just("Quay"),
        stamps=st.lists(st.tuples(moments, st.sampled_from([*PEOPLE, "gone"])), max_size=4).map(
            tuple
        ),
        waits=st.booleans(),
        minutes=st.floats(0, 300),
    ),
    max_size=12,
)


@given(works=works, now=moments)
def test_nobody_does_two_things_at_once_and_all_of_it_is_within_the_day(works, now):
    day = plan_of_day(PEOPLE, works, now)
    assert day is not None
    for row in day.rows:
        spans = sorted((task.start_h, task.end_h) for task in row.tasks)
        assert all(first[1] <= second[0] + 1e-9 for first, second in pairwise(spans))
        assert all(FIRST_HOUR <= start < end <= LAST_HOUR for start, end in spans)


def test_what_waits_goes_to_whoever_noted_something_on_it_last():
    now = datetime(2031, 5, 14, 10, tzinfo=UTC)
    stamps = ((now - timedelta(hours=1), "Ilaria"), (now - timedelta(minutes=30), "Pia"))
    day = plan_of_day(PEOPLE, [DayWork("0412", "Quay", stamps, True, 5)], now)
    planned = {row.name: [task for task in row.tasks if not task.past] for row in day.rows}
    assert [task.number for task in planned["Pia"]] == ["0412"]
    assert planned["Ilaria"] == planned["Tomo"] == []
    assert plan_of_day([], [], now) is None
    assert plan_of_day(PEOPLE, [], now.replace(hour=20)).now_h is None


@given(today=st.integers(0, 6), days=st.sets(st.integers(0, 6)))
def test_the_next_of_some_weekdays_is_the_first_that_comes(today, days):
    ahead = next_day_of(today, tuple(days))
    if not days:
        assert ahead is None
        return
    first = next(n for n in range(1, 8) if (today + n) % 7 in days)
    assert ahead == first


def test_the_ferry_of_tuesday_and_friday():
    assert date(2031, 5, 14).weekday() == 2
    assert next_day_of(2, (1, 4)) == 2
    assert next_day_of(4, (1, 4)) == 4
