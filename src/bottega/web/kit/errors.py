"""The one place that turns exceptions into answers: a page for people, problem+json (RFC 9457) for
programs."""

import json
import logging
import secrets
from collections.abc import Mapping
from dataclasses import dataclass

from fastapi import FastAPI, Request, Response
from fastapi.exceptions import RequestValidationError
from starlette.exceptions import HTTPException
from starlette.responses import RedirectResponse

from bottega.app.errors import AppError
from bottega.app.values import shown
from bottega.store.database import StoreUnavailable, Trouble
from bottega.web.kit.page import ErrorNote, Page, asks_for_part, render_plain
from bottega.web.kit.security import Forbidden

logger = logging.getLogger(__name__)
KEPT = "Nothing of this was written; what was stored before is safe."
Refusal = AppError | StoreUnavailable
REFUSALS = (AppError, StoreUnavailable)
"""What a form shows in its place, with everything that was typed. Anything else is unexpected."""
BESIDE = {
    "HX-Retarget": "#trouble",
    "HX-Reswap": "innerHTML",
    "HX-Reselect": "unset",
    "HX-Push-Url": "false",
}
"""Tells htmx to show an error beside the page that stands, so that nothing typed on it is lost."""
TROUBLES: dict[Trouble, tuple[int, str]] = {
    "busy": (503, f"Somebody else was writing for a long time. {KEPT} Send it again."),
    "read-only": (
        503,
        f"The data folder cannot be written to. {KEPT} Give its owner the right to write.",
    ),
    "full": (507, f"The disk is full. {KEPT} Make room, and send it again."),
    "broken": (
        500,
        f"The database gives an error. {KEPT} Run “bottega check” on the shop's computer.",
    ),
}


@dataclass(frozen=True)
class ErrorPage:
    """What the error page gets."""

    page: Page
    message: str
    reference: str = ""


@dataclass(frozen=True)
class ErrorTold:
    """An exception as it is told: status, title, what is wrong, the field it belongs to, and a
    number of the log."""

    status: int
    title: str
    detail: str
    field: str = ""
    reference: str = ""
    headers: Mapping[str, str] | None = None


def told(error: Exception) -> ErrorTold:
    """Return an exception as it is told. What nobody expected gets a number under which the log has
    the whole of it."""
    match error:
        case AppError():
            return ErrorTold(error.status, error.title, str(error), error.field)
        case Forbidden():
            return ErrorTold(403, "Not from here", str(error))
        case StoreUnavailable():
            status, detail = TROUBLES[error.trouble]
            logger.error("store: %s", error)
            return ErrorTold(status, "Not stored", detail)
        case RequestValidationError():
            first = error.errors()[0]
            place = ".".join(str(part) for part in first["loc"])
            found = shown(first.get("input"))
            return ErrorTold(
                422,
                "A value to put right",
                f"Found {found} at {place}: {first['msg'].lower()}.",
                place,
            )
        case HTTPException():
            return ErrorTold(
                error.status_code,
                HTTP_TITLES.get(error.status_code, "Not possible"),
                HTTP_DETAILS.get(error.status_code, str(error.detail)),
                headers=error.headers,
            )
        case _:
            reference = secrets.token_hex(4)
            logger.error("reference %s", reference, exc_info=error)
            detail = (
                f"Something went wrong that should not have. {KEPT} The log has it as {reference}."
            )
            return ErrorTold(500, "That went wrong", detail, reference=reference)


REFUSED_METHOD = 405
"""Status of a form's address that is looked at: a page reloaded after a refusal goes back to where
the form stands."""
HTTP_TITLES = {404: "Not found", 413: "Too large", 400: "Not understood"}
HTTP_DETAILS = {
    404: "There is no such page.",
    405: "That address does not take this kind of request.",
    413: "The upload is too large; at most 2.5 MB are taken, of a photo 12 MB.",
}


def translate(request: Request, error: Exception) -> Response:
    """Return the answer to an exception in the form its reader wants."""
    said = told(error)
    answer = _answer(request, said)
    answer.headers.update(said.headers or {})
    return answer


def _answer(request: Request, said: ErrorTold) -> Response:
    if request.url.path.startswith("/api/"):
        problem = {
            "type": "about:blank",
            "title": said.title,
            "status": said.status,
            "detail": said.detail,
            **({"field": said.field} if said.field else {}),
            **({"reference": said.reference} if said.reference else {}),
        }
        content = json.dumps(problem).encode()
        return Response(content, said.status, media_type="application/problem+json")
    if said.status == REFUSED_METHOD and request.method == "GET":
        return RedirectResponse(request.app.state.urls.above(request.url.path), 303)
    context = ErrorPage(Page(said.title), said.detail, said.reference)
    answer = render_plain(request, "kit/error.html", context, said.status)
    if asks_for_part(request):
        answer.headers.update(BESIDE)
    return answer


def note_of(error: Refusal, typed: dict[str, str]) -> ErrorNote:
    """Return an error as a page shows it in its place, beside what was typed."""
    said = told(error)
    return ErrorNote(said.detail, said.field, typed, said.status, type(error))


def install(app: FastAPI) -> None:
    """Register the translation of every exception the application raises."""
    app.state.translate = translate
    for kind in (AppError, Forbidden, StoreUnavailable, RequestValidationError, HTTPException):
        app.add_exception_handler(kind, translate)
