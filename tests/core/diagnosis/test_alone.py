"""What one observation says by itself, held against a job in which it is all that was found."""

import pytest
from tests.core.job.log import Log
from tests.engine import model_of

from bottega.core.diagnosis.alone import after_check, after_code
from bottega.core.diagnosis.findings import evidence_of
from bottega.core.diagnosis.infer import infer
from bottega.core.diagnosis.prior import prior
from bottega.core.job.events import PanelRead


def test_a_slipping_rotor_is_seen_and_no_look_up_is_certain_of_it(f7, shelf):
    alone = after_check(model_of(f7), f7.checks["turn_rotor"], "free", shelf.tables.engine)
    assert alone.faults[0][0] == "rotor_slips"
    assert 0.9 < alone.faults[0][1] < 1


@pytest.mark.parametrize("sheet", ["nembrio-f7", "calvessa-dritta-8", "torvane-alta-10"])
def test_a_code_is_said_to_mean_what_a_job_makes_of_it(shelf, sheet):
    """On the job the board also says which codes it did not store, so the chances move a little."""
    machine = shelf.machine(shelf.sheets[sheet].archetype, sheet)
    engine, model = shelf.tables.engine, model_of(machine)
    before = prior(model, engine.reference_age_years, engine)
    for code in machine.codes.values():
        log = Log(machine).do(PanelRead(result="codes", codes=(code.id,)))
        belief = infer(model, before, evidence_of(log.job, machine, shelf.tables))
        now, alone = belief.fault_now(), after_code(model, code, engine)
        for fault, chance in alone.faults[:3]:
            assert chance == pytest.approx(now[fault], abs=0.25), (code.id, fault)
        assert alone.sound < 1
        assert all(chance < 0.999 for _, chance in alone.faults)
