"""Copies of a shop: made while it is in use, verified, put back; a good one is never written over
by chance."""

import os
import sqlite3
from contextlib import closing
from dataclasses import dataclass
from pathlib import Path

from bottega.store.database import FILE, OWNER_ONLY, StoreError

NEEDED = ("jobs", "events", "settings")
"""Tables every shop has had since the first version."""


@dataclass(frozen=True)
class Checkup:
    """What a look at a shop's file found: how many jobs and events it holds, and what is wrong with
    it."""

    jobs: int
    events: int
    problems: tuple[str, ...]


def copy_shop(source: Path, target: Path, force: bool = False) -> Checkup:
    """Copy the database file ``source`` to ``target`` by SQLite's online backup, and return what
    the copy holds.

    Written beside the target, verified, then renamed, readable by its owner only. Raises StoreError
    when the source is no shop, when the target is there already without ``force``, or when the copy
    is not sound.
    """
    before = checked_shop(source)
    if before.problems:
        raise StoreError(f"found a damaged shop in '{source}': {before.problems[0]}")
    if target.is_dir():
        raise StoreError(f"found a folder at '{target}', expected the name of a file")
    if target.exists() and not force:
        raise StoreError(
            f"found '{target}' already there, expected a new file; --force writes over it"
        )
    if target.exists() and target.samefile(source):
        raise StoreError(f"found the shop itself at '{target}', expected another file")
    aside = target.with_name(f".{target.name}.{os.getpid()}.part")
    try:
        aside.touch(mode=OWNER_ONLY, exist_ok=False)
        with (
            closing(sqlite3.connect(source)) as original,
            closing(sqlite3.connect(aside)) as copy,
        ):
            original.backup(copy)
            copy.execute("PRAGMA journal_mode=DELETE")
        after = checked_shop(aside)
        if after.problems or after.events < before.events:
            found = (*after.problems, f"{after.events} of {before.events} events")[0]
            raise StoreError(f"the copy is not sound: {found}")
        for rest in ("-wal", "-shm"):
            target.with_name(target.name + rest).unlink(missing_ok=True)
        os.replace(aside, target)
    except OSError as error:
        raise StoreError(f"found {error.strerror} while writing '{target}'") from error
    except sqlite3.Error as error:
        raise StoreError(f"found {error} while copying to '{target}'") from error
    finally:
        aside.unlink(missing_ok=True)
    return after


def restore_shop(copy: Path, folder: Path, force: bool = False) -> Checkup:
    """Put a copy back as the shop of ``folder``. Raises StoreError as ``copy_shop`` does."""
    try:
        folder.mkdir(parents=True, exist_ok=True)
    except OSError as error:
        raise StoreError(f"found {error.strerror} for '{folder}', expected a folder") from error
    return copy_shop(copy, folder / FILE, force)


def checked_shop(file: Path) -> Checkup:
    """Return what a shop's file holds and what is wrong with it. Raises StoreError when it is no
    shop."""
    if not file.is_file():
        raise StoreError(f"found no shop at '{file}', expected a folder with {FILE} in it")
    try:
        with closing(sqlite3.connect(f"file:{file}?mode=ro", uri=True)) as connection:
            tables = {
                row[0]
                for row in connection.execute("SELECT name FROM sqlite_master WHERE type='table'")
            }
            missing = [name for name in NEEDED if name not in tables]
            if missing:
                raise StoreError(
                    f"found no table '{missing[0]}' in '{file}', expected a shop's database"
                )
            counts = [
                int(connection.execute(f"SELECT COUNT(*) FROM {table}").fetchone()[0])
                for table in ("jobs", "events")
            ]
            told = [row[0] for row in connection.execute("PRAGMA integrity_check")]
            told += [
                f"{row[0]} points nowhere" for row in connection.execute("PRAGMA foreign_key_check")
            ]
            gaps = connection.execute(GAPS).fetchall()
            told += [
                f"job {number}: {seq} events, the last is number {last}"
                for number, seq, last in gaps
            ]
    except sqlite3.DatabaseError as error:
        raise StoreError(f"found {error} in '{file}', expected a shop's database") from error
    return Checkup(counts[0], counts[1], tuple(line for line in told if line != "ok"))


GAPS = """
SELECT jobs.number, COUNT(events.id), COALESCE(MAX(events.seq), 0)
FROM jobs LEFT JOIN events ON events.job_id = jobs.id
GROUP BY jobs.id
HAVING COUNT(events.id) = 0 OR COUNT(events.id) <> MAX(events.seq)
"""
"""Jobs whose events are not numbered from 1 without a gap."""
