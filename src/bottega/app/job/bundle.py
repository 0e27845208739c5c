"""A job with its photos as one file: a zip of the job as JSON and of its photos by name. What
comes in is not believed."""

import io
import zipfile
import zlib
from collections.abc import Iterable
from dataclasses import dataclass
from typing import Any

from bottega.app.errors import BadValue
from bottega.app.job.room import written
from bottega.app.photo.photo import LONGEST_BYTES, believable_photo
from bottega.app.values import shown
from bottega.app.workshop import Workshop
from bottega.core.job.file import JobFile

BEGINS = b"PK"
"""The first bytes of every zip."""
JOB, PHOTOS = "job.json", "photos/"
PACKED = (zipfile.ZIP_STORED, zipfile.ZIP_DEFLATED)
"""Ways of packing that are read."""
UNREADABLE = (zipfile.BadZipFile, zlib.error, EOFError, OSError, ValueError, RuntimeError)
"""What reading a zip raises that is cut, locked or no zip."""
ENDS, LAST_RECORD = b"PK\x05\x06", 65_557
"""How the last record of a zip begins, and how long it can be."""
LONGEST_NAME = 400
"""Bytes of an entry in a zip's table of names; chosen, four times what one of ours takes."""
MOST_BUNDLE_BYTES = 30_000_000
"""Bytes of such a file, packed or not; chosen, sixty photos of half a megabyte."""
MOST_PHOTO_BYTES = 27_000_000
"""Bytes of a job's photos, so that its file comes back with the job in it."""
MOST_PHOTOS = 120
"""Photos of a job; chosen, two of each step of the longest way there."""


@dataclass(frozen=True)
class Unpacked:
    """What such a file holds: the job as JSON, and its photos by name."""

    job: bytes
    photos: dict[str, bytes]


def photos_in(file: JobFile) -> list[str]:
    """Return the names of the photos a job speaks of, each once."""
    return list(dict.fromkeys(name for kept in file.events for name in _named(kept.body)))


def bundle(workshop: Workshop, file: JobFile) -> bytes:
    """Return a job and those of its photos that are here as one file."""
    packed = io.BytesIO()
    with zipfile.ZipFile(packed, "w", zipfile.ZIP_DEFLATED) as out:
        out.writestr(JOB, written(file))
        for name in photos_in(file):
            raw = workshop.photos.read(name)
            if raw is not None:
                out.writestr(f"{PHOTOS}{name}.jpg", raw, zipfile.ZIP_STORED)
    return packed.getvalue()


def unpacked(raw: bytes, most_job: int) -> Unpacked:
    """Return what a file holds. Raises BadValue for one that is cut, too large once unpacked, holds
    something else, or photos that are none."""
    try:
        _refuse_names(raw)
        with zipfile.ZipFile(io.BytesIO(raw)) as inside:
            entries = inside.infolist()
            _refuse_odd(entries)
            held = _read_all(inside, entries)
    except UNREADABLE as error:
        raise _broken("it is cut, locked, or packed in another way") from error
    job = held.pop(JOB)
    if len(job) > most_job:
        raise _broken(f"its job has {len(job)} bytes, expected at most {most_job}")
    photos = {name.removeprefix(PHOTOS).removesuffix(".jpg"): one for name, one in held.items()}
    return Unpacked(job, {name: believable_photo(name, one) for name, one in photos.items()})


def _read_all(inside: zipfile.ZipFile, entries: list[zipfile.ZipInfo]) -> dict[str, bytes]:
    """Return what is in a zip by name, read no further than it may be, whatever it says of
    itself."""
    held, left = {}, MOST_BUNDLE_BYTES
    for entry in entries:
        most = left if entry.filename == JOB else min(left, LONGEST_BYTES)
        with inside.open(entry) as packed:
            held[entry.filename] = packed.read(most + 1)
        if len(held[entry.filename]) > most:
            raise _broken(f"{shown(entry.filename)} unpacks to more than {most} bytes")
        left -= len(held[entry.filename])
    return held


def _refuse_names(raw: bytes) -> None:
    """Refuse a zip whose table of names is longer than that of any job, before it is read (its last
    record: APPNOTE.TXT 4.3.16)."""
    at = raw.rfind(ENDS, max(0, len(raw) - LAST_RECORD))
    if at < 0 or at + 22 > len(raw):
        raise _broken("it is cut, locked, or packed in another way")
    count = int.from_bytes(raw[at + 10 : at + 12], "little")
    size = int.from_bytes(raw[at + 12 : at + 16], "little")
    if count > MOST_PHOTOS + 1 or size > (MOST_PHOTOS + 1) * LONGEST_NAME:
        raise _broken(f"found {count} entries, expected at most {MOST_PHOTOS} photos and {JOB}")


def _refuse_odd(entries: list[zipfile.ZipInfo]) -> None:
    names = [entry.filename for entry in entries]
    odd = [name for name in names if name != JOB and not name.startswith(PHOTOS)]
    if odd or names.count(JOB) != 1 or len(set(names)) != len(names):
        found = shown(odd[0]) if odd else f"{names.count(JOB)} times {JOB}"
        raise _broken(f"found {found}, expected {JOB} and photos")
    if any(entry.compress_type not in PACKED for entry in entries):
        raise _broken("it is packed in another way")
    if len(entries) > MOST_PHOTOS + 1:
        raise _broken(f"found {len(entries) - 1} photos, expected at most {MOST_PHOTOS}")
    if sum(entry.file_size for entry in entries) > MOST_BUNDLE_BYTES:
        raise _broken(f"it unpacks to more than {MOST_BUNDLE_BYTES / 1e6:.0f} MB")
    largest = max((one.file_size for one in entries if one.filename != JOB), default=0)
    if largest > LONGEST_BYTES:
        raise _broken(f"found a photo of {largest} bytes, expected at most {LONGEST_BYTES}")


def _broken(words: str) -> BadValue:
    return BadValue(f"The file is no job with photos: {words}.", "file")


def _named(body: dict[str, Any]) -> Iterable[str]:
    name = body.get("photo")
    return (name,) if isinstance(name, str) and name else ()
