"""Take a photo in: made smaller, and without what a camera writes into it of where and when."""

import io
import warnings
from collections.abc import Iterator
from contextlib import contextmanager
from hashlib import sha256
from threading import Lock

from PIL import Image, ImageOps, UnidentifiedImageError

from bottega.app.errors import BadValue, NotFound
from bottega.app.workshop import Workshop

MOST_TAKEN_BYTES = 12_000_000
"""Bytes of a photo as it comes; chosen, twice what a phone takes."""
MOST_POINTS = 40_000_000
"""Points of a photo that is drawn whole before it is made smaller; chosen, 160 megabytes."""
JPEG_BEGINS = b"\xff\xd8\xff"
_DRAWING = Lock()
"""One photo is drawn at a time, whoever sends it: it is the largest thing a request does."""
LONGEST_SIDE = 1600
"""Pixels of the longer side as it is kept; chosen, enough to read a label."""
LONGEST_BYTES = 4_000_000
"""Bytes of a photo as it is kept; chosen, twice what one of the most detail takes."""
QUALITY = 85
FORMATS = ("JPEG", "PNG", "WEBP")
TOO_MANY_POINTS = (Image.DecompressionBombWarning, Image.DecompressionBombError)
NO_PICTURE = (UnidentifiedImageError, OSError, ValueError, SyntaxError)
"""What opening a picture raises that is too many points, or none."""


def drawn_anew(raw: bytes, most: int = MOST_TAKEN_BYTES, longest: int = 0) -> bytes:
    """Return a photo as it is kept: drawn anew as a JPEG, turned upright, so that nothing of its
    maker's notes is left. One is drawn at a time. Raises BadValue for what is no picture, of more
    than ``most`` bytes, or where ``longest`` is given, of more pixels along one side."""
    if len(raw) > most:
        raise BadValue(
            f"Found a photo of more than {most / 1e6:.0f} MB, expected at most that. "
            "Take it with less detail.",
            "photo",
        )
    try:
        with (
            _DRAWING,
            _points_counted(),
            Image.open(io.BytesIO(raw), formats=FORMATS) as picture,
        ):
            _refuse_points(picture)
            if longest and max(picture.size) > longest:
                raise BadValue(
                    f"Found a photo of {max(picture.size)} pixels, expected at most {longest}.",
                    "photo",
                )
            picture.draft("RGB", (LONGEST_SIDE, LONGEST_SIDE))
            plain = picture.convert("RGB")
            plain.thumbnail((LONGEST_SIDE, LONGEST_SIDE))
            upright = ImageOps.exif_transpose(plain)
            return _as_jpeg(upright)
    except TOO_MANY_POINTS as error:
        most_points = (Image.MAX_IMAGE_PIXELS or 0) / 1e6
        raise BadValue(
            f"Found a photo of too many points, expected at most {most_points:.0f} million.",
            "photo",
        ) from error
    except NO_PICTURE as error:
        raise BadValue(
            "Found no picture, expected a photo as JPEG, PNG or WebP.", "photo"
        ) from error


def _refuse_points(picture: Image.Image) -> None:
    """Raise BadValue before a picture is drawn that takes too much room: what is not a JPEG is
    drawn whole before it is made smaller."""
    points = picture.width * picture.height
    if picture.format != "JPEG" and points > MOST_POINTS:
        raise BadValue(
            f"Found a photo of {points / 1e6:.0f} million points, expected at most "
            f"{MOST_POINTS / 1e6:.0f} million unless it is a JPEG.",
            "photo",
        )


def _as_jpeg(picture: Image.Image) -> bytes:
    clean = Image.new("RGB", picture.size)
    clean.paste(picture)
    drawn = io.BytesIO()
    clean.save(drawn, "JPEG", quality=QUALITY, optimize=True)
    return drawn.getvalue()


@contextmanager
def _points_counted() -> Iterator[None]:
    """Let a picture of too many points be refused before it is drawn."""
    with warnings.catch_warnings():
        warnings.simplefilter("error", Image.DecompressionBombWarning)
        yield


def believable_photo(name: str, raw: bytes) -> bytes:
    """Return a photo of a file as it is kept here, drawn anew as every other. Raises BadValue
    unless it is a JPEG no larger than one that is kept, with the SHA-256 that its name says."""
    if sha256(raw).hexdigest() != name:
        raise BadValue("Found a photo that is not what its name says; it was changed.", "file")
    if not raw.startswith(JPEG_BEGINS):
        raise BadValue("Found no picture where a photo was expected.", "file")
    try:
        return drawn_anew(raw, LONGEST_BYTES, LONGEST_SIDE)
    except BadValue as error:
        raise BadValue(str(error), "file") from error


def photo_of(workshop: Workshop, name: str) -> bytes:
    """Return a photo that is kept. Raises NotFound."""
    raw = workshop.photos.read(name)
    if raw is None:
        raise NotFound("Found no such photo.")
    return raw
