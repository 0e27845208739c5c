"""The shop's settings and members, who works at this browser, and its theme."""

from dataclasses import asdict, dataclass

from fastapi import APIRouter, Depends, Request, Response
from fastapi.responses import RedirectResponse

from bottega.app.errors import AppError
from bottega.app.settling import DAYS, add_member, change_settings
from bottega.core.shop import ShopSettings
from bottega.web.rendering import ErrorNote, Page, render, workshop_of
from bottega.web.security import checked_form

router = APIRouter(prefix="/shop", include_in_schema=False)
FIELDS = (
    ("name", "Name"),
    ("currency", "Currency"),
    ("per_eur", "Library euro in this currency"),
    ("rate_per_hour", "Labour an hour"),
    ("visit_fee", "Visit fee"),
    ("tax_rate", "Tax, as a share"),
    ("part_markup", "Markup on parts, as a share"),
    ("mains_v", "Mains V"),
    ("mains_hz", "Mains Hz"),
    ("prove_at", "A part is proved from, as a share"),
)

EDITABLE = {key for key, _ in FIELDS} | {"units", "school", "ferry_days"}


@dataclass(frozen=True)
class ShopPage:
    """What the settings page gets."""

    page: Page
    settings: ShopSettings
    values: list[tuple[str, str, str]]
    ferry: str
    error: ErrorNote | None


@router.get("")
def shop_page(request: Request) -> Response:
    """Show the settings."""
    return _page(request, {}, None, 200)


@router.post("", dependencies=[Depends(checked_form)])
async def keep_settings(request: Request) -> Response:
    """Change the settings."""
    typed = {key: str(value) for key, value in (await request.form()).items() if key in EDITABLE}
    try:
        change_settings(workshop_of(request), typed)
    except AppError as error:
        return _page(request, typed, ErrorNote(str(error), error.field, typed), error.status)
    return RedirectResponse("/shop", status_code=303)


@router.post("/member", dependencies=[Depends(checked_form)])
async def keep_member(request: Request) -> Response:
    """Add a member."""
    form = await request.form()
    try:
        add_member(workshop_of(request), str(form.get("name", "")), str(form.get("role", "")))
    except AppError as error:
        return _page(request, {}, ErrorNote(str(error), error.field, {}), error.status)
    return RedirectResponse("/shop", status_code=303)


@router.post("/author", dependencies=[Depends(checked_form)])
async def choose_author(request: Request) -> Response:
    """Choose who works at this browser."""
    return await _keep(request, "author")


@router.post("/theme", dependencies=[Depends(checked_form)])
async def choose_theme(request: Request) -> Response:
    """Choose daylight or the dark room."""
    return await _keep(request, "theme")


async def _keep(request: Request, key: str) -> Response:
    form = await request.form()
    back = str(form.get("back", "/"))
    local = back.startswith("/") and not back.startswith(("//", "/\\"))
    value = str(form.get(key, ""))[:60]
    if key == "theme" and value not in ("paper", "cellar"):
        value = "paper"
    request.state.session.data[key] = value
    response = RedirectResponse(back if local else "/", status_code=303)
    request.state.session.store(response)
    return response


def _page(request: Request, typed: dict[str, str], error: ErrorNote | None, status: int) -> Response:
    settings = workshop_of(request).settings
    present = asdict(settings)
    values = [(key, name, typed.get(key, _plain(present[key]))) for key, name in FIELDS]
    ferry = typed.get("ferry_days", ", ".join(DAYS[day] for day in settings.ferry_days))
    return render(request, "shop/page.html", ShopPage(Page("Settings", "shop"), settings, values, ferry, error), status)


def _plain(value: object) -> str:
    return f"{value:g}" if isinstance(value, float) else str(value)
