"""Settle how the shop works: its settings and its members."""

import re
from typing import Any

from babel.numbers import is_currency

from bottega.app.errors import BadValue, Stale
from bottega.app.values import number, shown
from bottega.app.workshop import Workshop
from bottega.core.library.errors import one_of
from bottega.core.shop import ShopSettings
from bottega.store.shop import Member

SIZE = re.compile(r"(\d+(?:\.\d+)?)\s*x\s*(\d+(?:\.\d+)?)\s*x\s*(\d+(?:\.\d+)?)")
"""Shaft, bore and width of a seal in mm, as one writes it."""
SCHOOL = "school_"
"""How the field of a disagreement begins, before its name."""
DAYS = ("Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun")
RANGES = {
    "per_eur": (0.0001, 100000.0),
    "rate_per_hour": (0.0, 100000.0),
    "visit_fee": (0.0, 100000.0),
    "tax_rate": (0.0, 60.0),
    "part_markup": (0.0, 300.0),
    "mains_v": (90.0, 260.0),
    "mains_hz": (45.0, 65.0),
    "prove_at": (50.0, 99.9),
}
"""Least and most of each figure, as it is typed; chosen, mains by the world's supplies (IEC 60038)
with their tolerance."""
PER_CENT = ("tax_rate", "part_markup", "prove_at")
"""Figures typed in per cent and kept as shares of one."""
CHOICES = {
    "units": ("metric", "us"),
    "school": ("prove_first", "swap_cheap"),
    "parts": ("equivalent", "makers"),
}


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
    "units": "Units",
    "school": "School",
    "parts": "Parts",
    "seals": "Shaft seals on the shelf",
    "limits": "Limits of the electrical check",
    "ferry_days": "Days on which parts arrive",
}
"""What can be typed of the settings, beside the schools, and what each is called."""


def as_typed(workshop: Workshop, settings: ShopSettings) -> dict[str, str]:
    """Return the settings as a form shows them, by field."""
    shown = {key: _plain(key, getattr(settings, key)) for key in FIELDS}
    schools = workshop.shelf.tables.schools.schools
    sides = {name: school.usual for name, school in schools.items()} | dict(settings.schools)
    return shown | {f"{SCHOOL}{name}": side for name, side in sides.items()}


def change_settings(
    workshop: Workshop, typed: dict[str, str], was: dict[str, str] | None = None
) -> ShopSettings:
    """Store the settings typed; what is not typed stays. ``was`` is what the form showed before: of
    its fields only what was typed otherwise counts.

    Raises BadValue naming the field, and Stale with both values where somebody else has changed the
    same one since.
    """
    before = was or {}
    own = {key: text for key, text in typed.items() if before.get(key) != text}

    def change(settings: ShopSettings) -> ShopSettings:
        now = as_typed(workshop, settings)
        for key, text in own.items():
            if before.get(key, now.get(key)) != now.get(key) != text:
                raise Stale(
                    f"{_called(workshop, key)}: somebody else has put {shown(now.get(key, ''))} "
                    f"since you opened the form, and you typed {shown(text)}. Nothing of yours was "
                    "written; send it again if yours is to stand."
                )
        return _changed(workshop, settings, own)

    return workshop.change_settings(change)


def _changed(workshop: Workshop, settings: ShopSettings, typed: dict[str, str]) -> ShopSettings:
    values = {**settings.__dict__}
    for key, text in typed.items():
        if key.startswith(SCHOOL):
            values["schools"] = _school(workshop, key.removeprefix(SCHOOL), text, values["schools"])
        elif key in FIELDS:
            values[key] = _value(workshop, key, text)
        else:
            raise BadValue(f"Found the setting '{key[:40]}', expected one of the shop's.", key)
    return ShopSettings(**values)


