"""Note an event that a form of any room brought."""

from fastapi import Request
from starlette.datastructures import FormData

from bottega.app.answer import Answer
from bottega.app.job.record import record_on
from bottega.core.job.events import AnyBody
from bottega.web.kit.page import author_of, workshop_of
from bottega.web.kit.security import seen_of, text_of


def note_body(request: Request, before: Answer, form: FormData, body: AnyBody) -> Answer:
    """Append an event to a job as it was read, with what every form carries: its id, and how much
    of the job was seen. Return the new answer. Raises what the rules refuse."""
    event_id, seen = text_of(form, "event_id"), seen_of(form)
    return record_on(
        workshop_of(request), before, body, author_of(request), event_id=event_id, seen=seen
    )
