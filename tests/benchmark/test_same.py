"""What is held the same: figures to a millionth of a millionth, places named, random jobs whole."""

import pytest

from bottega.app.job.file import read_job_file, replayed
from bottega.benchmark.same import EQUAL, _lasting, _Text, random_jobs, unequal


def test_places_that_differ_are_named():
    one = {"a": [1.0, {"b": "x"}], "c": 2, "same": 0.1}
    other = {"a": [1.0 + 1e-9, {"b": "y"}, 5], "d": None, "same": 0.1 + EQUAL / 10}
    assert list(unequal(one, one)) == []
    assert [line.split(":")[0] for line in unequal(one, other)] == [
        ".a[0]",
        ".a[1].b",
        ".a[2]",
        ".c",
    ]


@pytest.mark.parametrize("kind", ["FB", "TS"])
def test_random_jobs_are_whole_and_follow_from_the_seed(workshop, kind):
    jobs = list(random_jobs(workshop, kind, 3, 3))
    again = [job.model_dump_json() for job in random_jobs(workshop, kind, 3, 3)]
    assert [job.model_dump_json() for job in jobs] == again
    for job in jobs:
        _, events = read_job_file(job.model_dump_json().encode())
        assert len(replayed(workshop, events)) == len(job.events) >= 4


def test_words_and_links_of_a_page_without_what_changes():
    text = _Text()
    text.feed(
        "<title>A</title><script>x()</script><a href='/jobs/0412'>at 12:31</a> <p>0412 and  ab</p>"
    )
    assert text.links == ["/jobs/0412"]
    assert _lasting(text.words) == ["A", "at …", "0412 and ab"]
