"""Note an event that a form of any room brought."""

from fastapi import Request
from starlette.datastructures import FormData

from bottega.app.job.record import record
from bottega.core.job.events import AnyBody
from bottega.web.kit.page import author_of, workshop_of
from bottega.web.kit.security import seen_of, text_of


def note_body(request: Request, number: str, form: FormData, body: AnyBody) -> None:
    """Append an event to a job with what every form carries: its id, and how much of the job was
    seen. Raises what the rules refuse."""
    event_id = text_of(form, "event_id")
    record(workshop_of(request), number, body, author_of(request), event_id, seen_of(form))
