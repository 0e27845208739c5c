"""The table of plans."""

from bottega.benchmark.strip import bench_strip, strip_rows


def test_every_plan_is_proved_and_none_is_longer_than_the_list():
    bench = bench_strip(1, 20, lambda words: None)
    assert len({one.archetype for one in bench.plans}) == 8
    assert all(one.optimal for one in bench.plans)
    assert all(one.minutes <= one.naive_minutes + 0.01 for one in bench.plans)
    assert any(one.minutes < one.naive_minutes - 5 for one in bench.plans)
    assert (bench.brute_force_cases, bench.brute_force_misses) == (20, 0)
    head, rows = strip_rows(bench)
    assert all(len(row) == len(head) for row in rows)
