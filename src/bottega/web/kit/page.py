"""Pages: the Jinja environment, what every page gets, and full pages or fragments from one typed
context."""

import json
from dataclasses import dataclass, fields
from pathlib import Path
from typing import Any, Protocol
from uuid import uuid4

from fastapi import Request
from fastapi.responses import HTMLResponse, RedirectResponse
from jinja2 import Environment, FileSystemLoader, StrictUndefined, select_autoescape

from bottega.app.workshop import Workshop
from bottega.core.diagnosis.words import fault_title, percent, shares, suspicion
from bottega.core.job.words import age_words
from bottega.core.wording import upper_first
from bottega.store.shop import Member
from bottega.web.kit import words
from bottega.web.kit.keys import KEYS
from bottega.web.kit.urls import Urls, Value

ROOMS = Path(__file__).parents[1]
"""Templates stand beside the modules of their room."""
HTMX = {
    "includeIndicatorStyles": False,
    "allowEval": False,
    "selfRequestsOnly": True,
    "scrollBehavior": "auto",
    "responseHandling": [{"code": "204", "swap": False}, {"code": "[2345]..", "swap": True}],
}
"""Settings of htmx: no style and no script of its own, answers of every kind are shown."""


class Context(Protocol):
    """The typed context of a page: a frozen dataclass with a ``page`` among its fields."""

    @property
    def page(self) -> "Page":
        """Return what every page gets."""


@dataclass(frozen=True)
class ErrorNote:
    """What went wrong, shown in its place: the message, the field, what was typed, the HTTP status
    it goes out with, and which error it was."""

    message: str
    field: str
    typed: dict[str, str]
    status: int
    of: type[Exception]


@dataclass(frozen=True)
class Page:
    """What names a page: its title."""

    title: str


@dataclass(frozen=True)
class Frame:
    """What every page gets beside its own context."""

    token: str
    author: str
    members: list[Member]
    theme: str
    here: str


def make_environment() -> Environment:
    """Return the Jinja environment; an unknown name in a template is an error."""
    environment = Environment(
        loader=FileSystemLoader(ROOMS),
        autoescape=select_autoescape(default=True, default_for_string=True),
        undefined=StrictUndefined,
        trim_blocks=True,
        lstrip_blocks=True,
        auto_reload=False,
        cache_size=-1,
    )
    environment.filters.update(
        minutes=words.minutes_words,
        percent=percent,
        shares=shares,
        clock=words.clock,
        age=age_words,
        phase=words.phase,
        stamp=words.stamp,
        day=words.day,
        full_date=words.full_date,
        suspicion=suspicion,
        money=words.money,
        money_in=words.money_in,
        amount=words.amount,
        bar=words.bar,
        figure=words.figure,
        decibans=words.decibans,
        upper_first=upper_first,
    )
    environment.globals.update(
        new_id=new_id,
        short_day=words.short_day,
        span=words.span,
        fault_title=fault_title,
        key_list=KEYS,
        htmx_config=json.dumps(HTMX),
    )
    return environment


def new_id() -> str:
    """Return a fresh client id for a form, so that sending it twice stores it once."""
    return str(uuid4())


def workshop_of(request: Request) -> Workshop:
    """Return the running application's workshop."""
    workshop: Workshop = request.app.state.workshop
    return workshop


def url_of(request: Request, page: str, /, **values: Value) -> str:
    """Return the address of a page."""
    urls: Urls = request.app.state.urls
    return urls(page, **values)


def go_to(request: Request, page: str, /, **values: Value) -> RedirectResponse:
    """Return the answer to a form that was taken: go and look at this page."""
    return RedirectResponse(url_of(request, page, **values), status_code=303)


def author_of(request: Request) -> str:
    """Return who works at this browser: the chosen member, or the first of the shop."""
    return _author(request, workshop_of(request).members)


def status_of(error: ErrorNote | None) -> int:
    """Return the HTTP status of a page that shows an error, or none."""
    return error.status if error else 200


def render(request: Request, template: str, context: Context, status: int = 200) -> HTMLResponse:
    """Render a page from its typed context; htmx gets the ``_``-named fragment beside it that the
    page includes."""
    workshop = workshop_of(request)
    members = workshop.members
    frame = Frame(
        token=request.state.token,
        author=_author(request, members),
        members=members,
        theme=str(request.session.get("theme", "paper")),
        here=request.url.path,
    )
    values = values_of(context) | values_of(frame)
    values |= {"shop": workshop.settings, "now": workshop.now()}
    return _answer(request, _fragment(request, template), values, status)


def render_plain(request: Request, template: str, context: Context, status: int) -> HTMLResponse:
    """Render a page that asks nothing of the database: it has to stand when that is away."""
    theme = str(request.scope.get("session", {}).get("theme", "paper"))
    values = values_of(context) | {"theme": theme}
    return _answer(request, _fragment(request, template), values, status)


def values_of(context: object) -> dict[str, Any]:
    """Return a context's fields by name, as the template gets them."""
    return {f.name: getattr(context, f.name) for f in fields(context)}  # type: ignore[arg-type]


def asks_for_part(request: Request) -> bool:
    """Return whether htmx asks, to put the answer into a page that stands."""
    restores = request.headers.get("hx-history-restore-request")
    return bool(request.headers.get("hx-request")) and not restores


def _answer(request: Request, template: str, values: dict[str, Any], status: int) -> HTMLResponse:
    html = request.app.state.environment.get_template(template).render(values)
    return HTMLResponse(html.encode("utf-8", "replace"), status_code=status)


def _fragment(request: Request, template: str) -> str:
    folder, _, leaf = template.rpartition("/")
    fragment = f"{folder}/_{leaf}"
    return fragment if asks_for_part(request) and (ROOMS / fragment).exists() else template


def _author(request: Request, members: list[Member]) -> str:
    names = [member.name for member in members]
    chosen = str(request.session.get("author", ""))
    return chosen if chosen in names else (names[0] if names else "Somebody")
