"""The fold: it follows the machine, and withdrawing equals never having happened."""

from datetime import UTC, datetime
from random import Random

import pytest
from tests.core.job.log import DRAIN, UNPLUG, Log, off
from tests.engine import model_of

from bottega.core.diagnosis.findings import evidence_of
from bottega.core.diagnosis.infer import infer
from bottega.core.diagnosis.prior import prior
from bottega.core.job.events import (
    Checked,
    CodesCleared,
    Complained,
    Event,
    PutBack,
    Withdrawn,
)
from bottega.core.job.fold import fold
from bottega.core.job.job import BrokenLog
from bottega.core.machine.state import MachineState


def test_the_fold_follows_the_machine(log):
    job = log.do(UNPLUG, DRAIN, *off("filter_flap", "filter_cap")).job
    assert job.state == MachineState(
        "off", "open", "out", "held", "empty", "upright", "shut", ("filter_flap", "filter_cap")
    )
    assert log.do(PutBack(operation="filter_cap")).job.state.off == ("filter_flap",)


def test_a_log_must_open(f7):
    with pytest.raises(BrokenLog, match="found no events"):
        fold([])
    with pytest.raises(BrokenLog, match="found codes_cleared first"):
        fold(
            [
                Event(
                    id="event-0000",
                    at=datetime(2031, 1, 1, tzinfo=UTC),
                    author="x",
                    body=CodesCleared(),
                )
            ]
        )


@pytest.mark.parametrize("seed", range(6))
def test_withdrawing_equals_never_having_seen(shelf, f7, seed):
    rng = Random(seed)
    log = Log(f7, power="off").do(
        Complained(text="x", said=("says_water_stays",)), DRAIN, *off("filter_flap", "filter_cap")
    )
    checks = [
        "open_filter",
        "turn_rotor",
        "look_pump_chamber",
        "turn_drum",
        "look_impeller",
        "look_outlet_hose",
    ]
    for check in checks:
        log.do(Checked(check=check, outcome=rng.choice(f7.checks[check].outcomes).id))
    victim = rng.choice([e for e in log.events if isinstance(e.body, Checked)])
    without = [event for event in log.events if event is not victim]
    log.do(Withdrawn(event=victim.id))
    model = model_of(f7)
    before = prior(model, 7, shelf.tables.engine)
    seen = infer(model, before, evidence_of(log.job, f7, shelf.tables))
    never = infer(model, before, evidence_of(fold(without), f7, shelf.tables))
    assert seen.fault_now() == pytest.approx(never.fault_now(), abs=1e-12)


def test_withdrawing_a_withdrawal_restores(log):
    log.do(UNPLUG)
    pulled = log.events[-1].id
    log.do(Withdrawn(event=pulled))
    assert log.job.state.power == "on"
    log.do(Withdrawn(event=log.events[-1].id))
    assert log.job.state.power == "off"
    log.do(Withdrawn(event=pulled))
    log.refused(Withdrawn(event=pulled), "withdrawn already")
    log.refused(Withdrawn(event="event-9999"), "not on this job")
    log.refused(Withdrawn(event="event-0000"), "opening")
