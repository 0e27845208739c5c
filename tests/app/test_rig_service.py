"""The way into a service mode on the rig: every sheet's own keys, in their order and their time."""

import pytest

from bottega.app.rig.service import SLACK_S, Front, by_the_book, way_in
from bottega.core.library.panel_record import Face, PanelRecord

LED = (
    "calvessa-dritta-8",
    "nembrio-f7",
    "nembrio-f9",
    "ostrel-linea-t",
    "quernia-compatta-5",
    "sestra-torre",
    "torvane-alta-10",
    "virgola-asciutta-7",
)


def wanted_of(shelf, sheet):
    return way_in(shelf.machine(shelf.sheet(sheet).archetype, sheet).panel)


def done(wanted, acts, every_s=0.3, works=True, *, dial="cotton", shut=False):
    """Return a panel after these acts, one every so many seconds."""
    front = Front(wanted, dial=dial, shut=shut)
    for n, act in enumerate(acts):
        front.do(act, n * every_s, works)
    return front


@pytest.mark.parametrize("sheet", LED)
def test_every_sheets_own_keys_lead_in(shelf, sheet):
    wanted = wanted_of(shelf, sheet)
    acts = by_the_book(wanted)
    assert done(wanted, acts).in_service
    assert not done(wanted, acts[:-1]).in_service
    assert not done(wanted, acts, works=False).in_service


@pytest.mark.parametrize("sheet", [name for name in LED if name != "sestra-torre"])
def test_other_orders_do_not(shelf, sheet):
    wanted = wanted_of(shelf, sheet)
    acts = [act for step in wanted for act in step.acts]
    turned = [*acts[1:], acts[0]]
    if tuple(turned) != tuple(acts):
        assert not done(wanted, turned, dial="rest", shut=True).in_service


def test_two_keys_held_together_may_be_held_in_either_order(shelf):
    wanted = wanted_of(shelf, "sestra-torre")
    acts = ["turn rest", "hold warmth", "hold start", "let go start", "let go warmth"]
    assert done(wanted, acts).in_service
    assert not done(wanted, [*acts[:3], acts[3], "press start", acts[4]]).in_service


def test_the_door_has_to_be_shut_and_the_dial_at_rest(shelf):
    wanted = wanted_of(shelf, "nembrio-f7")
    own = [act for step in wanted for act in step.acts]
    assert not done(wanted, ["shut door", *own]).in_service
    assert not done(wanted, ["turn rest", "open door", *own]).in_service
    assert done(wanted, ["turn rest", "shut door", *own]).in_service


def test_too_slow_is_too_late_and_the_plug_ends_it(shelf):
    wanted = wanted_of(shelf, "calvessa-dritta-8")
    acts = by_the_book(wanted)
    beats = next(step for step in wanted if len(step.acts) == 5)
    slow = (beats.within_s + SLACK_S) / 4 + 0.1
    assert not done(wanted, acts, every_s=slow).in_service
    front = done(wanted, acts)
    front.do("plug out", 99.0, works=True)
    assert not front.in_service


def test_a_machine_without_a_panel_is_not_led(shelf):
    assert not Front(way_in(shelf.machine("TG", "pellandra-400").panel)).led


def test_a_sheet_with_every_key_held_at_once_is_still_answered_at_once():
    keys = tuple(f"k{n}" for n in range(24))
    face = Face(keys=keys)
    panel = PanelRecord(
        kind="display",
        lamps=("display",),
        face=face,
        how="shows it",
        clear=("hold start",),
        entry=({"say": "Hold them all.", "does": "hold", "at": keys},),
    )
    wanted = way_in(panel)
    assert done(wanted, [f"hold {key}" for key in reversed(keys)]).in_service
    assert not done(wanted, [f"hold {key}" for key in keys[1:]]).in_service
