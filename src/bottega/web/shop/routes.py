"""The shop's settings and members, who works at this browser, and its theme."""

import json
from dataclasses import dataclass

from fastapi import APIRouter, Request, Response
from fastapi.responses import RedirectResponse
from starlette.datastructures import FormData

from bottega.app.shop.settings import FIELDS, SCHOOL, add_member, as_typed, change_settings
from bottega.core.library.limits import LimitSet
from bottega.core.library.school_record import School
from bottega.web.kit.errors import REFUSALS, note_of
from bottega.web.kit.page import ErrorNote, Page, go_to, render, status_of, url_of, workshop_of
from bottega.web.kit.security import Form, marks_of, text_of

router = APIRouter(prefix="/shop", include_in_schema=False)
TYPED = (
    "name",
    "currency",
    "per_eur",
    "rate_per_hour",
    "visit_fee",
    "tax_rate",
    "part_markup",
    "mains_v",
    "mains_hz",
    "prove_at",
)
"""Settings that are typed into a plain field, in the order of the page."""
WAS = "was_"
"""How the name of a field begins that says what the form showed before."""
THEMES = ("paper", "cellar")
LONGEST_KEPT = 60
"""Letters a browser's session keeps of a name; as long as a member's name may be."""


@dataclass(frozen=True)
class SettingField:
    """One setting as it is typed."""

    key: str
    name: str
    value: str


@dataclass(frozen=True)
class ShopPage:
    """What the settings page gets."""

    page: Page
    was: dict[str, str]
    """The settings as they are stored, by field."""
    fields: dict[str, str]
    """The same with what was typed and could not be stored."""
    values: list[SettingField]
    limits: dict[str, LimitSet]
    schools: dict[str, School]
    roles: str
    """The members' roles as they are stored, sent along with the form."""
    error: ErrorNote | None


@router.get("")
def shop_page(request: Request) -> Response:
    """Show the settings."""
    return _page(request, {})


@router.post("")
def keep_settings(request: Request, form: Form) -> Response:
    """Change the settings."""
    typed = {key: text_of(form, key) for key in form if key in FIELDS or key.startswith(SCHOOL)}
    was = {key.removeprefix(WAS): text_of(form, key) for key in form if key.startswith(WAS)}
    try:
        change_settings(workshop_of(request), typed, was)
    except REFUSALS as error:
        own = {key: text for key, text in typed.items() if was.get(key) != text}
        return _page(request, own, note_of(error, own))
    return go_to(request, "shop_page")


@router.post("/member")
def keep_member(request: Request, form: Form) -> Response:
    """Add a member."""
    try:
        name, roles = text_of(form, "name"), marks_of(form)
        was = None if roles is None else roles.get(name.strip(), "")
        add_member(workshop_of(request), name, text_of(form, "role"), was)
    except REFUSALS as error:
        return _page(request, {}, note_of(error, {}))
    return go_to(request, "shop_page")


@router.post("/author")
def choose_author(request: Request, form: Form) -> Response:
    """Choose who works at this browser."""
    request.session["author"] = text_of(form, "author")[:LONGEST_KEPT]
    return _back(request, form)


@router.post("/theme")
def choose_theme(request: Request, form: Form) -> Response:
    """Choose daylight or the dark room."""
    theme = text_of(form, "theme")
    request.session["theme"] = theme if theme in THEMES else THEMES[0]
    return _back(request, form)


def _back(request: Request, form: FormData) -> Response:
    back = text_of(form, "back")
    local = back.startswith("/") and not back.startswith(("//", "/\\"))
    return RedirectResponse(back if local else url_of(request, "bench_page"), status_code=303)


def _page(request: Request, typed: dict[str, str], error: ErrorNote | None = None) -> Response:
    workshop = workshop_of(request)
    was = as_typed(workshop, workshop.settings)
    context = ShopPage(
        page=Page("Settings"),
        was=was,
        fields={**was, **typed},
        values=[SettingField(key, FIELDS[key], {**was, **typed}[key]) for key in TYPED],
        limits=workshop.shelf.tables.limits.sets,
        schools=workshop.shelf.tables.schools.schools,
        roles=json.dumps({member.name: member.role for member in workshop.members}),
        error=error,
    )
    return render(request, "shop/page.html", context, status_of(error))
