"""What version 0.1 wrote is read: its database, its job files, its sheets. The files are kept as it
left them."""

import sqlite3
from pathlib import Path

import pytest
from tests.conftest import Clock

from bottega.app.bench.sheets import bench
from bottega.app.job.answer import diagnose
from bottega.app.job.file import export_job, import_job
from bottega.app.job.ledger import ledger
from bottega.app.job.summary import refresh_stale
from bottega.app.library.sheets import incoming, take_incoming
from bottega.app.workshop import open_workshop
from bottega.core.job.events import SetAside, Waived
from bottega.store.database import FILE

LEFT = Path(__file__).parents[1] / "written_by_0_1"


@pytest.fixture
def old_shop(tmp_path):
    """The data folder of a shop as 0.1 left it."""
    with sqlite3.connect(tmp_path / FILE) as raw:
        raw.executescript((LEFT / "shop.sql").read_text(encoding="utf-8"))
    raw.close()
    opened = open_workshop(tmp_path, Clock())
    yield opened
    opened.close()


def test_every_job_opens_and_the_bench_stands(old_shop):
    numbers = old_shop.log.numbers()
    assert len(numbers) == 19
    for number in numbers:
        assert ledger(diagnose(old_shop, number))
    assert refresh_stale(old_shop) == 19
    assert {sheet.number for sheet in bench(old_shop)} == set(numbers)
    assert "unreadable" not in {sheet.lane for sheet in bench(old_shop)}


def test_old_bodies_are_understood_and_not_rewritten(old_shop):
    job = diagnose(old_shop, "0412").job
    assert job.stations_waived == {"safe": "it stands on the bench unplugged"}
    assert [aside.why for aside in job.set_aside.values()] == [
        "tool_missing",
        "not_now",
        "other",
        "not_allowed",
    ]
    kept = [stored for stored in old_shop.log.stored("0412") if stored.body["kind"] == "waived"]
    assert kept[0].version == 1
    assert kept[0].body["what"] == "safe"


def test_new_events_stand_beside_old_ones(old_shop):
    from bottega.app.job.record import record

    aside = SetAside(check="ask_filter", why="not_now")
    record(old_shop, "0412", aside, "Ilaria Venn", event_id="after-the-update")
    assert [stored.version for stored in old_shop.log.stored("0412")][-1] == 2
    assert isinstance(diagnose(old_shop, "0412").job.events[-1].body, SetAside)


def test_sheets_saved_then_are_on_the_shelf(old_shop):
    assert "The paper hides behind the kick plate." in old_shop.machine("FB", "nembrio-f7").notes
    assert old_shop.quarantine == {}


@pytest.mark.parametrize("file", sorted(LEFT.glob("job-*.json")), ids=lambda file: file.stem)
def test_job_files_are_taken_and_go_out_again(file):
    workshop = open_workshop(None, Clock())
    answer = import_job(workshop, file.read_bytes())
    assert answer.number == file.stem.removeprefix("job-")
    again = open_workshop(None, Clock())
    after = import_job(again, export_job(workshop, answer.number).model_dump_json().encode())
    assert dict(after.ranking) == pytest.approx(dict(answer.ranking))
    assert [r.what for r in ledger(after)] == [r.what for r in ledger(answer)]
    waived = [e.body for e in after.job.events if isinstance(e.body, Waived)]
    assert all(body.owed == "station" for body in waived)
    workshop.close()
    again.close()


def test_the_stream_of_sheets_is_taken(workshop):
    sheets = incoming(workshop, (LEFT / "sheets.yaml").read_bytes())
    assert len(sheets) == 9
    taken = take_incoming(workshop, sheets, {item.sheet: "replace" for item in sheets}, "Pia")
    assert set(taken) == {item.sheet for item in sheets} < set(workshop.shelf.sheets)
