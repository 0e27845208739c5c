"""What the customer says is sorted by its phrases."""

import pytest

from bottega.core.job.complaint import hear


@pytest.mark.parametrize(
    ("text", "heard"),
    [
        ("It hums and the water stays in", {"says_hums", "says_water_stays"}),
        ("Dead. No lights at all!", {"says_dead"}),
        ("there is no puddle on it, but it roars", {"says_roars"}),
        ("It doesn’t spin", {"says_no_spin"}),
        ("nice machine", set()),
    ],
)
def test_a_complaint_is_sorted_by_its_phrases(f7, text, heard):
    assert {item.complaint.id for item in hear(f7, text)} == heard
