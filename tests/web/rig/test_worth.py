"""How good it is, in words."""

import pytest

from bottega.app.rig.worth import Share
from bottega.web.rig.worth import in_percent, off_words


def test_nothing_is_less_than_nothing():
    assert in_percent(Share(mean=0.08, low=-0.0001, high=0.16)).span == "0% to 16%"


@pytest.mark.parametrize(
    ("off", "words"), [(0.034, "too sure by 3"), (-0.039, "too modest by 4"), (0.004, "as often")]
)
def test_which_way_it_is_off_is_said(off, words):
    assert words in off_words(off)
