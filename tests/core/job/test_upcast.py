"""Bodies of older versions are read as those of today; newer ones are refused by name."""

import pytest

from bottega.core.job.events import SetAside, Waived
from bottega.core.job.file import StoredEvent, restored, stored
from bottega.core.job.kinds import KINDS
from bottega.core.job.upcast import NewerBody, upcasted


def kept(body, version=1):
    return StoredEvent(
        id="event-0000", at="2031-05-14T09:00:00Z", author="Tomo", version=version, body=body
    )


@pytest.mark.parametrize(
    ("old", "new"),
    [
        (
            {"why": "cannot", "reason": "tool missing"},
            SetAside(check="turn_rotor", why="tool_missing"),
        ),
        ({"why": "cannot", "reason": "no access"}, SetAside(check="turn_rotor", why="no_access")),
        (
            {"why": "cannot", "reason": "the cat sits on it"},
            SetAside(check="turn_rotor", why="other", reason="the cat sits on it"),
        ),
        ({"why": "not_now", "reason": ""}, SetAside(check="turn_rotor", why="not_now")),
    ],
)
def test_a_reason_of_version_1_becomes_a_word(old, new):
    body = {"kind": "set_aside", "check": "turn_rotor", **old}
    assert restored(kept(body)).body == new


@pytest.mark.parametrize(
    ("what", "owed", "subject"),
    [
        ("proof:run", "proof", "run"),
        ("follow:impeller_broken", "follow", "impeller_broken"),
        ("recheck:filter_blocked.clean", "recheck", "filter_blocked.clean"),
        ("clear", "clear", "clear"),
        ("safe", "station", "safe"),
    ],
)
def test_what_was_waived_in_version_1_is_parted(what, owed, subject):
    body = {"kind": "waived", "what": what, "reason": "no water"}
    assert restored(kept(body)).body == Waived(owed=owed, subject=subject, reason="no water")


def test_what_is_written_today_is_read_as_it_is():
    event = restored(kept({"kind": "waived", "what": "proof:run", "reason": "no water"}))
    again = stored(event)
    assert again.version == KINDS["waived"].version == 2
    assert restored(again) == event


def test_a_chain_goes_through_every_version_from_its_own_on():
    chain = tuple(lambda body, n=n: {**body, "seen": [*body.get("seen", []), n]} for n in (1, 2, 3))
    assert upcasted("x", 1, {}, chain)["seen"] == [1, 2, 3]
    assert upcasted("x", 3, {}, chain)["seen"] == [3]
    assert upcasted("x", 4, {}, chain) == {}
    with pytest.raises(NewerBody, match="version 5, expected at most 4"):
        upcasted("x", 5, {}, chain)


@pytest.mark.parametrize(
    ("body", "words"),
    [({"kind": "danced"}, "danced"), ({"kind": ["x"]}, "kind"), ({}, "kind None")],
)
def test_an_unknown_kind_is_named(body, words):
    with pytest.raises(ValueError, match=words):
        restored(kept(body))