def _value(workshop: Workshop, key: str, text: str) -> object:
    """Return one setting from what was typed. Raises BadValue."""
    if key in RANGES:
        figure = number(text, key, *RANGES[key])
        return figure / 100 if key in PER_CENT else figure
    if key in CHOICES:
        return _one_of(key, text, CHOICES[key])
    if key == "limits":
        return _one_of(key, text, tuple(workshop.shelf.tables.limits.sets))
    if key == "currency":
        if not is_currency(text.strip().upper()):
            raise BadValue(
                f"Found {shown(text)} for the currency, expected three letters such as EUR or USD.",
                key,
            )
        return text.strip().upper()
    if key == "seals":
        return _seals(workshop, text)
    if key == "ferry_days":
        return _days(text)
    if not 1 <= len(text.strip()) <= 60:
        raise BadValue("The shop wants a name of 1 to 60 letters.", key)
    return text.strip()


def _one_of(key: str, text: str, known: tuple[str, ...]) -> str:
    if text not in known:
        raise BadValue(f"Found {shown(text)} for the {key}, expected {one_of(known)}.", key)
    return text


def _called(workshop: Workshop, key: str) -> str:
    if key.startswith(SCHOOL):
        school = workshop.shelf.tables.schools.schools.get(key.removeprefix(SCHOOL))
        return school.name if school else "A school"
    return FIELDS.get(key, key)


def _plain(key: str, value: Any) -> str:
    if key == "ferry_days":
        return ", ".join(DAYS[day] for day in value)
    if key == "seals":
        return ", ".join(value)
    if key in PER_CENT:
        return f"{value * 100:g}"
    return f"{value:g}" if isinstance(value, float) else str(value)


def _school(
    workshop: Workshop, name: str, text: str, before: tuple[tuple[str, str], ...]
) -> tuple[tuple[str, str], ...]:
    known = workshop.shelf.tables.schools.schools
    if name not in known or text not in known[name].choices:
        expected = one_of(known[name].choices) if name in known else one_of(known)
        raise BadValue(f"Found {shown(text)}, expected {expected}.", f"{SCHOOL}{name}")
    return tuple({**dict(before), name: text}.items())


def add_member(workshop: Workshop, name: str, role: str, was: str | None = None) -> Member:
    """Store a member, or another role of one; ``was`` is the role the form showed, empty for
    nobody. Raises BadValue for an empty or overlong name or role, Stale where somebody else gave
    another role since."""
    name, role = name.strip(), role.strip()
    if not 1 <= len(name) <= 60 or not 1 <= len(role) <= 40:
        raise BadValue("A member wants a name of 1 to 60 letters and a role of 1 to 40.", "name")

    def change(now: str) -> str:
        if was is not None and was != now != role:
            raise Stale(
                f"{name} is {shown(now)} since somebody else wrote it, and you typed "
                f"{shown(role)}. Nothing of yours was written; send it again if yours is to stand."
            )
        return role

    return workshop.change_member(name, change)


def _days(text: str) -> tuple[int, ...]:
    days = []
    for word in text.replace(",", " ").split():
        name = word[:3].capitalize()
        if name not in DAYS:
            raise BadValue(f"Found the day '{word}', expected days such as Tue, Fri.", "ferry_days")
        days.append(DAYS.index(name))
    return tuple(dict.fromkeys(days))


def _seals(workshop: Workshop, text: str) -> tuple[str, ...]:
    sizes = []
    for word in text.replace(";", ",").split(","):
        if not word.strip():
            continue
        match = SIZE.fullmatch(word.strip().lower())
        if match is None:
            raise BadValue(
                f"Found {shown(word.strip())}, expected sizes such as 35x62x7, 30x52x7.", "seals"
            )
        size = tuple(float(figure) for figure in match.groups())
        shaft, bore, width = size
        if width not in workshop.shelf.tables.seals.sizes.get(shaft, {}).get(bore, {}):
            raise BadValue(f"Found {shown(word.strip())}, which no dealer stocks.", "seals")
        sizes.append("x".join(f"{figure:g}" for figure in size))
    return tuple(dict.fromkeys(sizes))
