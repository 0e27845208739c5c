"""Which washer a job is on, however its label is typed."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from bottega.core.job.events import Identified
from bottega.core.job.washer import plain_mark, washer_keys


def test_spaces_dashes_and_capitals_do_not_part_a_washer_from_itself():
    assert len({plain_mark(text) for text in ("W-0412", "w 0412", " W.0412", "w0412")}) == 1


@given(st.text())
def test_a_mark_made_plain_stays_so(text):
    assert plain_mark(plain_mark(text)) == plain_mark(text)


@pytest.mark.parametrize(
    ("label", "serial", "keys"),
    [
        ("W-7", "AB 12", ("w7", "fb-ab12")),
        ("", "AB 12", ("fb-ab12",)),
        ("--", "..", ()),
        ("W-7", "", ("w7",)),
    ],
)
def test_a_serial_counts_with_the_kind_of_machine(log, label, serial, keys):
    if label.strip("-") or serial.strip("."):
        log.do(Identified(label=label, serial=serial))
    assert washer_keys(log.job, "FB") == keys


def test_two_kinds_may_have_the_same_serial(log):
    log.do(Identified(label="", serial="12"))
    assert not set(washer_keys(log.job, "FB")) & set(washer_keys(log.job, "TG"))
