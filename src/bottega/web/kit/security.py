"""The security floor: same origin, a token on every change, a strict content policy on every
answer."""

import json
import secrets
from collections.abc import AsyncIterator
from contextlib import AbstractContextManager, nullcontext
from time import perf_counter
from typing import Annotated

from fastapi import Depends, Request, Response
from starlette.datastructures import FormData, Headers, MutableHeaders
from starlette.exceptions import HTTPException
from starlette.middleware.body_limit import RequestBodyLimitMiddleware
from starlette.requests import ClientDisconnect
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from bottega.app.errors import Stale
from bottega.app.values import whole
from bottega.web.kit.budget import Budget
from bottega.web.kit.urls import STATIC_PATH

SAFE = {"GET", "HEAD", "OPTIONS"}
COOKIE = "bottega"
COOKIE_S = 180 * 86400
"""How long a browser remembers who works at it, in seconds; chosen, half a year."""
MAX_BODY = 2_500_000
"""Bytes of a request; chosen, a job file of the largest size and its form around it."""
POLICY = (
    "default-src 'none'; script-src 'self'; style-src 'self'; img-src 'self' data:; "
    "media-src 'self'; font-src 'self'; connect-src 'self'; form-action 'self'; "
    "frame-ancestors 'none'; base-uri 'none'"
)
HEADERS = {
    "Content-Security-Policy": POLICY,
    "X-Content-Type-Options": "nosniff",
    "Referrer-Policy": "same-origin",
    "X-Frame-Options": "DENY",
    "Cross-Origin-Opener-Policy": "same-origin",
}


MAX_PHOTO = 13_000_000
"""Bytes of a request that may bring a photo; chosen, one of the largest and its form around it."""
WITH_PHOTO = ("/panel/flashes", "/open/off")
"""How the addresses end to which a photo is sent."""
MAX_BUNDLE = 31_000_000
"""Bytes of a request that may bring a job with its photos; chosen, the largest and its form around
it."""
LISTENING = "/live"
"""How the addresses end of pages that listen."""
WITH_BUNDLE = ("/import", "/api/v1/jobs/import")
"""The addresses to which a job with its photos is sent."""


class Forbidden(Exception):
    """A change that did not come from this application's own pages."""


def same_origin(request: Request) -> bool:
    """Return whether a request that says where it came from came from here."""
    site = request.headers.get("sec-fetch-site")
    if site is not None and site not in ("same-origin", "none"):
        return False
    origin = request.headers.get("origin")
    return origin is None or origin == f"{request.url.scheme}://{request.headers.get('host', '')}"


def embedded_elsewhere(request: Request) -> bool:
    """Return whether a request was made by a page of another site without anybody going there: a
    picture, a frame, a script. Browsers say so (Fetch Metadata Request Headers, W3C)."""
    site = request.headers.get("sec-fetch-site", "none")
    goes_there = request.headers.get("sec-fetch-dest") == "document"
    return site not in ("same-origin", "none") and not goes_there


class BodyLimits:
    """Refuse requests that are too large, before they are read or while they are: those with a
    photo later than others, those with all of a job's later still. ``Guard`` around it turns the
    refusal into a page that says so."""

    def __init__(self, app: ASGIApp) -> None:
        self.usual = RequestBodyLimitMiddleware(app, max_body_size=MAX_BODY)
        self.photo = RequestBodyLimitMiddleware(app, max_body_size=MAX_PHOTO)
        self.bundle = RequestBodyLimitMiddleware(app, max_body_size=MAX_BUNDLE)

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Answer one request."""
        path = scope.get("path", "")
        way = self.photo if path.endswith(WITH_PHOTO) else self.usual
        way = self.bundle if path in WITH_BUNDLE else way
        said = Headers(scope=scope).get("content-length", "") if scope["type"] == "http" else ""
        if said.isascii() and said.isdecimal() and int(said) > way.max_body_size:
            raise HTTPException(413)
        await way(scope, receive, send)


class Guard:
    """Refuse changes from elsewhere, let no exception out, and put the security headers on every
    answer. Whoever goes away in the middle of a request or of its answer is no error."""

    def __init__(self, app: ASGIApp) -> None:
        self.app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Answer one request."""
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return
        started, begun = perf_counter(), False
        request = Request(scope, receive)
        served_as_is = request.url.path.startswith(STATIC_PATH)
        request.state.token = "" if served_as_is else _token(request)

        async def send_with_headers(message: Message) -> None:
            nonlocal begun
            if message["type"] == "http.response.start":
                begun = True
                headers = MutableHeaders(scope=message)
                for name, value in HEADERS.items():
                    headers.setdefault(name, value)
                if not served_as_is:
                    headers.setdefault("Cache-Control", "no-store")
                headers["Server-Timing"] = f"app;dur={(perf_counter() - started) * 1000:.1f}"
            await send(message)

        try:
            if request.method not in SAFE and not same_origin(request):
                raise Forbidden("This change did not come from this application's own pages.")
            if embedded_elsewhere(request):
                raise Forbidden("Pages of other sites may not load anything of this one.")
            with counted_in(request, served_as_is):
                await self.app(scope, receive, send_with_headers)
        except ClientDisconnect:
            return
        except Exception as error:
            if begun:
                if await request.is_disconnected():
                    return
                raise
            answer: Response = request.app.state.translate(request, error)
            await answer(scope, receive, send_with_headers)


