"""What knocks: slack by its bolt, loudness by the fall."""

import pytest

from bottega.rig.knocking import loosened_mm, struck_db


def test_what_falls_ten_times_as_far_strikes_ten_decibel_louder():
    assert struck_db(10.0) - struck_db(1.0) == pytest.approx(10)


def test_a_bolt_that_holds_leaves_no_slack_and_one_that_is_off_all_of_it():
    assert loosened_mm(20.0, 15.0) == 0
    assert loosened_mm(0.0, 15.0) == 2 * loosened_mm(7.5, 15.0) > 0
