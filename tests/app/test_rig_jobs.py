"""Five jobs proved from the call to the cure on machines of physics, measured with the stand-in's
own display: what leads is done, and what is found is what was put in."""

from uuid import uuid4

import pytest

from bottega.app.errors import Refused
from bottega.app.job.record import record
from bottega.app.measure.meter import Ear
from bottega.app.measure.reading import take_reading
from bottega.app.rig.bench_meter import start_bench_meter
from bottega.app.rig.bound import call_about, check_on_rig, noticed
from bottega.app.rig.fetch import stand
from bottega.app.rig.leads import lay_for, lift, touched_last
from bottega.core.job.events import Repaired, SetAside
from bottega.core.job.way import command_of
from bottega.devices.link import MeterSample
from bottega.devices.standin import Display
from bottega.store.rigs import RigTicket

MOST = 26
CASES = {
    "houseboat": ("nembrio-f7", "rotor_slips", 0.9, "measure_pump_coil"),
    "no heat": ("nembrio-f7", "board_heater_output_dead", 0.8, "measure_element"),
    "never stops filling": ("nembrio-f7", "valve_stuck_open", 0.9, "measure_cold_coil"),
    "siphon": ("nembrio-f7", "siphon", 0.9, "drain_pump_wires"),
    "no spin": ("nembrio-f7", "belt_off", 0.9, "measure_windings"),
}
"""By the job: the sheet, what is wrong, how badly, and what is measured all the same, that reads
right: a sound coil does not clear the pump."""


class Hands:
    """Somebody at one machine of the rig, who does what leads."""

    def __init__(self, workshop, name):
        self.workshop, self.name = workshop, name
        self.answer = call_about(workshop, name, "Ned Ash", str(uuid4()))
        self.measured = 0

    def note(self, body):
        self.answer = record(
            self.workshop, self.answer.number, body, "Ned Ash", event_id=str(uuid4())
        )

    def reach(self, needs, check_id=""):
        for step in self.answer.reaching.reach(self.answer.job.state, needs).steps:
            self.note(command_of(step, check_id, "Ned Ash", measured_v=0))

    def do(self, check):
        """Do a check: by the meter where it has points, else by hand, eye and ear."""
        self.reach(check.needs, check.id)
        try:
            if check.measure and len(check.on_rig.points if check.on_rig else ()) == 2:
                self.measure(check)
            else:
                seq = self.answer.seq
                self.answer = check_on_rig(
                    self.workshop,
                    self.answer.number,
                    check.id,
                    "Ned Ash",
                    event_id=str(uuid4()),
                    seen=seq,
                )
        except Refused:
            self.note(SetAside(check=check.id, why="not_now"))

    def watch(self):
        """Watch in a run each thing that was complained of, before nothing is said to be wrong."""
        job, machine = self.answer.job, self.answer.machine
        said = {machine.complaints[name].effect for name in job.complaint.said}
        for check in machine.checks.values():
            if check.effect in said and check.needs.power == "on" and not check.measure:
                self.do(check)

    def measure(self, check):
        """Lay the leads, wait until the display has settled, and keep what the page offers."""
        lay_for(self.workshop, self.name, check.id)
        now = [0.0]
        display = Display(lambda q: touched_last(self.workshop, q), clock=lambda: now[0])
        ear = Ear(self.workshop, self.answer, check)
        display.set_to(ear.quantity_name)
        shown = None
        for _ in range(40):
            now[0] += 0.1
            shown = ear.hear(MeterSample(ear.quantity_name, display.read()))
            if shown.state in ("settled", "open"):
                break
        lift(self.workshop, self.name)
        typed = shown.typed or ("OL" if ear.quantity_name == "resistance" else "0")
        self.note(
            take_reading(self.workshop, self.answer.job, self.answer.machine, check.id, typed)
        )
        self.measured += 1


@pytest.mark.parametrize("case", CASES)
def test_the_job_is_proved_from_the_call_to_the_cure(workshop, case):
    sheet, fault, severity, sound = CASES[case]
    meter = start_bench_meter(workshop)
    name = f"job-{fault[:9]}"
    workshop.rigs.keep(RigTicket(name, "FB", sheet, f"five:{case}", {fault: severity}))
    hands = Hands(workshop, name)
    machine = hands.answer.machine
    hands.do(machine.checks[sound])
    before = hands.answer.job.checked()[-1][1]
    for _ in range(MOST):
        step, ends = hands.answer.plan.next, hands.answer.plan.ends.repairs
        if step is not None:
            hands.do(step.check)
            continue
        if ends[0] == "nothing_wrong":
            hands.watch()
            continue
        repair = machine.repairs[ends[0]]
        hands.reach(repair.way)
        hands.note(Repaired(repair=repair.id))
        if repair.ends(fault) > 0:
            break
    assert hands.measured >= 1
    assert before.outcome == machine.checks[sound].measure.bands["in"]
    meter.stop()
    made = [repaired.repair for repaired in hands.answer.job.repairs]
    assert machine.repairs[made[-1]].ends(fault) > 0, made
    assert len(made) <= 2
    at = stand(workshop, name)
    at.without(frozenset([fault]))
    assert noticed(at.bench, machine) == []
