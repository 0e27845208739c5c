"""The shop itself: its settings and its members."""

from collections.abc import Callable
from dataclasses import asdict, dataclass
from typing import Any, get_type_hints

from pydantic import TypeAdapter, ValidationError
from sqlalchemy import select

from bottega.core.gear import Instrument
from bottega.core.shop import ShopSettings
from bottega.store.database import Database
from bottega.store.tables import MemberRow, SettingsRow


@dataclass(frozen=True)
class Member:
    """One who works here."""

    name: str
    role: str


class ShopStore:
    """Reads and writes settings and members."""

    def __init__(self, database: Database) -> None:
        self._database = database

    def settings(self) -> ShopSettings:
        """Return the settings, or the defaults of a new shop. Keys of a newer version are left
        alone."""
        with self._database.reading() as session:
            row = session.get(SettingsRow, 1)
        return _settings(row.body if row else {})

    def change_settings(self, change: Callable[[ShopSettings], ShopSettings]) -> ShopSettings:
        """Read the settings, change them and store what comes of it, in one transaction that
        nobody writes in between; return the new ones. What ``change`` raises changes nothing."""
        with self._database.writing() as session:
            row = session.get(SettingsRow, 1)
            before = row.body if row and isinstance(row.body, dict) else {}
            changed = change(_settings(before))
            session.merge(SettingsRow(id=1, body={**before, **_body(changed)}))
        return changed

    def members(self) -> list[Member]:
        """Return the members in the order of their names."""
        with self._database.reading() as session:
            rows = session.scalars(select(MemberRow).order_by(MemberRow.name)).all()
        return [Member(row.name, row.role) for row in rows]

    def change_member(self, name: str, role: Callable[[str], str]) -> Member:
        """Store a member with the role that follows from the one that is stored (empty for nobody),
        in one transaction. What ``role`` raises changes nothing."""
        with self._database.writing() as session:
            row = session.get(MemberRow, name)
            changed = role(row.role if row else "")
            session.merge(MemberRow(name=name, role=changed))
        return Member(name, changed)


def _settings(stored: Any) -> ShopSettings:
    """Return settings from what is stored. A value that is none, spoilt by hand, is as if nobody
    had chosen it; an instrument that is none is left out."""
    body = stored if isinstance(stored, dict) else {}
    gear = body.get("gear", ())
    own = [one for one in gear if _fits(_INSTRUMENT, one)] if isinstance(gear, list) else []
    found = {name: body[name] for name, kind in _KINDS.items() if _fits(kind, body.get(name))}
    return ShopSettings(
        **{name: _KINDS[name].validate_python(value) for name, value in found.items()},
        gear=tuple(_INSTRUMENT.validate_python(one) for one in own),
    )


_INSTRUMENT = TypeAdapter(Instrument)
_KINDS: dict[str, TypeAdapter[Any]] = {
    name: TypeAdapter(kind) for name, kind in get_type_hints(ShopSettings).items() if name != "gear"
}


def _fits(kind: TypeAdapter[Any], value: Any) -> bool:
    try:
        kind.validate_python(value)
    except ValidationError:
        return False
    return True


def _body(settings: ShopSettings) -> dict[str, Any]:
    body = asdict(settings)
    for raw in body["gear"]:
        raw["calibrated"] = raw["calibrated"] and raw["calibrated"].isoformat()
    return body
