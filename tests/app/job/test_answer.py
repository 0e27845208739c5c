"""The answer of a job: a proved pump leads, and the ledger says why."""

from dataclasses import replace

from tests.app.steps import note, prove_the_pump
from tests.conftest import new_id

from bottega.app.decide.decision import choices
from bottega.app.job.answer import diagnose, diagnose_events
from bottega.app.job.ledger import ledger
from bottega.app.job.record import record
from bottega.core.job.events import Noted, StateChanged


def test_the_houseboat_ends_at_the_pump(workshop, houseboat):
    answer = prove_the_pump(workshop, houseboat)
    assert answer.ranking[0][0] == "rotor_slips"
    assert answer.ranking[0][1] > 0.95
    assert choices(workshop, answer)[0].key == "drain_pump.part"
    row = next(r for r in ledger(answer) if "coil" in r.what)
    assert "184 Ω, in band (165 to 205 Ω, sheet)" in row.detail
    assert any("rotor" in r.what and r.decibans > 10 for r in ledger(answer))


def test_what_cannot_be_is_struck_and_the_rest_still_counts(workshop, houseboat):
    """A check that never gives two answers gives two: one of them is left out, named and struck,
    and what else was found goes on counting."""
    proved = prove_the_pump(workshop, houseboat)
    note(workshop, houseboat, kind="checked", check="open_filter", outcome="clear")
    twice = note(workshop, houseboat, kind="checked", check="open_filter", outcome="lint")
    sure = {k: replace(c, repeatability=1.0) for k, c in twice.machine.checks.items()}
    machine = replace(twice.machine, checks=sure)
    events = list(twice.job.events)
    answer = diagnose_events(workshop, houseboat, events, workshop.settings, machine=machine)
    struck = [row for row in ledger(answer) if row.struck]
    assert len(answer.odd) == len(struck) == 1
    assert answer.odd[0].source.subject == "open_filter"
    assert struck[0].superseded
    assert answer.ranking[0][0] == proved.ranking[0][0] == "rotor_slips"
    assert answer.ranking[0][1] > 0.9


def test_what_weighs_nothing_is_not_reasoned_over_again(workshop, houseboat):
    before = diagnose(workshop, houseboat)
    note = record(
        workshop, houseboat, Noted(text="the mooring is short"), "Ilaria Venn", event_id=new_id()
    )
    assert note.plan is before.plan
    assert note.believed is before.believed
    assert note.seq == before.seq + 1
    off = StateChanged(what="water", to="out")
    told = record(workshop, houseboat, off, "Ilaria Venn", event_id=new_id())
    assert told.plan is not before.plan
    assert told.believed is before.believed
