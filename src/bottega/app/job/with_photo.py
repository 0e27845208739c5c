"""Entries with a photo: kept together or not at all, and never more than a job's file takes."""

from bottega.app.answer import Answer
from bottega.app.errors import BadValue
from bottega.app.job.bundle import MOST_PHOTO_BYTES, MOST_PHOTOS
from bottega.app.job.record import record_on, refuse_stale
from bottega.app.photo.photo import drawn_anew
from bottega.app.workshop import Workshop
from bottega.core.job.events import PanelRead, TookOff
from bottega.store.photos import name_of


def record_with_photo(
    workshop: Workshop,
    before: Answer,
    body: TookOff | PanelRead,
    raw: bytes,
    *,
    author: str,
    event_id: str,
    seen: int,
) -> Answer:
    """Note an entry with its photo; a stale form's photo is not even drawn, and of one that is
    refused none stays. Raises what ``record_on`` and ``drawn_anew`` raise, and BadValue where the
    job has as many photos as its file takes."""
    refuse_stale(before, event_id, seen)
    drawn = drawn_anew(raw)
    _refuse_beyond(workshop, before, drawn)
    name, new = name_of(drawn), workshop.photos.keep(drawn)
    try:
        noted = body.model_copy(update={"photo": name})
        return record_on(workshop, before, noted, author, event_id=event_id, seen=seen)
    except Exception:
        if new and not workshop.log.names_photo(name):
            workshop.photos.drop(name)
        raise


def _refuse_beyond(workshop: Workshop, before: Answer, drawn: bytes) -> None:
    """Raise BadValue where another photo would make a job that goes out and does not come back."""
    bodies = (event.body for event in before.job.events)
    names = {body.photo for body in bodies if isinstance(body, TookOff | PanelRead) and body.photo}
    if len(names | {name_of(drawn)}) > MOST_PHOTOS:
        raise BadValue(
            f"The job has {len(names)} photos, expected at most {MOST_PHOTOS}: more do not fit "
            "into its file.",
            "photo",
        )
    held = sum(len(workshop.photos.read(name) or b"") for name in names - {name_of(drawn)})
    if held + len(drawn) > MOST_PHOTO_BYTES:
        raise BadValue(
            f"The job's photos have {held / 1e6:.0f} MB, expected at most "
            f"{MOST_PHOTO_BYTES / 1e6:.0f} with this one: more do not fit into its file.",
            "photo",
        )
