"""Templates: the Jinja environment, its filters, and full pages or fragments from one context."""

from dataclasses import dataclass, fields
from datetime import date, datetime
from pathlib import Path
from typing import Any
from uuid import uuid4

from babel.dates import format_date
from babel.numbers import format_currency
from fastapi import Request
from fastapi.responses import HTMLResponse
from jinja2 import Environment, FileSystemLoader, StrictUndefined, select_autoescape

from bottega.app.workshop import Workshop
from bottega.core.diagnosis.words import chance_words, suspicion
from bottega.core.shop import ShopSettings

TEMPLATES = Path(__file__).parent / "templates"
LOCALE = "en_IE"


@dataclass(frozen=True)
class ErrorNote:
    """What went wrong, shown in its place: the message, the field, and what was typed."""

    message: str
    field: str
    typed: dict[str, str]


@dataclass(frozen=True)
class Page:
    """What every page gets: title, who works, the theme, the form token."""

    title: str
    active: str


def minutes_words(minutes: float | None) -> str:
    """Return minutes as "4 min" or "2 h 10"."""
    if minutes is None:
        return ""
    whole = max(1, round(minutes))
    return f"{whole} min" if whole < 60 else f"{whole // 60} h {whole % 60:02d}"


def percent(p: float) -> str:
    """Return a probability as a whole per cent, with "<1 %" and ">99 %" at the ends."""
    if 0 < p < 0.01:
        return "<1%"
    return ">99%" if 0.99 < p < 1 else f"{p:.0%}"


def money(amount: float, shop: ShopSettings, digits: bool = True) -> str:
    """Return an amount in the shop's currency."""
    text = format_currency(amount, shop.currency, locale=LOCALE)
    if not digits:
        text = format_currency(round(amount), shop.currency, locale=LOCALE, format="¤#,##0", currency_digits=False)
    return str(text)


def clock(moment: datetime) -> str:
    """Return the time of day as 09:12."""
    return moment.astimezone().strftime("%H:%M")


def day(moment: date | datetime | str) -> str:
    """Return a day as "Wed 14 May"."""
    if isinstance(moment, str):
        moment = date.fromisoformat(moment)
    return str(format_date(moment, "EEE d MMM", locale=LOCALE))


def short_day(moment: datetime, now: datetime) -> str:
    """Return the time of day for today, and "14 May" otherwise."""
    local = moment.astimezone()
    return clock(moment) if local.date() == now.astimezone().date() else str(format_date(local, "d MMM", locale=LOCALE))


def new_id() -> str:
    """Return a fresh client id for a form, so that sending it twice stores it once."""
    return str(uuid4())


def make_environment() -> Environment:
    """Return the Jinja environment; an unknown name in a template is an error."""
    environment = Environment(
        loader=FileSystemLoader(TEMPLATES),
        autoescape=select_autoescape(default=True, default_for_string=True),
        undefined=StrictUndefined,
        trim_blocks=True,
        lstrip_blocks=True,
    )
    environment.filters.update(
        minutes=minutes_words,
        percent=percent,
        clock=clock,
        day=day,
        chance=chance_words,
        suspicion=suspicion,
        money=money,
    )
    environment.globals.update(new_id=new_id, short_day=short_day)
    return environment


def workshop_of(request: Request) -> Workshop:
    """Return the running application's workshop."""
    workshop: Workshop = request.app.state.workshop
    return workshop


def author_of(request: Request) -> str:
    """Return who works at this browser: the chosen member, or the first of the shop."""
    members = workshop_of(request).shop.members()
    chosen = str(request.state.session.data.get("author", ""))
    names = [member.name for member in members]
    return chosen if chosen in names else (names[0] if names else "Somebody")


def render(request: Request, template: str, context: Any, status: int = 200) -> HTMLResponse:
    """Render a page from its typed context; htmx gets the ``_``-named fragment beside it that the page includes."""
    workshop = workshop_of(request)
    name = template
    if request.headers.get("hx-request") and not request.headers.get("hx-history-restore-request"):
        folder, _, leaf = template.rpartition("/")
        fragment = f"{folder}/_{leaf}"
        if (TEMPLATES / fragment).exists():
            name = fragment
    values = {field.name: getattr(context, field.name) for field in fields(context)}
    values.update(
        token=request.state.session.token,
        author=author_of(request),
        members=workshop.shop.members(),
        theme=request.state.session.data.get("theme", "paper"),
        shop=workshop.settings,
        now=workshop.now(),
        here=request.url.path,
    )
    html = request.app.state.environment.get_template(name).render(values)
    return HTMLResponse(html, status_code=status)
