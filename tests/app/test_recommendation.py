"""Whoever does only what the tool recommends first comes to the true fault, on every job of the
demo shop."""

import shutil

import pytest
from tests.conftest import Clock

from bottega.app.call.call import Words, open_job
from bottega.app.demo import DEMO, called
from bottega.app.job.answer import diagnose
from bottega.app.job.record import parse_body, record
from bottega.app.workshop import open_workshop
from bottega.benchmark.patient import typical
from bottega.core.job.events import Checked
from bottega.core.job.way import command_of
from bottega.core.library.yamlfile import read_yaml
from bottega.store.database import FILE

SCENE = read_yaml(DEMO).data
KNOWN_AT_ARRIVAL = ("panel_read", "marked")
MOST_CHECKS = 8
"""Checks at the machine; questions on the phone are none."""


@pytest.fixture(scope="module")
def workshop(filled, tmp_path_factory):
    folder = tmp_path_factory.mktemp("recommended")
    shutil.copy(filled / FILE, folder / FILE)
    made = open_workshop(folder, Clock())
    yield made
    made.close()


def next_body(answer, check, patient):
    """Return what is done next for a check: the first step of reaching it, or the check with the
    machine's answer."""
    steps = answer.reaching.reach(answer.job.state, check.needs).steps
    if not steps:
        outcome = patient.answer(check)
        showed = patient.showed(check, outcome)
        return Checked(check=check.id, outcome=outcome, showed=showed, note="as the machine is")
    return command_of(steps[0], check.id, "Pia", measured_v=0)


@pytest.mark.parametrize("job", SCENE["jobs"], ids=lambda job: job["number"])
def test_the_first_recommendation_alone_leads_to_the_true_fault(workshop, job):
    number = f"R{job['number']}"
    call = called(job["opened"])
    open_job(
        workshop, call, Words(job["complaint"]), "Pia", event_id=f"follow-{number}", number=number
    )
    patient = typical(diagnose(workshop, number).machine, tuple(job["truth"]))
    for place, event in enumerate(e for e in job["events"] if e["kind"] in KNOWN_AT_ARRIVAL):
        raw = {key: value for key, value in event.items() if key != "after"}
        record(workshop, number, parse_body(raw), "Pia", event_id=f"arrival-{number}-{place}")
    checks = 0
    for place in range(80):
        answer = diagnose(workshop, number)
        if answer.plan.next is None:
            break
        body = next_body(answer, answer.plan.next.check, patient)
        at_machine = answer.plan.next.check.who != "customer"
        checks += isinstance(body, Checked) and at_machine
        record(workshop, number, body, "Pia", event_id=f"step-{number}-{place:03d}")
    assert answer.plan.next is None
    assert answer.ranking[0][0] in job["truth"]
    assert answer.ranking[0][1] > 0.5
    assert checks <= MOST_CHECKS
    assert any(
        answer.machine.repairs[repair].ends(job["truth"][0])
        for repair in answer.plan.ends.repairs[:1]
    )
