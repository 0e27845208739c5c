"""Whatever hands do at the rig's own page, at random on every kind: what may never be is told here
by the physics of the machine, in sentences of their own."""

from random import Random

import pytest

from bottega.app.errors import AppError
from bottega.app.rig.acts import LiveTest, act
from bottega.app.rig.fetch import stand
from bottega.app.rig.gestures import felt
from bottega.app.rig.hands import perform, take_off
from bottega.store.rigs import RigTicket

KINDS = ("FB", "FD", "FI", "SL", "TD", "TG", "TS", "WD")
HURTS = {"cover", "water", "moving", "load"}
ACTS = (
    *[("plug", "in"), ("plug", "out"), ("taps", "open"), ("taps", "shut"), ("tip", "")] * 2,
    *[("key", "open door"), ("key", "shut door"), ("pour", ""), ("bail", ""), ("wait", "300")],
    *[("charge", ""), ("start", "short"), ("stop", ""), ("enter", ""), ("panel", "")],
)


def hand(workshop, at, rng):
    """Do one thing at random; return what it was."""
    name, machine = at.ticket.name, at.machine_type
    pick = rng.random()
    if pick < 0.35:
        operation = rng.choice(list(machine.operations))
        take_off(workshop, name, operation, at.acts)
        return "off", operation
    if pick < 0.45:
        check = rng.choice(list(machine.checks))
        perform(workshop, name, check, at.acts)
        return "check", check
    if pick < 0.5:
        felt(at, "drum")
        return "feel", "drum"
    what, value = rng.choice(ACTS)
    live = LiveTest()
    if (what, value) == ("plug", "in") and rng.random() < 0.5:
        live = LiveTest(rng.choice(list(machine.checks)), "Ida")
    act(workshop, name, what, value, seen=at.acts, live=live)
    return what, value


def wrong(at):
    """Return what is wrong with how the machine stands."""
    plugged, tipped = at.machine.plugged, at.hands.posture == "tipped"
    opens = {kind for name in at.hands.off for kind in at.machine_type.operations[name].opens}
    if plugged and opens & HURTS and not at.hands.live_test:
        return f"plugged in with {at.hands.off}"
    if plugged and tipped:
        return "plugged in and tipped"
    if tipped and at.machine.warmth.litres > 1:
        return "tipped with water in it"
    if tipped and at.machine.tap_open:
        return "tipped with its taps open"
    return ""


def wrongly_done(at, what, value, before):
    """Return what was wrong with what was done; ``before`` is whether it was plugged in and held
    a charge, its litres, and whether its door was shut."""
    plugged, charged, litres, shut = before
    if (what, value) == ("feel", "drum") and plugged:
        return "turned by hand while plugged in"
    opened = shut and not at.front.shut
    if opened and at.machine_type.loads == "front" and litres > 1:
        return "a door at the front opened with water in"
    needs = at.machine_type.operations[value].needs if what == "off" else None
    if needs is not None and needs.charge and charged:
        return f"{value} with a charge left"
    if needs is not None and needs.power == "off" and plugged:
        return f"{value} while plugged in"
    return ""


@pytest.mark.parametrize("kind", KINDS)
def test_no_hand_brings_about_what_may_never_be(workshop, kind):
    done = set()
    for seed in range(4):
        workshop.rigs.keep(RigTicket(f"hands{seed}", kind, None, f"{seed}", {"tap_shut": 0.5}))
        at, rng = stand(workshop, f"hands{seed}"), Random(f"{kind}{seed}")
        for _ in range(150):
            at = stand(workshop, f"hands{seed}")
            charged, litres = at.hands.charge != "none", at.machine.warmth.litres
            before = at.machine.plugged, charged, litres, at.front.shut
            try:
                what, value = hand(workshop, at, rng)
            except AppError:
                continue
            done.add(what)
            assert not wrong(at), (what, value)
            assert not wrongly_done(at, what, value, before), (what, value)
    assert {"plug", "taps", "off", "key", "check", "feel"} <= done


def test_the_test_would_find_it(workshop, monkeypatch):
    """Without the table the same hands bring it about soon."""
    monkeypatch.setattr("bottega.app.rig.acts.refuse", lambda *_: None)
    workshop.rigs.keep(RigTicket("free", "FB", None, "1", {"tap_shut": 0.5}))
    rng, found = Random("free"), set()
    for _ in range(150):
        at = stand(workshop, "free")
        try:
            hand(workshop, at, rng)
        except AppError:
            continue
        found.add(wrong(at).split(" with ")[0])
    assert "plugged in and tipped" in found
