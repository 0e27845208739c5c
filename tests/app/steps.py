"""What several tests of the use cases do on a job."""

from tests.conftest import new_id

from bottega.app.job.answer import diagnose
from bottega.app.job.record import parse_body, record
from bottega.app.measure.reading import take_reading
from bottega.core.job.way import command_of

WHO = "Ilaria Venn"


def note(workshop, number, **raw):
    return record(workshop, number, parse_body(raw), WHO, event_id=new_id())


def prove_the_pump(workshop, number):
    note(workshop, number, kind="state_changed", what="water", to="out")
    note(workshop, number, kind="took_off", operation="filter_flap")
    note(workshop, number, kind="took_off", operation="filter_cap")
    answer = diagnose(workshop, number)
    reading = take_reading(workshop, answer.job, answer.machine, "measure_pump_coil", "184")
    record(workshop, number, reading, WHO, event_id=new_id())
    return note(workshop, number, kind="checked", check="turn_rotor", outcome="free")


def take_out(workshop, number, repair):
    """Bring the machine to where a repair can be made: reached, and the old part out."""
    answer = diagnose(workshop, number)
    way = answer.machine.repairs[repair].way
    for step in answer.reaching.reach(answer.job.state, way).steps:
        record(workshop, number, command_of(step, measured_v=0), WHO, event_id=new_id())
