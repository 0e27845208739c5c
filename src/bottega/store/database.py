"""Open the shop's SQLite file: WAL, foreign keys, full sync, migrations by Alembic, backup by SQLite's own API."""

import sqlite3
from pathlib import Path
from typing import Any

from alembic import command
from alembic.config import Config
from sqlalchemy import Engine, create_engine, event
from sqlalchemy.orm import Session, sessionmaker
from sqlalchemy.pool import StaticPool

FILE = "bottega.sqlite"
BUSY_MS = 5000


class StoreError(RuntimeError):
    """The store cannot be opened or used; says what was found."""


class Database:
    """The shop's database. ``sessions`` makes sessions; ``close`` lets the file go."""

    def __init__(self, engine: Engine) -> None:
        self.engine = engine
        self.sessions: sessionmaker[Session] = sessionmaker(engine, expire_on_commit=False)

    def close(self) -> None:
        """Close all connections."""
        self.engine.dispose()

    def backup(self, target: Path) -> None:
        """Copy the database to ``target`` while it is in use, by SQLite's online backup."""
        with self.engine.connect() as connection, sqlite3.connect(target) as copy:
            raw = connection.connection.driver_connection
            assert isinstance(raw, sqlite3.Connection)
            raw.backup(copy)
        copy.close()


def open_database(folder: Path | None) -> Database:
    """Open, and if need be make, the database in ``folder``; None keeps it in memory. Raises StoreError."""
    if folder is None:
        engine = create_engine("sqlite://", poolclass=StaticPool, connect_args={"check_same_thread": False})
    else:
        try:
            folder.mkdir(parents=True, exist_ok=True)
        except OSError as error:
            raise StoreError(
                f"found {error.strerror} for the data folder '{folder}', expected a folder to write in"
            ) from error
        engine = create_engine(f"sqlite:///{folder / FILE}", connect_args={"timeout": BUSY_MS / 1000})
    event.listen(engine, "connect", _set_pragmas)
    event.listen(engine, "begin", _begin_immediate)
    _migrate(engine)
    return Database(engine)


def _set_pragmas(connection: sqlite3.Connection, _record: Any) -> None:
    connection.isolation_level = None
    for pragma in ("journal_mode=WAL", "foreign_keys=ON", "synchronous=FULL", f"busy_timeout={BUSY_MS}"):
        connection.execute(f"PRAGMA {pragma}")


def _begin_immediate(connection: Any) -> None:
    connection.exec_driver_sql("BEGIN IMMEDIATE" if connection.get_execution_options().get("writes") else "BEGIN")


def _migrate(engine: Engine) -> None:
    config = Config()
    config.set_main_option("script_location", str(Path(__file__).parent / "migrations"))
    config.set_main_option("path_separator", "os")
    with engine.connect() as connection:
        config.attributes["connection"] = connection
        command.upgrade(config, "head")
        connection.commit()
