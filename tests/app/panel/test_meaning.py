"""What a code may mean before anybody has looked: what a job with that code alone says."""

import pytest
from tests.conftest import new_id

from bottega.app.call.call import Call, Words, open_job
from bottega.app.panel.meaning import MOST_CAUSES, MOST_CHECKS, meaning_of
from bottega.core.diagnosis.words import fault_title, step_reason


@pytest.mark.parametrize("code", ["3-2", "2-4", "4-1"])
def test_a_code_means_what_a_job_says_that_knows_no_more(workshop, f7, code):
    told = meaning_of(workshop, f7, f7.codes[code])
    call = Call(machine="nembrio-f7", age_years=None, place="Quay")
    job = open_job(workshop, call, Words(codes=(code,)), "Ilaria Venn", event_id=new_id())
    titles = {fault_title(f7, fault): p for fault, p in job.ranking[:MOST_CAUSES]}
    named = {cause.name: cause.chance for cause in told.causes}
    assert named == {**titles, **{n: p for n, p in named.items() if "Nothing wrong" in n}}
    paying = [step for step in job.plan.steps if step.worth_it][:MOST_CHECKS]
    assert [(one.check.id, one.reason) for one in told.checks] == [
        (step.check.id, step_reason(f7, job.foretold(step))) for step in paying
    ]


@pytest.mark.parametrize("sheet", ["virgola-asciutta-7", "torvane-alta-10"])
def test_every_code_of_a_sheet_means_something(workshop, sheet):
    machine = workshop.shelf.machine(workshop.shelf.sheet(sheet).archetype, sheet)
    for code in machine.codes.values():
        told = meaning_of(workshop, machine, code)
        assert 0 < len(told.causes) <= MOST_CAUSES + 1
        assert len(told.checks) <= MOST_CHECKS
