"""The day a cure nobody can explain is looked at again: late enough for what comes and goes to
come."""

from random import Random

import pytest

from bottega.core.job.recheck import again_after
from bottega.core.job.words import again_words

PLUG, WIRES, STEADY = "sensor_plug_loose.reseat", "pump_wires_open.reseat", "filter_blocked.clean"


@pytest.mark.parametrize("repair", [PLUG, WIRES, STEADY])
def test_what_is_still_there_has_shown_itself_by_then(shelf, f7, repair):
    engine, rng = shelf.tables.engine, Random(2)
    wait = again_after(repair, f7, engine)
    shows = min(f7.faults[fault].shows for fault, _ in f7.repairs[repair].covers)
    seen = [
        [rng.random() < shows and rng.random() > engine.run_misses for _ in range(wait.runs)]
        for _ in range(4000)
    ]
    stayed_away = sum(not any(runs) for runs in seen) / 4000
    one_less = sum(not any(runs[:-1]) for runs in seen) / 4000
    assert stayed_away < 1.2 * (1 - engine.recheck_sure) < 1.5 * one_less


def test_the_rarer_it_shows_the_later_and_a_week_has_its_runs(shelf, f7):
    engine = shelf.tables.engine
    waits = [again_after(repair, f7, engine) for repair in (STEADY, WIRES, PLUG)]
    assert [wait.runs for wait in waits] == sorted({wait.runs for wait in waits})
    for wait in waits:
        assert wait.days - 1 < wait.runs * 7 / engine.runs_a_week <= wait.days
    assert f"{waits[2].runs} runs" in again_words(waits[2])
    assert f"{waits[2].days} days" in again_words(waits[2])
