"""Take a photo in: made smaller, and without what a camera writes into it of where and when."""

import io
import warnings
from collections.abc import Iterator
from contextlib import contextmanager
from hashlib import sha256

from PIL import Image, ImageOps, UnidentifiedImageError

from bottega.app.errors import BadValue, NotFound
from bottega.app.workshop import Workshop

MOST_BYTES = 12_000_000
"""Bytes of a photo as it comes; chosen, twice what a phone takes."""
LONGEST = 1600
"""Pixels of the longer side as it is kept; chosen, enough to read a label."""
LONGEST_BYTES = 4_000_000
"""Bytes of a photo as it is kept; chosen, twice what one of the most detail takes."""
QUALITY = 85
FORMATS = ("JPEG", "PNG", "WEBP")
TOO_MANY_POINTS = (Image.DecompressionBombWarning, Image.DecompressionBombError)
NO_PICTURE = (UnidentifiedImageError, OSError, ValueError, SyntaxError)
"""What opening a picture raises that is too many points, or none."""


def keep_photo(workshop: Workshop, raw: bytes) -> str:
    """Return the name a photo is kept under. It is drawn anew as a JPEG, turned upright, so that
    nothing of its maker's notes is left. Raises BadValue for what is too large or no picture."""
    if len(raw) > MOST_BYTES:
        raise BadValue(
            f"Found a photo of more than {MOST_BYTES / 1e6:.0f} MB, expected at most that. "
            "Take it with less detail.",
            "photo",
        )
    try:
        with _points_counted(), Image.open(io.BytesIO(raw), formats=FORMATS) as picture:
            upright = ImageOps.exif_transpose(picture).convert("RGB")
    except TOO_MANY_POINTS as error:
        most = (Image.MAX_IMAGE_PIXELS or 0) / 1e6
        raise BadValue(
            f"Found a photo of too many points, expected at most {most:.0f} million.", "photo"
        ) from error
    except NO_PICTURE as error:
        raise BadValue(
            "Found no picture, expected a photo as JPEG, PNG or WebP.", "photo"
        ) from error
    upright.thumbnail((LONGEST, LONGEST))
    plain = Image.new("RGB", upright.size)
    plain.paste(upright)
    drawn = io.BytesIO()
    plain.save(drawn, "JPEG", quality=QUALITY, optimize=True)
    return workshop.photos.keep(drawn.getvalue())


@contextmanager
def _points_counted() -> Iterator[None]:
    """Let a picture of too many points be refused before it is drawn."""
    with warnings.catch_warnings():
        warnings.simplefilter("error", Image.DecompressionBombWarning)
        yield


def believable_photo(name: str, raw: bytes) -> None:
    """Raise BadValue unless ``raw`` is a photo as it is kept here: named by its SHA-256, a JPEG no
    larger than one, with nothing in it but the picture."""
    if sha256(raw).hexdigest() != name:
        raise BadValue("Found a photo that is not what its name says; it was changed.", "file")
    try:
        with (
            _points_counted(),
            Image.open(io.BytesIO(raw), formats=("JPEG",)) as picture,
        ):
            tells = any(mark != "APP0" for mark, _ in getattr(picture, "applist", ()))
            strange = max(picture.size) > LONGEST or tells or "comment" in picture.info
            if not strange:
                picture.load()
    except TOO_MANY_POINTS:
        strange = True
    except NO_PICTURE as error:
        raise BadValue("Found no picture where a photo was expected.", "file") from error
    if strange:
        raise BadValue(
            "Found a photo that Bottega did not take in: too large, or with a camera's notes.",
            "file",
        )


def photo_of(workshop: Workshop, name: str) -> bytes:
    """Return a photo that is kept. Raises NotFound."""
    raw = workshop.photos.read(name)
    if raw is None:
        raise NotFound("Found no such photo.")
    return raw
