"""A job as a file, and its events as they are kept: each with the version of its body, read by
upcasters."""

from collections.abc import Sequence
from typing import Any, Literal

from pydantic import AwareDatetime, BaseModel, ConfigDict, Field

from bottega.core.job.events import Event, Noted, Withdrawn
from bottega.core.job.kinds import KINDS, kind_of
from bottega.core.job.upcast import upcasted

FORMAT: Literal["bottega-job"] = "bottega-job"
VERSION = 2
"""Of the file. 1 was without versions of events; every event of such a file is of version 1."""


class StoredEvent(BaseModel):
    """An event as kept: what it is of is in ``body``, as the version that wrote it had it."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    id: str
    at: AwareDatetime
    author: str
    version: int = Field(default=1, ge=1)
    body: dict[str, Any]


class JobFile(BaseModel):
    """An exported job: its number, the library revision it was diagnosed with, and its whole
    log."""

    model_config = ConfigDict(extra="forbid")

    format: Literal["bottega-job"] = FORMAT
    version: int = Field(default=VERSION, ge=1, le=VERSION)
    number: str = Field(pattern=r"^[0-9A-Za-z-]{1,12}$")
    exported_at: AwareDatetime
    library_revision: str = ""
    events: Sequence[StoredEvent] = Field(min_length=1)


def restored(stored: StoredEvent) -> Event:
    """Return an event as it is understood today. Raises ValueError for a kind, version or body not
    understood."""
    kind = stored.body.get("kind")
    if not isinstance(kind, str) or kind not in KINDS:
        raise ValueError(
            f"found an entry of the kind {kind!r:.40}, expected one this version knows"
        )
    body = upcasted(kind, stored.version, stored.body, KINDS[kind].upcasters)
    return Event.model_validate(
        {"id": stored.id, "at": stored.at, "author": stored.author, "body": body}
    )


def replaced(stored: StoredEvent) -> Event:
    """Return a note in the place of an event that cannot be understood and has been withdrawn."""
    text = "An entry that cannot be read; it is kept as it was written."
    return Event.model_validate(
        {"id": stored.id, "at": stored.at, "author": stored.author, "body": Noted(text=text)}
    )


def withdrawn_ids(events: Sequence[StoredEvent]) -> set[str]:
    """Return the ids of what some other event withdraws, also among events that cannot be
    understood."""
    kind = Withdrawn.model_fields["kind"].default
    return {str(kept.body.get("event")) for kept in events if kept.body.get("kind") == kind}


def stored(event: Event) -> StoredEvent:
    """Return an event as it is kept today."""
    return StoredEvent(
        id=event.id,
        at=event.at,
        author=event.author,
        version=kind_of(event.body).version,
        body=event.body.model_dump(mode="json"),
    )
