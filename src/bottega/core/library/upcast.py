"""Sheets as older versions wrote them, made into those of today when they are read. The text stays
as written."""

from collections.abc import Callable, Mapping, Sequence
from typing import Any

Upcaster = Callable[[Mapping[str, Any]], dict[str, Any]]
"""Makes the data of a sheet of one version into that of the next."""

SHEET_UPCASTERS: tuple[Upcaster, ...] = ()
"""One a version; none yet, since a sheet of 0.1 is read as it stands."""
SHEET_VERSION = 1 + len(SHEET_UPCASTERS)


class NewerSheet(ValueError):
    """A sheet of a version this Bottega does not know yet."""


def upcasted_sheet(
    data: Mapping[str, Any], version: int, chain: Sequence[Upcaster] = SHEET_UPCASTERS
) -> dict[str, Any]:
    """Return the data of a sheet of ``version`` (from 1) as one of the newest. Raises NewerSheet
    for one newer still."""
    newest = 1 + len(chain)
    if not 1 <= version <= newest:
        raise NewerSheet(f"found a sheet of version {version}, expected at most {newest}")
    found = dict(data)
    for upcaster in chain[version - 1 :]:
        found = upcaster(found)
    return found