def counted_in(request: Request, served_as_is: bool) -> AbstractContextManager[None]:
    """Count a request in its budget; what is served as it is takes nobody's time, and pages that
    listen are counted as such."""
    if served_as_is or request.url.path.endswith(LISTENING) or "/meter/" in request.url.path:
        return nullcontext()
    budget: Budget = request.app.state.budget
    return budget.one(f"{request.method} {request.url.path}")


def _token(request: Request) -> str:
    """Return the token every form of this browser's session carries; made with the session's first
    page."""
    if "token" not in request.session and not request.url.path.startswith("/api"):
        request.session["token"] = secrets.token_urlsafe(24)
    return str(request.session.get("token", ""))


async def checked_form(request: Request) -> AsyncIterator[FormData]:
    """Read a form, and refuse one whose token is not that of the browser's session. For every page
    that changes something."""
    async with request.form() as form:
        given, expected = text_of(form, "token"), request.state.token
        known = secrets.compare_digest(given.encode("utf-8", "replace"), expected.encode())
        if not expected or not known:
            raise Forbidden(
                "The form's token does not match this browser's session. "
                "Load the page again and send it once more."
            )
        yield form


Form = Annotated[FormData, Depends(checked_form)]
"""What a page's form carries; its token is this session's."""


async def checked_api(request: Request) -> None:
    """Refuse what is not JSON, which no foreign form can send. For every API route that changes
    something."""
    kind = request.headers.get("content-type", "").partition(";")[0].strip()
    if kind != "application/json":
        raise Forbidden(f"Found the content type {kind[:60]!r}, expected application/json.")


def text_of(form: FormData, name: str) -> str:
    """Return a field of a form as text; empty where there is none or a file stands."""
    value = form.get(name, "")
    return value if isinstance(value, str) else ""


HIDDEN = ("token", "event_id", "seen")
"""Fields every form carries unseen."""
MOST_SEEN = 10**6
"""Events or acts a form can have seen; chosen, no job and no machine comes near it."""


def seen_of(form: FormData) -> int:
    """Return how many events its author had seen. Raises Stale where the form does not say,
    BadValue for what is no number."""
    if not text_of(form, "seen"):
        raise Stale(
            "The form does not say what its author had seen. "
            "Load the page again and send it once more."
        )
    return whole(text_of(form, "seen"), "seen", 0, MOST_SEEN)


def marks_of(form: FormData) -> dict[str, str] | None:
    """Return what the form's page had shown of things that are kept, each with its mark; None where
    the form does not say."""
    if "was" not in form:
        return None
    try:
        shown = json.loads(text_of(form, "was"))
    except ValueError:
        return {}
    if not isinstance(shown, dict):
        return {}
    return {name: mark for name, mark in shown.items() if isinstance(mark, str)}


def texts_of(form: FormData, *without: str) -> dict[str, str]:
    """Return a form's text fields, but for those left out."""
    return {k: v for k, v in form.items() if isinstance(v, str) and k not in without}


def file_of(form: FormData, name: str, most: int) -> bytes:
    """Return a file that was sent, at most one byte more than ``most``; empty where there is
    none."""
    upload = form.get(name)
    if upload is None or isinstance(upload, str):
        return b""
    return upload.file.read(most + 1)
