"""What the customer says is heard in many wordings; what is denied or goes well is known as such,
what is not made out is named, and a person's ticks win."""

from pathlib import Path

import pytest
from hypothesis import given
from hypothesis import strategies as st

from bottega.core.job.complaint import HeardPhrase, Picks, hear

LINES = [
    [part.strip() for part in line.split("|")]
    for line in Path(__file__).with_name("phrases.txt").read_text(encoding="utf-8").splitlines()
    if line and not line.startswith("#")
]


def meant(names):
    return {f"says_{name.strip()}" for name in names.split(",") if name.strip()}


def test_of_three_hundred_phrases_nineteen_in_twenty_are_heard_and_few_misheard(shelf):
    """Heard is a phrase in which everything meant is found; misheard one in which more is."""
    deaf, wrong = [], []
    for kind, names, text in LINES:
        found = set(hear(shelf.machine(kind), shelf.tables.speech, text).ids)
        if not meant(names) <= found:
            deaf.append((kind, text, names, found))
        if not found <= meant(names):
            wrong.append((kind, text, names, found))
    assert len(LINES) >= 300
    assert len(deaf) <= 0.05 * len(LINES), deaf
    assert len(wrong) <= 0.03 * len(LINES), wrong


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("does not get hot", "cold"),
        ("leaking", "floor_wet"),
        ("RCD goes off", "trips"),
        ("no power at all", "dead"),
        ("door wont open", "stays_locked"),
        ("drum won't turn", "no_turn"),
        ("banging on spin", "walks"),
        ("smells burnt", "smell"),
        ("stops mid programme", "stops"),
        ("drips by the door", "door_drip"),
    ],
)
def test_words_that_used_to_be_dropped_are_heard(shelf, f7, text, said):
    hearing = hear(f7, shelf.tables.speech, text)
    assert set(hearing.ids) == meant(said)
    assert hearing.lost == ()


def test_what_goes_well_is_a_finding_and_not_a_complaint(shelf, f7):
    hearing = hear(f7, shelf.tables.speech, "It fills and drains well and never leaks, no spin.")
    assert hearing.ids == ("says_no_spin",)
    assert {"says_no_water", "says_water_stays", "says_floor_wet"} <= set(hearing.well_ids)


def test_what_is_said_and_denied_is_said(shelf, f7):
    hearing = hear(f7, shelf.tables.speech, "It drains well. But on wool it does not drain.")
    assert hearing.ids == ("says_water_stays",)
    assert hearing.well_ids == ()


@pytest.mark.parametrize(
    ("text", "often"),
    [
        ("It trips every time.", "every time"),
        ("Now and then it does not drain", "now and then"),
        ("It does not always spin, only sometimes.", "now and then"),
        ("It does not spin.", ""),
    ],
)
def test_how_often_is_heard(shelf, f7, text, often):
    assert hear(f7, shelf.tables.speech, text).often == often


def test_what_nobody_made_out_is_named_in_the_customers_words(shelf, f7):
    hearing = hear(f7, shelf.tables.speech, "It leaks, the gnomes are angry, and it hums.")
    assert hearing.lost == ("the gnomes are angry",)
    assert hear(f7, shelf.tables.speech, "").lost == ()
    assert hear(f7, shelf.tables.speech, "Es schleudert nicht").lost == ("es schleudert nicht",)


def test_a_mail_with_markup_is_read_as_its_words(shelf, f7):
    mail = "<style>p {color: red}</style><p>Hello,</p><div>it does <b>not</b>&nbsp;drain</div>"
    assert hear(f7, shelf.tables.speech, mail).ids == ("says_water_stays",)


@given(st.text(max_size=300))
def test_no_text_breaks_the_ear(shelf, f7, text):
    hearing = hear(f7, shelf.tables.speech, text)
    assert not set(hearing.ids) & set(hearing.well_ids)
    assert set(hearing.ids) <= set(f7.complaints)


class TestPicks:
    def heard(self, f7, **words):
        return tuple(HeardPhrase(f7.complaints[f"says_{n}"], text) for n, text in words.items())

    def test_a_tick_wins_over_a_text_that_says_nothing_of_it(self, f7):
        stands, picks = Picks(yes=("says_cold",)).over(self.heard(f7, hums="hums"), ())
        assert stands == ("says_hums", "says_cold")
        assert picks.yes == ("says_cold",)

    def test_a_tick_falls_when_the_text_is_rewritten_against_it(self, f7):
        denied = self.heard(f7, cold="heats well")
        assert Picks(yes=("says_cold",)).over((), denied) == ((), Picks())

    def test_an_untick_holds_while_the_words_stay_and_falls_when_they_change(self, f7):
        off = Picks(no={"says_hums": "hums"})
        assert off.over(self.heard(f7, hums="hums"), ()) == ((), off)
        stands, picks = off.over(self.heard(f7, hums="humming loudly"), ())
        assert stands == ("says_hums",)
        assert picks.no == {}

    def test_a_form_that_comes_back_tells_ticks_and_unticks(self, f7):
        shown = {"says_hums": "hums", "says_cold": "cold"}
        picks = Picks().after(shown, ["says_hums", "says_wet"])
        assert picks == Picks(("says_wet",), {"says_cold": "cold"})
        assert picks.after({"says_hums": "hums"}, ["says_hums", "says_wet", "says_cold"]).no == {}
