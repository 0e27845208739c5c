"""One writer of a data folder: whoever serves it, restores it or brings something in holds it, and
everybody else is told who does."""

import json
import os
from datetime import datetime
from pathlib import Path
from typing import Any

from bottega.store.database import OWNER_ONLY, StoreError

FILE = "bottega.lock"
"""The file that is locked; what stands in it says by whom. The lock goes with its process, however
that ends."""
LONGEST = 2000
"""Bytes of the file that are read; chosen, ten times what is written."""


class FolderHeld(StoreError):
    """Somebody else holds the data folder."""


class Hold:
    """A data folder held by this process until it is let go."""

    def __init__(self, folder: Path, what: str, now: datetime) -> None:
        """Hold a folder, and make it if need be; ``what`` is the command that does. Raises
        FolderHeld, StoreError where it cannot be written."""
        try:
            folder.mkdir(parents=True, exist_ok=True)
            flags = os.O_RDWR | os.O_CREAT
            self._file = os.fdopen(os.open(folder / FILE, flags, OWNER_ONLY), "r+")
        except OSError as error:
            raise StoreError(
                f"found {error.strerror} for the data folder '{folder}', expected a folder to "
                "write in"
            ) from error
        try:
            free = _locked(self._file.fileno())
        except OSError as error:
            self._file.close()
            raise StoreError(
                f"found {error.strerror} while locking '{folder}', expected a disk that can lock "
                "files"
            ) from error
        if not free:
            holder = _holder(self._file.read(LONGEST))
            self._file.close()
            raise FolderHeld(
                f"found the data folder '{folder}' in use by {holder}, expected nobody: end that "
                "first"
            )
        self._file.truncate(0)
        told = {"command": what, "process": os.getpid(), "since": now.isoformat("T", "minutes")}
        self._file.write(json.dumps(told))
        self._file.flush()

    def let_go(self) -> None:
        """Let the folder go."""
        self._file.truncate(0)
        self._file.close()


def _locked(descriptor: int) -> bool:
    """Lock a file and return whether that was free. Raises OSError where files cannot be
    locked."""
    try:
        if os.name == "nt":
            import msvcrt

            msvcrt.locking(descriptor, msvcrt.LK_NBLCK, 1)  # type: ignore[attr-defined]
        else:
            import fcntl

            fcntl.flock(descriptor, fcntl.LOCK_EX | fcntl.LOCK_NB)
    except (BlockingIOError, PermissionError):
        return False
    return True


def _holder(text: str) -> str:
    """Return who holds a folder, in words; what stands in the file is not trusted to be whole."""
    try:
        told: Any = json.loads(text)
        return f"`bottega {told['command']}`, process {told['process']}, since {told['since']}"
    except (ValueError, TypeError, KeyError):
        return "another program"
