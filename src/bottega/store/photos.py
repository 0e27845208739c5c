"""Photos beside the database: files named by what is in them, so that the same one is kept once."""

import errno
import os
import re
import shutil
from contextlib import suppress
from hashlib import sha256
from pathlib import Path
from uuid import uuid4

from bottega.store.database import OWNER_ONLY, StoreError, StoreUnavailable, Trouble

FOLDER = "photos"
NAME = re.compile(r"[0-9a-f]{64}")
TROUBLES: dict[int, Trouble] = {
    errno.EACCES: "read-only",
    errno.EPERM: "read-only",
    errno.EROFS: "read-only",
    errno.ENOTDIR: "read-only",
    errno.EEXIST: "read-only",
}
"""What an error of a file means to whoever works here; every other one is a full disk."""


class Photos:
    """The photos of a shop in its data folder; in memory where it has none."""

    def __init__(self, data: Path | None) -> None:
        self._folder = data / FOLDER if data else None
        self._held: dict[str, bytes] = {}

    def keep(self, raw: bytes) -> bool:
        """Store a photo under ``name_of`` it, and return whether it is new. Raises StoreUnavailable
        where there is no room or no right to write.

        Written aside under a name of its own, on disk before it is renamed: the same photo may be
        kept by two at once, and a photo is there whole or not at all.
        """
        name = name_of(raw)
        if self._folder is None:
            new = name not in self._held
            self._held[name] = raw
            return new
        target, aside = self._folder / name, self._folder / f".{name}.{uuid4().hex}.part"
        try:
            self._folder.mkdir(parents=True, exist_ok=True)
            if target.exists():
                return False
            _write(aside, raw)
            os.replace(aside, target)
            _sync(self._folder)
        except OSError as error:
            trouble = TROUBLES.get(error.errno or 0, "full")
            said = f"found {error.strerror} while a photo was kept in '{self._folder}'"
            raise StoreUnavailable(trouble, said) from error
        finally:
            with suppress(OSError):
                aside.unlink(missing_ok=True)
        return True

    def drop(self, name: str) -> None:
        """Take a photo away that nothing speaks of."""
        self._held.pop(name, None)
        if self._folder is not None and NAME.fullmatch(name):
            with suppress(OSError):
                (self._folder / name).unlink(missing_ok=True)

    def read(self, name: str) -> bytes | None:
        """Return a photo, or None where there is no such."""
        if not NAME.fullmatch(name):
            return None
        if self._folder is None:
            return self._held.get(name)
        file = self._folder / name
        return file.read_bytes() if file.is_file() else None


def name_of(raw: bytes) -> str:
    """Return the name a photo is kept under: the SHA-256 of it."""
    return sha256(raw).hexdigest()


def _write(file: Path, raw: bytes) -> None:
    opened = os.open(file, os.O_CREAT | os.O_EXCL | os.O_WRONLY, OWNER_ONLY)
    with os.fdopen(opened, "wb") as out:
        out.write(raw)
        out.flush()
        os.fsync(out.fileno())


def _sync(folder: Path) -> None:
    """Write the name of a new file to disk, where folders can be opened for that."""
    with suppress(OSError):
        opened = os.open(folder, os.O_RDONLY)
        try:
            os.fsync(opened)
        finally:
            os.close(opened)


def copy_photos(source: Path, target: Path) -> int:
    """Copy the photos of one folder that another lacks and return how many. Raises StoreError."""
    copied = 0
    try:
        for file in source.iterdir() if source.is_dir() else ():
            if NAME.fullmatch(file.name) and not (target / file.name).exists():
                target.mkdir(parents=True, exist_ok=True)
                shutil.copy2(file, target / file.name)
                copied += 1
    except OSError as error:
        raise StoreError(f"found {error.strerror} while photos were copied") from error
    return copied
