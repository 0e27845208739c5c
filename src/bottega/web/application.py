"""Build the web application around a workshop."""

import secrets
import sys
from collections.abc import AsyncIterator, Sequence
from contextlib import asynccontextmanager
from pathlib import Path

from anyio import to_thread
from fastapi import FastAPI
from starlette.middleware import Middleware
from starlette.middleware.sessions import SessionMiddleware
from starlette.middleware.trustedhost import TrustedHostMiddleware

from bottega import __version__
from bottega.app.workshop import Workshop
from bottega.web.api import bearings as bearings_api
from bottega.web.api import docs
from bottega.web.api import routes as api
from bottega.web.api import strip as strip_api
from bottega.web.bearings import in_job as hub
from bottega.web.bearings import routes as bearings
from bottega.web.bench import routes as bench
from bottega.web.call import routes as call
from bottega.web.compare import routes as compare
from bottega.web.drawing.plate import Plates
from bottega.web.job import routes as job
from bottega.web.kit import errors
from bottega.web.kit.budget import Budget
from bottega.web.kit.page import make_environment
from bottega.web.kit.security import COOKIE, COOKIE_S, BodyLimits, Guard
from bottega.web.kit.static import StaticFiles
from bottega.web.kit.streams import Streams
from bottega.web.kit.urls import STATIC_PATH, Urls
from bottega.web.library import editor, machines
from bottega.web.live import routes as live
from bottega.web.measure import in_job as beside
from bottega.web.measure import live as meter
from bottega.web.measure import routes as measure
from bottega.web.measure import walk
from bottega.web.open import printed
from bottega.web.panel import routes as panel
from bottega.web.photo import routes as photo
from bottega.web.report import routes as report
from bottega.web.rig import routes as rig
from bottega.web.rig import worth
from bottega.web.service import routes as service
from bottega.web.shop import gear, times
from bottega.web.shop import routes as shop
from bottega.web.thinking import routes as thinking
from bottega.web.washer import routes as washer

STATIC = Path(__file__).parent / "static"
LOOPBACK = ("127.0.0.1", "localhost", "::1", "[::1]")
"""Names under which this computer is asked by itself."""
HANDS = 2
"""Requests worked on at once; chosen by measuring on two cores: with one a slow job holds up
everybody, with four they take the interpreter from each other and each waits for all."""
SWITCH_S = 0.001
"""After how many seconds a thread gives the interpreter to another that waits for it; measured
beside four writers and four readers: with 5 ms, which is usual, a small file takes 22 ms at p95,
with 1 ms 14, and pages take as long."""
ROOMS = (
    bench,
    call,
    report,
    thinking,
    compare,
    live,
    beside,
    meter,
    walk,
    service,
    hub,
    printed,
    job,
    panel,
    measure,
    bearings,
    washer,
    rig,
    worth,
    photo,
    gear,
    times,
    shop,
    editor,
    machines,
    docs,
    api,
    bearings_api,
    strip_api,
)


@asynccontextmanager
async def _few_hands(_app: FastAPI) -> AsyncIterator[None]:
    """Let only so many requests be worked on at once; the others wait in line without holding each
    other up, and the loop, which hands out small files, waits for them a moment only."""
    sys.setswitchinterval(SWITCH_S)
    to_thread.current_default_thread_limiter().total_tokens = HANDS
    yield


def create_app(
    workshop: Workshop, secret: str | None = None, hosts: Sequence[str] = LOOPBACK
) -> FastAPI:
    """Return the application. ``secret`` signs the session cookie; without one, sessions end with
    the process.

    Only requests for one of ``hosts`` are answered, so that no foreign name can be pointed at this
    computer.
    """
    secret = secret or secrets.token_urlsafe(32)
    app = FastAPI(
        title="Bottega",
        lifespan=_few_hands,
        version=__version__,
        description="The workbench application of a washer technician.",
        openapi_url="/api/v1/openapi.json",
        docs_url=None,
        redoc_url=None,
        middleware=[
            Middleware(TrustedHostMiddleware, allowed_hosts=list(hosts), www_redirect=False),
            Middleware(
                SessionMiddleware,
                secret_key=secret,
                session_cookie=COOKIE,
                max_age=COOKIE_S,
                same_site="strict",
            ),
            Middleware(Guard),
            Middleware(BodyLimits),
        ],
    )
    errors.install(app)
    files = StaticFiles(STATIC)
    app.mount(STATIC_PATH, files, name="static")
    for room in ROOMS:
        app.include_router(room.router)
    app.state.workshop = workshop
    app.state.secret = secret
    app.state.streams = Streams()
    app.state.budget = Budget(workshop)
    rooms = (route for room in ROOMS for route in room.router.routes)
    app.state.urls = Urls.of(*app.routes, *rooms, edition=files.edition)
    app.state.environment = make_environment()
    app.state.environment.globals["url"] = app.state.urls
    app.state.environment.globals["plates"] = Plates(app.state.environment)
    return app
