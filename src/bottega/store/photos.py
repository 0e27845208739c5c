"""Photos beside the database: files named by what is in them, so that the same one is kept once."""

import os
import re
import shutil
from contextlib import suppress
from hashlib import sha256
from pathlib import Path

from bottega.store.database import OWNER_ONLY, StoreError, StoreUnavailable, Trouble

FOLDER = "photos"
NAME = re.compile(r"[0-9a-f]{64}")


class Photos:
    """The photos of a shop in its data folder; in memory where it has none."""

    def __init__(self, data: Path | None) -> None:
        self._folder = data / FOLDER if data else None
        self._held: dict[str, bytes] = {}

    def keep(self, raw: bytes) -> str:
        """Store a photo and return its name, the SHA-256 of it. Raises StoreUnavailable where there
        is no room or no right to write."""
        name = sha256(raw).hexdigest()
        if self._folder is None:
            self._held[name] = raw
            return name
        target, aside = self._folder / name, self._folder / f".{name}.{os.getpid()}.part"
        try:
            self._folder.mkdir(parents=True, exist_ok=True)
            if not target.exists():
                aside.write_bytes(raw)
                aside.chmod(OWNER_ONLY)
                os.replace(aside, target)
        except OSError as error:
            trouble: Trouble = "read-only" if isinstance(error, PermissionError) else "full"
            said = f"found {error.strerror} while a photo was kept"
            raise StoreUnavailable(trouble, said) from error
        finally:
            with suppress(OSError):
                aside.unlink(missing_ok=True)
        return name

    def read(self, name: str) -> bytes | None:
        """Return a photo, or None where there is no such."""
        if not NAME.fullmatch(name):
            return None
        if self._folder is None:
            return self._held.get(name)
        file = self._folder / name
        return file.read_bytes() if file.is_file() else None


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
