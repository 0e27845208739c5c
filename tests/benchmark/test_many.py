"""Two thousand jobs made by a seed: the bench, a call and the odds ask the database a fixed number
of times."""

import shutil

import pytest
from sqlalchemy import event
from tests.conftest import Clock
from tests.web.conftest import HOSTS, Browser

from bottega.app.bench.sheets import SHOWN_JOBS, bench
from bottega.app.call.odds import odds_now
from bottega.app.workshop import open_workshop
from bottega.benchmark.many import fill_many
from bottega.store.database import FILE
from bottega.web.application import create_app

JOBS = 2000


@pytest.fixture(scope="module")
def few(filled, tmp_path_factory):
    folder = tmp_path_factory.mktemp("few")
    shutil.copy(filled / FILE, folder / FILE)
    return folder


@pytest.fixture(scope="module")
def many(few, tmp_path_factory):
    folder = tmp_path_factory.mktemp("many")
    shutil.copy(few / FILE, folder / FILE)
    fill_many(folder, JOBS, 1)
    return folder


def counted(folder, work):
    """Return how many statements a piece of work sends to the shop in a folder."""
    workshop, statements = open_workshop(folder, Clock()), []
    try:
        with Browser(create_app(workshop, "test", HOSTS)) as browser:
            work(workshop, browser)
            engine = workshop.database.engine
            event.listen(engine, "before_cursor_execute", lambda *said: statements.append(said[2]))
            work(workshop, browser)
    finally:
        workshop.close()
    return len(statements)


CALL = {"machine": "nembrio-f7", "text": "It hums", "age_years": "7", "place": "Quay"}


def look(_workshop, browser):
    assert browser.get("/").status_code == 200


def look_further(_workshop, browser):
    assert browser.get("/?lane=closed&skip=24").status_code == 200


def call(_workshop, browser):
    assert browser.form("/call", **CALL).status_code == 303


def odds(workshop, _browser):
    assert odds_now(workshop, workshop.machine("FB", "nembrio-f7"))


@pytest.mark.parametrize("work", [look, look_further, call, odds], ids=lambda work: work.__name__)
def test_the_number_of_statements_does_not_grow_with_the_jobs(few, many, work):
    alone = counted(few, work)
    assert 0 < counted(many, work) == alone < 30


def test_the_bench_shows_some_of_each_lane_and_the_number_of_all(many):
    workshop = open_workshop(many, Clock())
    shown = bench(workshop)
    assert len(shown) <= SHOWN_JOBS * len({sheet.lane for sheet in shown})
    assert sum(workshop.summaries.lanes().values()) >= JOBS
    further = bench(workshop, "closed", SHOWN_JOBS)
    assert not {sheet.number for sheet in further} & {sheet.number for sheet in shown}
    workshop.close()


def test_the_same_seed_makes_the_same_shop(few, tmp_path):
    logs = []
    for name in ("one", "other"):
        (tmp_path / name).mkdir()
        shutil.copy(few / FILE, tmp_path / name / FILE)
        fill_many(tmp_path / name, 50, 1)
        workshop = open_workshop(tmp_path / name, Clock())
        logs.append([workshop.log.stored(str(number)) for number in range(10001, 10051)])
        workshop.close()
    assert logs[0] == logs[1]
