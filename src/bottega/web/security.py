"""The security floor: same origin, a token on every change, small bodies, a strict content policy."""

import secrets
from collections.abc import Awaitable, Callable
from time import perf_counter

from fastapi import Request, Response
from itsdangerous import BadSignature, URLSafeSerializer
from starlette.types import ASGIApp, Message, Receive, Scope, Send

SAFE = {"GET", "HEAD", "OPTIONS"}
COOKIE = "bottega"
MAX_BODY = 2_500_000
POLICY = (
    "default-src 'none'; script-src 'self'; style-src 'self'; img-src 'self' data:; font-src 'self'; "
    "connect-src 'self'; form-action 'self'; frame-ancestors 'none'; base-uri 'none'"
)
HEADERS = {
    "Content-Security-Policy": POLICY,
    "X-Content-Type-Options": "nosniff",
    "Referrer-Policy": "same-origin",
    "X-Frame-Options": "DENY",
    "Cross-Origin-Opener-Policy": "same-origin",
}


class Forbidden(Exception):
    """A change that did not come from this application's own pages."""


class BodyTooLarge(Exception):
    """A request body over the limit."""


class BodyLimit:
    """Refuses request bodies over ``limit`` bytes before they are held in memory."""

    def __init__(self, app: ASGIApp, limit: int = MAX_BODY) -> None:
        self.app, self.limit = app, limit

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Pass the request on, counting its body."""
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return
        declared = dict(scope["headers"]).get(b"content-length", b"0")
        if declared.isdigit() and int(declared) > self.limit:
            await _too_large(send, self.limit)
            return
        seen = 0

        async def counted() -> Message:
            nonlocal seen
            message = await receive()
            seen += len(message.get("body", b""))
            if seen > self.limit:
                raise BodyTooLarge
            return message

        try:
            await self.app(scope, counted, send)
        except BodyTooLarge:
            await _too_large(send, self.limit)


async def _too_large(send: Send, limit: int) -> None:
    text = f"The upload is too large; at most {limit // 1_000_000} MB are taken.".encode()
    headers = [(b"content-type", b"text/plain; charset=utf-8"), (b"content-length", str(len(text)).encode())]
    await send({"type": "http.response.start", "status": 413, "headers": headers})
    await send({"type": "http.response.body", "body": text})


class Session:
    """What the browser keeps in its signed cookie: the author, the theme, and the secret behind the form token."""

    def __init__(self, serializer: URLSafeSerializer, raw: str | None) -> None:
        self._serializer = serializer
        try:
            self.data: dict[str, str] = serializer.loads(raw) if raw else {}
        except BadSignature:
            self.data = {}
        self.fresh = "token" not in self.data
        if self.fresh:
            self.data["token"] = secrets.token_urlsafe(24)

    @property
    def token(self) -> str:
        """Return the token every form carries."""
        return self.data["token"]

    def store(self, response: Response) -> None:
        """Write the cookie."""
        value = self._serializer.dumps(self.data)
        response.set_cookie(COOKIE, str(value), max_age=180 * 86400, httponly=True, samesite="strict")


def same_origin(request: Request) -> bool:
    """Return whether a request that says where it came from came from here."""
    site = request.headers.get("sec-fetch-site")
    if site is not None and site not in ("same-origin", "none"):
        return False
    origin = request.headers.get("origin")
    return origin is None or origin == f"{request.url.scheme}://{request.headers.get('host', '')}"


async def guard(request: Request, call_next: Callable[[Request], Awaitable[Response]]) -> Response:
    """Load the session, refuse changes from elsewhere, and put the security headers on every answer."""
    started = perf_counter()
    session = Session(request.app.state.serializer, request.cookies.get(COOKIE))
    request.state.session = session
    if request.method not in SAFE and not same_origin(request):
        response: Response = request.app.state.forbidden(request)
    else:
        response = await call_next(request)
    if session.fresh and not request.url.path.startswith(("/static", "/api")):
        session.store(response)
    for name, value in HEADERS.items():
        response.headers.setdefault(name, value)
    if not request.url.path.startswith("/static"):
        response.headers.setdefault("Cache-Control", "no-store")
    response.headers["Server-Timing"] = f"app;dur={(perf_counter() - started) * 1000:.1f}"
    return response


async def checked_form(request: Request) -> None:
    """Dependency of every page route that changes something: the form's token must be the session's."""
    form = await request.form()
    given = str(form.get("token", ""))
    if not secrets.compare_digest(given, request.state.session.token):
        raise Forbidden(
            "The form's token does not match this browser's session. Load the page again and send it once more."
        )


async def checked_api(request: Request) -> None:
    """Dependency of every API route that changes something: JSON only, which no foreign form can send."""
    kind = request.headers.get("content-type", "").partition(";")[0].strip()
    if kind != "application/json":
        raise Forbidden(f"Found the content type '{kind or 'none'}', expected application/json.")
