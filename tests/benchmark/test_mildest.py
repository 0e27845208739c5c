"""The grey zone of faults."""

from bottega.benchmark.mildest import Mildest, mildest


def test_shares_are_told_apart():
    one = Mildest(kind="X", machines=4, shows={"a": 0.0, "b": 0.5, "c": 1.0, "d": 0.25})
    assert (one.in_between, one.never, one.always) == (0.5, ["a"], ["c"])


def test_what_is_there_or_not_always_shows_and_what_wears_does_not(monkeypatch):
    faults = ["board_supply_dead", "brushes_worn", "feet_uneven", "belt_off"]
    monkeypatch.setattr("bottega.benchmark.mildest.injectable", lambda known: faults)
    found = mildest("FB", 1, 6, lambda line: None)
    assert found.shows["belt_off"] == 1
    assert found.shows["brushes_worn"] < 1
    assert found.shows["feet_uneven"] < 1
