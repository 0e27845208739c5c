"""The shop itself: its settings and its members."""

from collections.abc import Callable
from dataclasses import asdict, dataclass, fields
from datetime import date
from typing import Any

from sqlalchemy import select

from bottega.core.gear import Instrument
from bottega.core.shop import ShopSettings
from bottega.store.database import Database
from bottega.store.tables import MemberRow, SettingsRow

INSTRUMENT = {field.name for field in fields(Instrument)}


@dataclass(frozen=True)
class Member:
    """One who works here."""

    name: str
    role: str


def _instrument(raw: dict[str, Any]) -> Instrument:
    known = {key: value for key, value in raw.items() if key in INSTRUMENT}
    day = known.get("calibrated")
    known["calibrated"] = date.fromisoformat(day) if day else None
    return Instrument(**{**known, "measures": tuple(known["measures"])})


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
            before = row.body if row else {}
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


def _settings(stored: dict[str, Any]) -> ShopSettings:
    known = {field.name for field in fields(ShopSettings)}
    body = {key: value for key, value in stored.items() if key in known}
    for listed in ("ferry_days", "seals"):
        if listed in body:
            body[listed] = tuple(body[listed])
    for paired in ("pace", "schools"):
        body[paired] = tuple((name, value) for name, value in body.get(paired, ()))
    body["gear"] = tuple(_instrument(raw) for raw in body.get("gear", ()))
    return ShopSettings(**body)


def _body(settings: ShopSettings) -> dict[str, Any]:
    body = asdict(settings)
    for raw in body["gear"]:
        raw["calibrated"] = raw["calibrated"] and raw["calibrated"].isoformat()
    return body
