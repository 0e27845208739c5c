"""The one place that turns exceptions into answers: a page for people, problem+json (RFC 9457) for programs."""

from dataclasses import dataclass

from fastapi import FastAPI, Request, Response
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse
from starlette.exceptions import HTTPException

from bottega.app.errors import AppError
from bottega.web.rendering import Page, render
from bottega.web.security import Forbidden


@dataclass(frozen=True)
class ErrorPage:
    """What the error page gets."""

    page: Page
    message: str


def answer(request: Request, status: int, title: str, detail: str, field: str = "") -> Response:
    """Return an error in the form its reader wants."""
    if request.url.path.startswith("/api/"):
        problem = {"type": "about:blank", "title": title, "status": status, "detail": detail}
        if field:
            problem["field"] = field
        return JSONResponse(problem, status_code=status, media_type="application/problem+json")
    return render(request, "error.html", ErrorPage(Page(title, ""), detail), status)


def install(app: FastAPI) -> None:
    """Register the translation of every exception the application raises."""

    def app_error(request: Request, error: Exception) -> Response:
        assert isinstance(error, AppError)
        return answer(request, error.status, error.title, str(error), error.field)

    def forbidden(request: Request, error: Exception) -> Response:
        return answer(request, 403, "Not from here", str(error))

    def invalid(request: Request, error: Exception) -> Response:
        assert isinstance(error, RequestValidationError)
        first = error.errors()[0]
        place = ".".join(str(part) for part in first["loc"])
        return answer(
            request,
            422,
            "A value to put right",
            f"Found {first.get('input')!r:.80} at {place}: {first['msg'].lower()}.",
            place,
        )

    def http(request: Request, error: Exception) -> Response:
        assert isinstance(error, HTTPException)
        details = {404: "There is no such page.", 405: "That address does not take this kind of request."}
        return answer(
            request,
            error.status_code,
            "Not found" if error.status_code == 404 else "Not possible",
            details.get(error.status_code, str(error.detail)),
        )

    app.add_exception_handler(AppError, app_error)
    app.add_exception_handler(Forbidden, forbidden)
    app.add_exception_handler(RequestValidationError, invalid)
    app.add_exception_handler(HTTPException, http)
    app.state.forbidden = lambda request: answer(
        request, 403, "Not from here", "This change did not come from this application's own pages."
    )
