"""The electrical check after a repair, held against the limits the shop chose."""

from dataclasses import replace
from uuid import uuid4

import pytest

from bottega.app.errors import Refused
from bottega.app.job.answer import diagnose
from bottega.app.job.record import record
from bottega.app.measure.electrical import limits_of
from bottega.app.shop.settings import change_settings
from bottega.core.job.events import Limits, Proved
from bottega.core.job.kinds import told


@pytest.fixture
def note(workshop, houseboat):
    """The houseboat's machine, unplugged; what notes an event on its job."""

    def noted(body):
        return record(workshop, houseboat, body, "Ned Ash", event_id=str(uuid4()))

    return noted


def proof(**values):
    return Proved(proof="earth", went=values.pop("went", "well"), **values)


@pytest.mark.parametrize(
    ("values", "says"),
    [
        ({"insulation_mohm": 20}, "Type the earth in ohm"),
        ({"earth_ohm": 0.1}, "Type the insulation"),
        ({"insulation_mohm": 0.5, "earth_ohm": 0.1}, "at least 1"),
        ({"insulation_mohm": 20, "earth_ohm": 0.4}, "Found 0.4 ohm, expected at most 0.3"),
        (
            {"insulation_mohm": 20, "earth_ohm": 0.1, "leakage_ma": 5},
            "Found 5 milliampere, expected at most 3.5",
        ),
        ({"insulation_mohm": 20, "earth_ohm": 0.1, "polarity": "wrong"}, "crossed"),
    ],
)
def test_what_is_out_of_the_limits_does_not_go_back(note, values, says):
    with pytest.raises(Refused, match=says):
        note(proof(**values))
    note(proof(went="badly", **values))
    """That it went badly may be said with what was measured until then."""


def test_another_set_asks_for_more(workshop, note):
    change_settings(workshop, {"limits": "as_new"})
    with pytest.raises(Refused, match=r"expected at most 0\.1"):
        note(proof(insulation_mohm=20, earth_ohm=0.2))
    change_settings(workshop, {"limits": "after_repair"})
    note(proof(insulation_mohm=20, earth_ohm=0.2))


def test_limits_that_came_along_are_not_believed_and_its_own_are_kept(workshop, houseboat, note):
    soft = Limits(name="mine", earth_ohm=50, insulation_mohm=0.001, leakage_ma=900)
    with pytest.raises(Refused):
        note(proof(insulation_mohm=20, earth_ohm=5, limits=soft))
    answer = note(proof(insulation_mohm=20, earth_ohm=0.12, leakage_ma=0.4, polarity="right"))
    body = answer.job.events[-1].body
    assert body.limits.name == limits_of(workshop).name
    words = told(answer.machine, body)[1]
    assert "earth 0.12 ohm (at most 0.3)" in words
    assert "leakage 0.4 milliampere (at most 3.5)" in words
    assert "polarity right" in words
    assert "EN 50678" in words
    assert diagnose(workshop, houseboat).job.proofs()["earth"].earth_ohm == 0.12


def test_a_set_that_is_no_longer_there_gives_way_to_the_first(workshop):
    workshop.change_settings(lambda kept: replace(kept, limits="gone"))
    assert limits_of(workshop).name.startswith("After repair")
    workshop.change_settings(lambda kept: replace(kept, limits="after_repair"))


def test_every_set_names_its_standard(workshop):
    for held in workshop.shelf.tables.limits.sets.values():
        assert "EN " in held.source or "IEC " in held.source
        assert held.earth_ohm <= 0.5
        assert held.insulation_mohm >= 0.3
