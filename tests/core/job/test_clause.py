"""How far a denial reaches, what only says when, and what is not said of now."""

import pytest

from bottega.core.job.complaint import hear


@pytest.fixture
def heard(shelf, f7):
    """What is heard, and what is heard to go well, without the prefix of the ids."""

    def listen(text):
        hearing = hear(f7, shelf.tables.speech, text)
        return [
            {name.removeprefix("says_") for name in ids} for ids in (hearing.ids, hearing.well_ids)
        ]

    return listen


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("Nothing happens, but the lamps are on.", {"no_start"}),
        ("It will not stop taking in water.", {"overfill"}),
        ("It stops spinning after a few seconds.", {"no_spin"}),
        ("Everything works except the spin.", {"no_spin"}),
        ("The heating doesn't work.", {"cold"}),
        ("It doesn't drain and the drum is full of water.", {"water_stays"}),
        ("It doesn't drain and doesn't spin.", {"water_stays", "no_spin"}),
        ("It neither drains nor spins.", {"water_stays", "no_spin"}),
        ("I can't get it to drain.", {"water_stays"}),
        ("I don't think it's heating.", {"cold"}),
        ("When I press start it does not begin.", {"no_start"}),
        ("It doesn't trip at once, only after a while.", {"trips"}),
    ],
)
def test_a_denial_reaches_to_the_end_of_what_it_denies(heard, text, said):
    assert heard(text)[0] == said


@pytest.mark.parametrize(
    ("text", "never"),
    [
        ("It spins beautifully.", "no_spin"),
        ("It doesn't leak, it just doesn't spin.", "floor_wet"),
        ("There is no water on the floor.", "no_water"),
        ("I never had any trouble with the spin.", "no_spin"),
        ("My old machine used to leak, this one doesn't.", "floor_wet"),
        ("Your colleague fixed the leak last year.", "floor_wet"),
        ("It leaks on filling, not on draining.", "water_stays"),
        ("It's not the heating, it trips in the cold rinse.", "cold"),
        ("I changed the fuse, still no life in it.", "trips"),
        ("After the power cut it was all right again.", "trips"),
        ("It only drains when I lower the hose.", "no_spin"),
        ("Before the repair it didn't spin, now it does.", "no_spin"),
    ],
)
def test_the_opposite_is_not_heard(heard, text, never):
    assert never not in heard(text)[0]


@pytest.mark.parametrize(
    ("text", "well"),
    [
        ("It fills and drains well.", {"no_water", "water_stays"}),
        ("It drains, it spins, it doesn't heat.", {"no_spin", "water_stays"}),
        ("I have no trouble with the spin.", {"no_spin"}),
        ("It should spin.", set()),
        ("It only drains if I lift the hose.", set()),
        ("It used to drain well.", set()),
    ],
)
def test_what_goes_well_is_said_of_now_and_without_an_if(heard, text, well):
    assert well <= heard(text)[1]
    assert well or not heard(text)[1]
