"""The shop itself: its settings and its members."""

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
        known = {field.name for field in fields(ShopSettings)}
        body = {key: value for key, value in (row.body if row else {}).items() if key in known}
        for listed in ("ferry_days", "seals"):
            if listed in body:
                body[listed] = tuple(body[listed])
        for paired in ("pace", "schools"):
            body[paired] = tuple((name, value) for name, value in body.get(paired, ()))
        body["gear"] = tuple(_instrument(raw) for raw in body.get("gear", ()))
        return ShopSettings(**body)

    def keep_settings(self, settings: ShopSettings) -> None:
        """Store the settings."""
        with self._database.writing() as session:
            body = asdict(settings)
            for raw in body["gear"]:
                raw["calibrated"] = raw["calibrated"] and raw["calibrated"].isoformat()
            session.merge(SettingsRow(id=1, body=body))

    def members(self) -> list[Member]:
        """Return the members in the order of their names."""
        with self._database.reading() as session:
            rows = session.scalars(select(MemberRow).order_by(MemberRow.name)).all()
        return [Member(row.name, row.role) for row in rows]

    def keep_member(self, member: Member) -> None:
        """Store a member, or change the role of one."""
        with self._database.writing() as session:
            session.merge(MemberRow(name=member.name, role=member.role))
