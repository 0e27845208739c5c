"""The library as it was once read, kept on disk in compiled form: reading it again takes a tenth of
the time. What is kept counts only for the very texts and the very code it was made with."""

import gc
import os
import pickle
import sys
import tempfile
from collections.abc import Callable, Iterator
from contextlib import contextmanager, suppress
from hashlib import blake2b
from pathlib import Path
from typing import Any, TypeVar

import platformdirs
import pydantic

T = TypeVar("T")

CODE = Path(__file__).parents[1]
"""Everything a machine type is made by stands below this folder."""
DIGEST_BYTES = 32
OTHERS_MAY_WRITE = 0o022
GONE_AFTER = 3
"""How many compiled libraries are kept; the oldest go."""


def compiled(folder: Path, read: Callable[[], T], cache: Path | None = None) -> T:
    """Return what ``read`` makes of a library ``folder``: from the ``cache`` (by default the user's
    own) when the same texts were read by the same code before, else read and kept there.

    A file that is cut, changed, another's, or open to others for writing is not used. Where nothing
    can be kept, it is read each time. Raises what ``read`` raises.
    """
    cache = cache or platformdirs.user_cache_path("bottega") / "library"
    file = cache / f"{_key(folder)}.compiled"
    kept: T | None = _kept(file)
    if kept is not None:
        return kept
    made = read()
    with suppress(OSError):
        _keep(file, made)
    return made


def _key(folder: Path) -> str:
    """Return what names the texts of the library and the code that reads it, by their content."""
    digest = blake2b(digest_size=DIGEST_BYTES)
    digest.update(f"{sys.version} {pydantic.VERSION}".encode())
    for root, pattern in ((folder, "*/*.yaml"), (CODE, "**/*.py")):
        for path in sorted(root.glob(pattern)):
            raw = path.read_bytes()
            digest.update(f"{path.relative_to(root)} {len(raw)} ".encode() + raw)
    return digest.hexdigest()


def _kept(file: Path) -> Any:
    """Return what a file holds, None unless it is whole and nobody else could have written it."""
    with suppress(OSError):
        if not _our_own(file) or not _our_own(file.parent):
            return None
        raw = file.read_bytes()
        body = raw[DIGEST_BYTES:]
        if raw[:DIGEST_BYTES] == _sum(body):
            with _uncollected():
                return pickle.loads(body)
    return None


def _keep(file: Path, made: object) -> None:
    file.parent.mkdir(parents=True, exist_ok=True, mode=0o700)
    body = pickle.dumps(made, pickle.HIGHEST_PROTOCOL)
    with tempfile.NamedTemporaryFile(dir=file.parent, delete=False) as out:
        try:
            out.write(_sum(body) + body)
            out.close()
            os.replace(out.name, file)
        except OSError:
            os.unlink(out.name)
            raise
    for old in sorted(file.parent.glob("*.compiled"), key=os.path.getmtime)[:-GONE_AFTER]:
        old.unlink(missing_ok=True)


def _our_own(path: Path) -> bool:
    found = path.stat()
    owner = found.st_uid == os.getuid() if hasattr(os, "getuid") else True
    return owner and not found.st_mode & OTHERS_MAY_WRITE


def _sum(body: bytes) -> bytes:
    return blake2b(body, digest_size=DIGEST_BYTES).digest()


@contextmanager
def _uncollected() -> Iterator[None]:
    """Keep the garbage collector from walking what is being built, all of which stays."""
    ran = gc.isenabled()
    gc.disable()
    try:
        yield
    finally:
        if ran:
            gc.enable()
