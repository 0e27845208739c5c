"""Figures and times as they are said on pages: filters of the templates."""

from datetime import date, datetime
from functools import lru_cache

from babel.dates import format_date
from babel.numbers import format_currency

from bottega.core.measure.units import amount_in, limits_in
from bottega.core.shop import ShopSettings

LOCALE = "en_IE"
"""English with the day before the month and the currency sign before the amount."""


def minutes_words(minutes: float | None) -> str:
    """Return minutes as "4 min" or "2 h 10"."""
    if minutes is None:
        return ""
    whole = max(1, round(minutes))
    return f"{whole} min" if whole < 60 else f"{whole // 60} h {whole % 60:02d}"


def money(amount: float, shop: ShopSettings, digits: bool = True) -> str:
    """Return an amount in the shop's currency."""
    return _money(round(amount, 2), shop.currency, digits)


def money_in(amount: float, currency: str) -> str:
    """Return an amount in the currency it was noted in, whatever the shop's is by now."""
    return _money(round(amount, 2), currency, True)


@lru_cache(maxsize=4096)
def _money(amount: float, currency: str, digits: bool) -> str:
    if digits:
        return str(format_currency(amount, currency, locale=LOCALE))
    whole = format_currency(
        round(amount), currency, locale=LOCALE, format="¤#,##0", currency_digits=False
    )
    return str(whole)


def amount(number: float, unit: str, shop: ShopSettings) -> str:
    """Return an amount in the shop's units, with three digits."""
    return amount_in(number, unit, shop.units)


def span(low: float, high: float, unit: str, shop: ShopSettings) -> str:
    """Return two limits in the shop's units, with the digits they deserve."""
    return limits_in(low, high, unit, shop.units)


def bar(share: float, longest: float) -> float:
    """Return the width of a bar that shows a share of ``longest`` (pixels), seen even when it is
    nothing."""
    return round(max(share * longest, 1.0), 1)


def figure(amount: float) -> str:
    """Return a figure with at most six digits and no zeros behind it: 184, 0.5, 1.05e+06."""
    return f"{amount:g}"


def decibans(amount: float) -> str:
    """Return a weight with its sign, "+12" or "±0"."""
    return f"{amount:+.0f}" if abs(amount) >= 0.5 else "±0"


def clock(moment: datetime) -> str:
    """Return the time of day as 09:12."""
    return moment.astimezone().strftime("%H:%M")


def day(moment: date | datetime | str) -> str:
    """Return a day as "Wed 14 May"."""
    if isinstance(moment, str):
        moment = date.fromisoformat(moment)
    return str(format_date(moment, "EEE d MMM", locale=LOCALE))


def full_date(moment: date | datetime) -> str:
    """Return a day as "14 May 2031"."""
    return str(format_date(moment, "d MMMM y", locale=LOCALE))


def short_day(moment: datetime, now: datetime) -> str:
    """Return the time of day for today, and "14 May" otherwise."""
    local = moment.astimezone()
    if local.date() == now.astimezone().date():
        return clock(moment)
    return str(format_date(local, "d MMM", locale=LOCALE))


def phase(name: str) -> str:
    """Return a phase of the cycle as a heading; ``any`` speaks of no phase."""
    return "at any time" if name == "any" else name


def stamp(mark: str) -> str:
    """Return the mark of a station in words."""
    return "not for this machine" if mark == "none" else mark
