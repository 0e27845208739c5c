"""A job keeps its revision of a sheet, and says what a newer one would change."""

import pytest
from tests.conftest import new_id

from bottega.app.job.answer import diagnose
from bottega.app.job.newer import newer_sheet
from bottega.app.job.record import parse_body, record
from bottega.app.library.sheets import add_note, save, text_of

WHO, F7 = "Pia Lund", "nembrio-f7"


def test_a_job_keeps_its_revision_and_says_what_a_newer_one_would_change(workshop, houseboat):
    before = diagnose(workshop, houseboat)
    text = text_of(workshop, F7).replace(
        "weights: {rotor_slips: 26", "weights: {rotor_slips: 1, filter_blocked: 90"
    )
    save(workshop, text, WHO, F7)
    kept = diagnose(workshop, houseboat)
    assert kept.machine.revision == before.machine.revision
    assert dict(kept.ranking) == pytest.approx(dict(before.ranking))
    newer = newer_sheet(workshop, kept)
    assert "Pump filter: blocked with lint first" in newer.change
    body = parse_body({"kind": "rebased", "revision": newer.revision})
    moved = record(workshop, houseboat, body, WHO, event_id=new_id())
    assert moved.ranking[0][0] == "filter_blocked"
    assert newer_sheet(workshop, moved) is None


def test_a_newer_revision_that_changes_no_chance_says_so(workshop, houseboat):
    assert newer_sheet(workshop, diagnose(workshop, houseboat)) is None
    add_note(workshop, F7, "the panel's screws are short", WHO)
    newer = newer_sheet(workshop, diagnose(workshop, houseboat))
    assert newer.change == "it would not change the ranking"
