"""A cure nobody can explain: the proof proposes the day it is looked at again, and says why."""

from datetime import timedelta

from tests.conftest import new_id
from tests.web.conftest import seq

from bottega.app.call.call import Call, Words, open_job
from bottega.app.job.answer import diagnose
from bottega.app.job.record import parse_body, record
from bottega.core.job.recheck import again_after

REPAIR = "sensor_plug_loose.reseat"


def test_the_day_is_filled_in_and_kept_as_it_stands(browser, demo):
    call = Call(machine="nembrio-f7", age_years=6, place="Quay", power="off", water="out")
    number = open_job(
        demo, call, Words("It never stops filling."), "Pia Lund", event_id=new_id()
    ).number
    for body in (
        {"kind": "took_off", "operation": "top"},
        {"kind": "decided", "choice": "repair", "repair": REPAIR},
        {"kind": "repaired", "repair": REPAIR},
    ):
        record(demo, number, parse_body(body), "Pia Lund", event_id=new_id())
    machine = diagnose(demo, number).machine
    wait = again_after(REPAIR, machine, demo.shelf.tables.engine)
    day = (demo.now().astimezone().date() + timedelta(days=wait.days)).isoformat()
    for station in ("proof", "fit"):
        page = browser.get(f"/jobs/{number}/{station}").text
        assert f'value="{day}"' in page
    assert f"within {wait.runs} runs" in browser.get(f"/jobs/{number}/proof").text
    done = browser.form(
        f"/jobs/{number}/proof/event",
        seq(demo, number),
        kind="recheck",
        repair=REPAIR,
        why="unexplained",
        on=day,
    )
    assert done.status_code == 303
    assert diagnose(demo, number).job.rechecks[REPAIR].on.isoformat() == day
