"""A board by itself, on signals that are made up: it knows only what its sensors tell it."""

from dataclasses import dataclass

import pytest

from bottega.rig.board import (
    BLIND_S,
    DRAIN_LIMIT_S,
    FILL_LIMIT_S,
    LOCK_LOST_S,
    OPENS_BELOW_C,
    OPENS_BELOW_L,
    PLATEAU_S,
    PLATEAUS_RPM,
    RAMP_RPM_S,
    SPREAD_RPM,
    SPREADS_ANEW,
    SPREADS_S,
    TOO_UNEVEN_KGM,
    Board,
)
from bottega.rig.programmes import WASH_RPM, Phase
from bottega.rig.state import STEP_S, Asks, Seen


@dataclass
class Signals:
    """What a board is told."""

    level_l: float | None = 0.0
    ntc_ohm: float = 10_000.0
    water_by_ntc_c: float = 20.0
    speed_rpm: float | None = 0.0
    contact: bool = True
    shifted: bool = True
    uneven_kgm: float = 0.05
    phases_carry: bool = True
    air_c: float | None = 20.0


def board(*phases, kind="FB"):
    return Board(phases, kind, Asks(), Seen())


def decided(one, signals, seconds):
    """Let a board decide for so long on the same signals."""
    for _ in range(round(seconds / STEP_S)):
        one.decide(signals, STEP_S)
    return one


@pytest.mark.parametrize(
    ("phase", "limit_s", "code"),
    [
        (Phase("fill", litres=13), FILL_LIMIT_S, "filling"),
        (Phase("drain"), DRAIN_LIMIT_S, "emptying"),
    ],
)
def test_it_gives_up_when_its_time_is_over_and_stores_why(phase, limit_s, code):
    signals = Signals(level_l=5.0)
    one = decided(board(phase), signals, limit_s - 5)
    assert one.stopped is None
    decided(one, signals, 10)
    assert one.stopped == phase.kind
    assert one.codes == [code]


def test_water_that_came_is_no_longer_let_in():
    one = decided(board(Phase("fill", litres=13), Phase("drain")), Signals(level_l=12.9), 10)
    assert one.asks.cold
    decided(one, Signals(level_l=13.1), 1)
    assert not one.asks.cold
    assert one.asks.pump


@pytest.mark.parametrize(
    "keeps",
    [
        {"speed_rpm": 40.0},
        {"level_l": OPENS_BELOW_L + 1},
        {"water_by_ntc_c": OPENS_BELOW_C + 1},
    ],
)
def test_a_door_is_kept_shut_while_any_one_thing_keeps_it(keeps):
    one = decided(board(Phase("lock"), Phase("unlock", 5)), Signals(), 1)
    decided(one, Signals(**keeps), 60)
    assert one.keeps_shut
    assert one.asks.lock
    decided(one, Signals(), 2)
    assert not one.keeps_shut
    assert not one.asks.lock


def test_without_a_pulse_it_waits_as_long_as_a_drum_can_run_on():
    one = decided(board(Phase("lock"), Phase("unlock", 5)), Signals(), 1)
    decided(one, Signals(speed_rpm=None), BLIND_S - 10)
    assert one.keeps_shut
    decided(one, Signals(speed_rpm=None), 20)
    assert not one.keeps_shut


def test_a_board_that_gave_up_goes_on_keeping_the_door_shut_over_its_water():
    one = decided(board(Phase("lock"), Phase("drain")), Signals(), 1)
    decided(one, Signals(level_l=14.0), DRAIN_LIMIT_S + 60)
    assert one.done
    assert one.asks.lock
    decided(one, Signals(level_l=1.0), 1)
    assert not one.asks.lock


def test_a_lock_that_bounces_is_borne_and_one_that_is_lost_is_not():
    one = decided(board(Phase("lock"), Phase("wash", 600)), Signals(speed_rpm=48.0), 5)
    decided(one, Signals(speed_rpm=48.0, contact=False), LOCK_LOST_S)
    assert one.stopped is None
    decided(one, Signals(speed_rpm=48.0, contact=False), 1)
    assert one.codes == ["not_locked"]


def test_a_drum_that_does_not_turn_is_told_from_pulses_that_do_not_come():
    for speed, code in ((0.0, "not_turning"), (None, "no_speed")):
        one = decided(board(Phase("wash", 600)), Signals(speed_rpm=speed), 120)
        assert one.codes == [code]


def test_a_load_too_far_off_centre_is_let_fall_some_times_before_the_spin_is_given_up():
    one = board(Phase("spin", 40, rpm=1200.0))
    signals = Signals(uneven_kgm=TOO_UNEVEN_KGM + 0.01, speed_rpm=90.0)
    decided(one, signals, SPREADS_ANEW * (SPREADS_S + 14))
    assert one.stopped is None
    assert one.spread_anew == SPREADS_ANEW
    decided(one, signals, 60)
    assert one.stopped == "spin"
    assert one.codes == []


def test_a_load_that_lies_better_the_second_time_is_spun():
    one = board(Phase("spin", 40, rpm=1200.0))
    decided(one, Signals(uneven_kgm=TOO_UNEVEN_KGM + 0.01, speed_rpm=90.0), 16)
    assert one.asks.rpm == 0.0
    decided(one, Signals(uneven_kgm=0.05, speed_rpm=0.0), SPREADS_S - 2)
    assert one.asks.rpm == WASH_RPM
    decided(one, Signals(uneven_kgm=0.05, speed_rpm=1200.0), 110)
    assert one.asks.rpm > 600


def test_a_spin_stays_a_while_at_its_plateaus():
    one, asked = board(Phase("spin", 40, rpm=1200.0)), []
    for _ in range(round(240 / STEP_S)):
        one.decide(Signals(uneven_kgm=0.05, speed_rpm=one.asks.rpm), STEP_S)
        asked.append(one.asks.rpm)
    stayed = {rpm: STEP_S * asked.count(rpm) for rpm in asked if asked.count(rpm) > 10}
    assert max(asked) == 1200.0
    near = [rpm for rpm in stayed if SPREAD_RPM < rpm < 1200]
    assert [stayed[rpm] for rpm in near] == [pytest.approx(PLATEAU_S, abs=1)] * 2
    assert near == [pytest.approx(rpm, abs=RAMP_RPM_S) for rpm in PLATEAUS_RPM]


def test_a_drum_that_only_runs_on_does_not_race():
    one = board(Phase("wash", 400))
    for n in range(60):
        one.decide(Signals(level_l=13.0, speed_rpm=900.0 - 10 * n), STEP_S)
    assert one.stopped is None


def test_a_top_loader_whose_basket_is_uneven_stops_at_once():
    one = board(Phase("spin", 40, rpm=700.0), kind="TS")
    decided(one, Signals(uneven_kgm=TOO_UNEVEN_KGM + 0.01, speed_rpm=90.0), 16)
    assert one.stopped == "spin"


@pytest.mark.parametrize("kind", ["FB", "TS"])
def test_a_board_that_gave_up_asks_for_nothing_but_its_lock(kind):
    """A wash whose drum does not turn, while its water is still to be warmed."""
    one = board(Phase("wash", 400, temperature_c=60.0), kind=kind)
    decided(one, Signals(level_l=13.0, water_by_ntc_c=15.0, speed_rpm=0.0), 60)
    assert one.stopped == "wash"
    asks = one.asks
    assert not any((asks.element, asks.pump, asks.cold, asks.hot, asks.drying, asks.rpm))
