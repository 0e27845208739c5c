"""Sessions: a write takes its turn at once and waits a stated while; what goes wrong says what it
is."""

import sqlite3
import subprocess
import sys
import threading
from pathlib import Path

import pytest
from alembic.config import Config
from alembic.script import ScriptDirectory
from sqlalchemy import text
from tests.store.test_log import OPEN, event

from bottega.store import database as module
from bottega.store.database import FILE, VERSION, StoreError, StoreUnavailable, open_database
from bottega.store.log import EventLog


@pytest.fixture
def opened(tmp_path, monkeypatch):
    monkeypatch.setattr(module, "BUSY_MS", 50)
    made = open_database(tmp_path)
    yield made
    made.close()


def test_a_write_that_waits_too_long_says_busy_and_keeps_nothing(opened, tmp_path):
    other = sqlite3.connect(tmp_path / FILE, isolation_level=None)
    other.execute("BEGIN IMMEDIATE")
    with pytest.raises(StoreUnavailable) as caught:
        EventLog(opened).create([event(0, OPEN)])
    other.execute("ROLLBACK")
    other.close()
    assert caught.value.trouble == "busy"
    assert EventLog(opened).numbers() == []


def test_a_full_database_says_full_and_what_was_stored_stays(opened):
    log = EventLog(opened)
    log.create([event(0, OPEN)], "0401")
    with opened.writing() as session:
        pages = session.scalar(text("PRAGMA page_count"))
        session.execute(text(f"PRAGMA max_page_count = {pages}"))
        with pytest.raises(Exception, match="full"):
            session.execute(text("CREATE TABLE big AS SELECT randomblob(4000000) AS x"))
    assert len(log.read("0401")) == 1


@pytest.mark.parametrize(
    ("name", "trouble"),
    [
        ("SQLITE_BUSY_SNAPSHOT", "busy"),
        ("SQLITE_READONLY_DBMOVED", "read-only"),
        ("SQLITE_FULL", "full"),
        ("SQLITE_IOERR_WRITE", "full"),
        ("SQLITE_CORRUPT", "broken"),
    ],
)
def test_sqlites_own_codes_are_told_as_four_kinds_of_trouble(opened, name, trouble):
    class Raised(sqlite3.OperationalError):
        sqlite_errorname = name

    from sqlalchemy.exc import OperationalError

    def write():
        with opened.writing():
            raise OperationalError("x", None, Raised("it"))

    with pytest.raises(StoreUnavailable) as caught:
        write()
    assert caught.value.trouble == trouble


def test_a_reader_is_not_held_up_by_a_writer(opened):
    log = EventLog(opened)
    log.create([event(0, OPEN)], "0401")
    found = []
    with opened.writing() as session:
        session.execute(text("UPDATE jobs SET number = '0999'"))
        reader = threading.Thread(target=lambda: found.append(log.numbers()))
        reader.start()
        reader.join()
    assert found == [["0401"]]


def test_the_database_it_works_with_is_the_last_of_the_migrations():
    config = Config()
    config.set_main_option("script_location", str(Path(module.__file__).parent / "migrations"))
    config.set_main_option("path_separator", "os")
    assert ScriptDirectory.from_config(config).get_heads() == [VERSION]


def test_a_database_that_is_up_to_date_opens_without_the_migrations(tmp_path):
    open_database(tmp_path).close()
    code = (
        "import sys, pathlib\n"
        "from bottega.store.database import open_database\n"
        f"open_database(pathlib.Path({str(tmp_path)!r})).close()\n"
        "print([name for name in ('alembic', 'mako') if name in sys.modules])\n"
    )
    found = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True)
    assert found.stdout == "[]\n", found.stderr


def test_a_database_of_a_later_version_is_refused_and_left_as_it_is(tmp_path):
    open_database(tmp_path).close()
    with sqlite3.connect(tmp_path / FILE) as connection:
        connection.execute("UPDATE alembic_version SET version_num = '0999'")
    with pytest.raises(StoreError, match=f"a later Bottega, version 0999, expected {VERSION}"):
        open_database(tmp_path)
    with sqlite3.connect(tmp_path / FILE) as connection:
        assert connection.execute("SELECT version_num FROM alembic_version").fetchone() == ("0999",)
