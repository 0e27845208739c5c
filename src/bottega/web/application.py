"""Build the web application around a workshop."""

import secrets
from pathlib import Path

from fastapi import FastAPI
from fastapi.staticfiles import StaticFiles
from itsdangerous import URLSafeSerializer
from starlette.middleware import Middleware
from starlette.middleware.base import BaseHTTPMiddleware

from bottega import __version__
from bottega.app.workshop import Workshop
from bottega.web import api, bench, call, errors, job, library, live, report, sheets, shop, thinking
from bottega.web.rendering import make_environment
from bottega.web.security import BodyLimit, guard
from bottega.web.text import install_filters

STATIC = Path(__file__).parent / "static"


def create_app(workshop: Workshop, secret: str | None = None) -> FastAPI:
    """Return the application. ``secret`` signs the session cookie; without one, sessions end with the process."""
    app = FastAPI(
        title="Bottega",
        version=__version__,
        description="The workbench application of a washer technician.",
        openapi_url="/api/v1/openapi.json",
        docs_url=None,
        redoc_url=None,
        middleware=[Middleware(BodyLimit), Middleware(BaseHTTPMiddleware, dispatch=guard)],
    )
    app.state.workshop = workshop
    app.state.serializer = URLSafeSerializer(secret or secrets.token_urlsafe(32), salt="session")
    app.state.environment = make_environment()
    install_filters(app.state.environment)
    errors.install(app)
    app.mount("/static", StaticFiles(directory=STATIC), name="static")
    for module in (bench, call, report, thinking, live, job, shop, sheets, library, api):
        app.include_router(module.router)
    return app
