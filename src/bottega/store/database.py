"""Open the shop's SQLite file: WAL, foreign keys, full sync, migrations by Alembic; sessions that
read or write."""

import json
import re
import sqlite3
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from threading import Lock
from typing import Any, Literal

from sqlalchemy import Connection, Engine, create_engine, event
from sqlalchemy.exc import DBAPIError, OperationalError
from sqlalchemy.orm import Session
from sqlalchemy.pool import StaticPool

FILE = "bottega.sqlite"
VERSION = "0005"
"""The last of the migrations: the database this code works with."""
FOUR_FIGURES = re.compile(r"[0-9]{4}")
BUSY_MS = 5000
"""How long a write waits for another one, in milliseconds; chosen, a person gives up after about as
long."""
OWNER_ONLY = 0o600
"""Rights of the shop's files (POSIX): their owner reads and writes, nobody else."""

Trouble = Literal["busy", "read-only", "full", "broken"]
TROUBLES: dict[str, Trouble] = {
    "SQLITE_BUSY": "busy",
    "SQLITE_LOCKED": "busy",
    "SQLITE_READONLY": "read-only",
    "SQLITE_CANTOPEN": "read-only",
    "SQLITE_PERM": "read-only",
    "SQLITE_FULL": "full",
    "SQLITE_IOERR": "full",
}
"""What SQLite's primary result codes mean to whoever works here (sqlite.org/rescode.html)."""


class StoreError(RuntimeError):
    """The store cannot be opened or used; says what was found."""


class StoreUnavailable(StoreError):
    """The database does not take part just now; ``trouble`` says why. Nothing of the transaction
    was kept."""

    def __init__(self, trouble: Trouble, detail: str) -> None:
        super().__init__(detail)
        self.trouble = trouble


class Database:
    """The shop's database. Every read and every write goes through one of its two kinds of
    session."""

    def __init__(self, engine: Engine) -> None:
        self.engine = engine
        self._writer = engine.execution_options(writes=True)
        self._turn = Lock()
        """Writers of this process stand in line; SQLite alone lets them poll for the lock."""

    @contextmanager
    def reading(self) -> Iterator[Session]:
        """Give a session that only reads, in one transaction. Raises StoreUnavailable."""
        with _translated(), Session(self.engine, expire_on_commit=False) as session:
            yield session

    def row(self, statement: str, *values: str | int) -> tuple[Any, ...] | None:
        """Return the first row of a statement that only reads, or None: for what every page asks,
        where a session takes ten times as long as the question. Raises StoreUnavailable."""
        with _translated():
            connection = self.engine.raw_connection()
            try:
                found: tuple[Any, ...] | None = (
                    connection.cursor().execute(statement, values).fetchone()
                )
            finally:
                connection.close()
        return found

    @contextmanager
    def writing(self) -> Iterator[Session]:
        """Give a session whose transaction takes the write lock at once and waits at most
        ``BUSY_MS`` for it.

        What was written is on disk when the block ends; after an exception nothing is. Raises
        StoreUnavailable.
        """
        if not self._turn.acquire(timeout=BUSY_MS / 1000):
            raise StoreUnavailable("busy", f"no turn to write within {BUSY_MS} ms")
        try:
            with (
                _translated(),
                Session(self._writer, expire_on_commit=False) as session,
                session.begin(),
            ):
                yield session
        finally:
            self._turn.release()

    def close(self) -> None:
        """Close all connections."""
        self.engine.dispose()


def open_database(folder: Path | None) -> Database:
    """Open, and if need be make, the database in ``folder``; None keeps it in memory. Raises
    StoreError."""
    if folder is None:
        engine = create_engine(
            "sqlite://",
            poolclass=StaticPool,
            connect_args={"check_same_thread": False},
            json_deserializer=_json,
        )
    else:
        try:
            folder.mkdir(parents=True, exist_ok=True)
            (folder / FILE).touch(mode=OWNER_ONLY)
        except OSError as error:
            raise StoreError(
                f"found {error.strerror} for the data folder '{folder}', expected a folder to "
                "write in"
            ) from error
        engine = create_engine(
            f"sqlite:///{folder / FILE}",
            connect_args={"timeout": BUSY_MS / 1000},
            json_deserializer=_json,
            pool_size=20,
            max_overflow=20,
        )
    event.listen(engine, "connect", _set_pragmas)
    event.listen(engine, "begin", _begin)
    try:
        _migrate(engine)
    except (DBAPIError, sqlite3.DatabaseError) as error:
        raise StoreError(f"found no database of a shop in '{folder}': {error}") from error
    return Database(engine)


def _json(text: str) -> Any:
    """Return plain data; None for what is no JSON, so that a row spoilt by hand breaks one thing
    and not every list it stands in."""
    try:
        return json.loads(text)
    except ValueError:
        return None


@contextmanager
def _translated() -> Iterator[None]:
    try:
        yield
    except (OperationalError, sqlite3.OperationalError) as error:
        cause = error.orig if isinstance(error, OperationalError) else error
        name = str(getattr(cause, "sqlite_errorname", ""))
        primary = "_".join(name.split("_")[:2])
        raise StoreUnavailable(TROUBLES.get(primary, "broken"), str(cause)) from error


def _set_pragmas(connection: sqlite3.Connection, _record: Any) -> None:
    connection.isolation_level = None
    for pragma in (
        f"busy_timeout={BUSY_MS}",
        "journal_mode=WAL",
        "foreign_keys=ON",
        "synchronous=FULL",
    ):
        connection.execute(f"PRAGMA {pragma}")


def _begin(connection: Any) -> None:
    writes = connection.get_execution_options().get("writes")
    connection.exec_driver_sql("BEGIN IMMEDIATE" if writes else "BEGIN")


def _migrate(engine: Engine) -> None:
    """Bring the database to ``VERSION``. Only one that is behind, or new, needs the migrations and
    what they work with. Raises StoreError for one that is ahead."""
    with engine.connect() as connection:
        found = _version(connection)
    if found == VERSION:
        return
    if found is not None and not (isinstance(found, str) and FOUR_FIGURES.fullmatch(found)):
        raise StoreError(
            f"found {found!r} for the version of the database, expected four figures such as "
            f"{VERSION}: put a copy back with `bottega restore`"
        )
    if found is not None and found > VERSION:
        raise StoreError(
            f"found the database of a later Bottega, version {found}, expected {VERSION} at the "
            "most: start it with the Bottega that wrote it, or a later one"
        )

    from alembic import command
    from alembic.config import Config

    config = Config()
    config.set_main_option("script_location", str(Path(__file__).parent / "migrations"))
    config.set_main_option("path_separator", "os")
    with engine.connect() as connection:
        config.attributes["connection"] = connection
        command.upgrade(config, VERSION)
        connection.commit()


def _version(connection: Connection) -> object:
    named = "SELECT name FROM sqlite_master WHERE name = 'alembic_version'"
    if connection.exec_driver_sql(named).first() is None:
        return None
    return connection.exec_driver_sql("SELECT version_num FROM alembic_version").scalar()
