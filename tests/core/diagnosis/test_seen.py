"""Seen is seen: an outcome that is the fault leaves no doubt of it, on every kind of machine."""

import pytest
from tests.core.job.log import Log
from tests.core.job.test_rules import KINDS
from tests.engine import model_of

from bottega.core.diagnosis.evidence import Evidence, answered
from bottega.core.diagnosis.findings import evidence_of
from bottega.core.diagnosis.infer import infer
from bottega.core.diagnosis.prior import prior
from bottega.core.job.events import Sighted


@pytest.fixture(scope="module", params=KINDS)
def case(request, shelf):
    machine = shelf.machine(request.param)
    model = model_of(machine)
    before = prior(model, 8, shelf.tables.engine)

    def believed(*answers):
        told = tuple(answered(f"e{n}", check, o, 0) for n, (check, o) in enumerate(answers))
        return infer(model, before, Evidence(told)).fault_now()

    return machine, believed


def sights(machine):
    return {f: s for f in machine.faults if (s := machine.sight_of(f)) is not None}


def test_every_fault_is_seen_or_has_a_reason_why_not(case):
    machine, _ = case
    for fault, record in machine.faults.items():
        assert machine.sight_of(fault) is not None or record.unseen, fault
        assert machine.sight_of(fault) is None or not record.unseen, fault


def test_who_sees_it_knows_it(case):
    machine, believed = case
    for fault, (check, outcome) in sights(machine).items():
        assert believed((check, outcome.id))[fault] >= 0.95, (fault, check.id)


def test_who_looks_and_does_not_see_it_rules_it_out(case):
    """At most a tenth of the belief before is left, of faults that are there all the time and show
    themselves there in most cases."""
    machine, believed = case
    was = believed()
    for fault, (check, _) in sights(machine).items():
        record = machine.faults[fault]
        there = 1 - record.effects[check.effect][0]
        if record.comes(check.effect) or there < 0.99:
            continue
        normal = next(o for o in check.outcomes if o.chances[0] == max(o.chances))
        assert believed((check, normal.id))[fault] <= was[fault] / 10, (fault, check.id)


def test_no_other_answer_makes_it_doubtful(case):
    """One further answer that only speaks against it, whatever it is, leaves nine in ten."""
    machine, believed = case
    indirect = [
        (check, outcome.id)
        for check in machine.checks.values()
        if not check.at_the_part
        for outcome in check.outcomes
    ][::9]
    for fault, (check, outcome) in list(sights(machine).items())[::7]:
        for other, answer in indirect:
            if other.effect != check.effect:
                assert believed((check, outcome.id), (other, answer))[fault] >= 0.9, (
                    fault,
                    other.id,
                    answer,
                )


def test_what_lies_before_the_eyes_is_said_without_its_check(shelf, f7):
    """The tube in the hand, off its spigot: as sure as by the check that asks for it, and no
    certainty that the complaint comes of it."""
    log = Log(f7).do(Sighted(fault="tube_off"))
    model = model_of(f7)
    found = evidence_of(log.job, f7, shelf.tables)
    belief = infer(model, prior(model, 7, shelf.tables.engine), found).fault_now()
    assert belief["tube_off"] >= 0.95
    log.refused(Sighted(fault="ghost"), "Found the fault 'ghost'")


@pytest.mark.parametrize("kind", KINDS)
def test_only_what_needs_no_meter_is_said_to_be_seen(shelf, kind):
    machine = shelf.machine(kind)
    for fault in machine.faults:
        look = machine.looked_at(fault)
        assert look is None or look[0].by_eye
    log = Log(machine)
    for fault in ("pump_coil_open", "element_open"):
        if fault in machine.faults:
            assert machine.sight_of(fault) is not None
            log.refused(Sighted(fault=fault), "by eye or hand alone")
