"""The same thing sent twice, and another thing under the same id."""

from typing import Any

from bottega.app.errors import Refused
from bottega.app.values import shown
from bottega.core.job.events import Body, Checked, Opened, Proved

OPENED_HERE = {"revision", "odds"}
"""What of an opening is worked out here."""


def refuse_other(known: Body, sent: Body) -> None:
    """Raise Refused where what was sent is not what is kept under its id; the words show both."""
    before, now = _as_sent(known), _as_sent(sent)
    fields = [name for name in {**before, **now} if before.get(name) != now.get(name)]
    if not fields:
        return
    kept = ", ".join(f"{name} {shown(before.get(name))}" for name in fields)
    yours = ", ".join(f"{name} {shown(now.get(name))}" for name in fields)
    raise Refused(
        f"The form's id is that of another entry. Kept is: {kept}. This form says: {yours}. "
        "Nothing of this form was written; load the page again and send it once more.",
        "id",
    )


def _as_sent(body: Body) -> dict[str, Any]:
    """Return of an event what whoever sent it said, without what was worked out here: of a reading
    the figure as typed, and where and how it was taken."""
    match body:
        case Checked(reading=reading) if reading is not None:
            said = body.model_dump(exclude={"leaves", "reading", "outcome"})
            return said | reading.model_dump(include={"typed", "at", "at_unit"})
        case Checked():
            return body.model_dump(exclude={"leaves"})
        case Proved():
            return body.model_dump(exclude={"limits"})
        case Opened():
            return body.model_dump(exclude=OPENED_HERE)
        case _:
            return body.model_dump()
