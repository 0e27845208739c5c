"""The shop's own minutes: what they are learned from, and what they change."""

import random

import pytest

from bottega.core.library.shelf import shipped_shelf
from bottega.core.machine.state import MachineState
from bottega.core.strip.pace import ALL, learned, paced
from bottega.core.strip.plan import plan

SHELF = shipped_shelf()
FIGURES = SHELF.tables.strip.pace


def shop(own, times, seed=7, scatter=0.25):
    """Return what a shop noted whose true shares of the library's minutes are ``own``."""
    draw = random.Random(seed)
    return {
        name: [(6.0, 6.0 * share * draw.lognormvariate(0, scatter)) for _ in range(times)]
        for name, share in own.items()
    }


def test_a_shop_is_known_again_from_what_it_noted():
    own = {f"op{n}": 1.5 for n in range(8)} | {"belt_off": 0.6}
    pace = learned(shop(own, times=40), FIGURES)
    assert pace[ALL] == pytest.approx(1.5, rel=0.08)
    assert pace["belt_off"] == pytest.approx(0.6, rel=0.2)


def test_what_was_seen_seldom_lies_near_the_common_pace():
    often = {f"op{n}": [(6.0, 12.0)] * 40 for n in range(4)}
    once = learned({**often, "rare": [(6.0, 3.0)]}, FIGURES)["rare"]
    many = learned({**often, "rare": [(6.0, 3.0)] * 60}, FIGURES)["rare"]
    assert 0.5 < many < 0.75 < 1.3 < once < 2.0


def test_too_little_teaches_nothing_and_a_night_is_no_step():
    assert learned({"belt_off": [(6.0, 60.0)] * (FIGURES.fewest - 1)}, FIGURES) == {}
    slow = learned({"belt_off": [(6.0, 6000.0)] * 50}, FIGURES)
    assert slow["belt_off"] <= FIGURES.most


def test_a_plan_at_another_pace_takes_its_minutes_and_no_pace_changes_nothing():
    machine = SHELF.machine("FB")
    way = machine.repairs["drain_pump.part"].way
    assert paced(machine, {}) is machine
    usual, twice = (
        plan(one, SHELF.tables, MachineState(), way).best
        for one in (machine, paced(machine, {ALL: 2.0}))
    )
    done = sum(machine.operations[name].minutes for name in usual.operations)
    assert twice.opening.minutes >= usual.opening.minutes + done * 0.99
