"""The shop's settings and members, who works at this browser, and its theme."""

from dataclasses import asdict, dataclass

from fastapi import APIRouter, Request, Response
from fastapi.responses import RedirectResponse
from starlette.datastructures import FormData

from bottega.app.shop.settings import DAYS, PER_CENT, SCHOOL, add_member, change_settings
from bottega.core.library.limits import LimitSet
from bottega.core.library.school_record import School
from bottega.core.shop import ShopSettings
from bottega.web.kit.errors import REFUSALS, note_of
from bottega.web.kit.page import ErrorNote, Page, go_to, render, status_of, url_of, workshop_of
from bottega.web.kit.security import Form, text_of

router = APIRouter(prefix="/shop", include_in_schema=False)
FIELDS = {
    "name": "Name",
    "currency": "Currency",
    "per_eur": "Library euro in this currency",
    "rate_per_hour": "Labour an hour",
    "visit_fee": "Visit fee",
    "tax_rate": "Tax, per cent",
    "part_markup": "Markup on parts, per cent",
    "mains_v": "Mains V",
    "mains_hz": "Mains Hz",
    "prove_at": "A part is proved from, per cent",
}
EDITABLE = {*FIELDS, "units", "school", "parts", "seals", "ferry_days", "limits"}
THEMES = ("paper", "cellar")
LONGEST_KEPT = 60
"""Letters a browser's session keeps of a name; as long as a member's name may be."""


@dataclass(frozen=True)
class Setting:
    """One setting as it is typed."""

    key: str
    name: str
    value: str


@dataclass(frozen=True)
class ShopPage:
    """What the settings page gets."""

    page: Page
    settings: ShopSettings
    values: list[Setting]
    ferry: str
    seals: str
    limits: dict[str, LimitSet]
    schools: dict[str, School]
    sides: dict[str, str]
    """By disagreement, the side the shop takes."""
    error: ErrorNote | None


@router.get("")
def shop_page(request: Request) -> Response:
    """Show the settings."""
    return _page(request, {})


@router.post("")
def keep_settings(request: Request, form: Form) -> Response:
    """Change the settings."""
    typed = {key: text_of(form, key) for key in form if key in EDITABLE or key.startswith(SCHOOL)}
    try:
        change_settings(workshop_of(request), typed)
    except REFUSALS as error:
        return _page(request, typed, note_of(error, typed))
    return go_to(request, "shop_page")


@router.post("/member")
def keep_member(request: Request, form: Form) -> Response:
    """Add a member."""
    try:
        add_member(workshop_of(request), text_of(form, "name"), text_of(form, "role"))
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
    settings = workshop_of(request).settings
    present = asdict(settings)
    figures = {k: v * 100 if k in PER_CENT else v for k, v in present.items()}
    values = [Setting(k, name, typed.get(k, _plain(figures[k]))) for k, name in FIELDS.items()]
    ferry = typed.get("ferry_days", ", ".join(DAYS[day] for day in settings.ferry_days))
    limits = workshop_of(request).shelf.tables.limits.sets
    seals = typed.get("seals", ", ".join(settings.seals))
    schools = workshop_of(request).shelf.tables.schools.schools
    sides = {name: school.usual for name, school in schools.items()} | dict(settings.schools)
    context = ShopPage(
        Page("Settings"), settings, values, ferry, seals, limits, schools, sides, error
    )
    return render(request, "shop/page.html", context, status_of(error))


def _plain(value: object) -> str:
    return f"{value:g}" if isinstance(value, float) else str(value)
