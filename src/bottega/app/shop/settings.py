"""Settle how the shop works: its settings and its members."""

import re

from babel.numbers import is_currency

from bottega.app.errors import BadValue
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


def change_settings(workshop: Workshop, typed: dict[str, str]) -> ShopSettings:
    """Store the settings typed; what is not typed stays. Raises BadValue naming the field."""
    values = {**workshop.settings.__dict__}
    for key, text in typed.items():
        if key in RANGES:
            figure = number(text, key, *RANGES[key])
            values[key] = figure / 100 if key in PER_CENT else figure
        elif key in CHOICES:
            if text not in CHOICES[key]:
                raise BadValue(
                    f"Found '{text}' for {key}, expected {' or '.join(CHOICES[key])}.", key
                )
            values[key] = text
        elif key == "limits":
            sets = workshop.shelf.tables.limits.sets
            if text not in sets:
                raise BadValue(f"Found '{text[:30]}' for the limits, expected {one_of(sets)}.", key)
            values[key] = text
        elif key == "currency":
            if not is_currency(text.strip().upper()):
                raise BadValue(
                    f"Found '{text}' for the currency, expected three letters such as EUR or USD.",
                    key,
                )
            values[key] = text.strip().upper()
        elif key.startswith(SCHOOL):
            values["schools"] = _school(workshop, key.removeprefix(SCHOOL), text, values["schools"])
        elif key == "seals":
            values[key] = _seals(workshop, text)
        elif key == "ferry_days":
            values[key] = _days(text)
        elif key == "name":
            if not 1 <= len(text.strip()) <= 60:
                raise BadValue("The shop wants a name of 1 to 60 letters.", key)
            values[key] = text.strip()
        else:
            raise BadValue(f"Found the setting '{key}', expected one of the shop's.", key)
    settings = ShopSettings(**values)
    workshop.keep_settings(settings)
    return settings


def _school(
    workshop: Workshop, name: str, text: str, before: tuple[tuple[str, str], ...]
) -> tuple[tuple[str, str], ...]:
    known = workshop.shelf.tables.schools.schools
    if name not in known or text not in known[name].choices:
        expected = one_of(known[name].choices) if name in known else one_of(known)
        raise BadValue(f"Found {shown(text)}, expected {expected}.", f"{SCHOOL}{name}")
    return tuple({**dict(before), name: text}.items())


def add_member(workshop: Workshop, name: str, role: str) -> Member:
    """Store a member. Raises BadValue for an empty or overlong name or role."""
    if not 1 <= len(name.strip()) <= 60 or not 1 <= len(role.strip()) <= 40:
        raise BadValue("A member wants a name of 1 to 60 letters and a role of 1 to 40.", "name")
    member = Member(name.strip(), role.strip())
    workshop.keep_member(member)
    return member


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
