"""Model sheets written in this shop: every save is a revision with its author."""

from dataclasses import dataclass
from datetime import UTC, datetime

from sqlalchemy import func, select

from bottega.core.library.upcast import SHEET_VERSION
from bottega.store.database import Database
from bottega.store.tables import SheetRow


class SheetMoved(RuntimeError):
    """Somebody else saved this sheet in between."""


@dataclass(frozen=True)
class SheetRevision:
    """One saved revision of a sheet; ``text`` is the YAML as written, comments and all."""

    sheet: str
    seq: int
    at: datetime
    author: str
    text: str
    version: int


class SheetStore:
    """Appends and reads revisions of sheets."""

    def __init__(self, database: Database) -> None:
        self._database = database

    def append(self, sheet: str, text: str, author: str, at: datetime, after_seq: int) -> int:
        """Store a revision after ``after_seq`` and return its number. Raises SheetMoved,
        StoreUnavailable."""
        with self._database.writing() as session:
            last = (
                session.scalar(select(func.max(SheetRow.seq)).where(SheetRow.sheet == sheet)) or 0
            )
            if last != after_seq:
                raise SheetMoved(sheet)
            session.add(
                SheetRow(
                    sheet=sheet,
                    seq=after_seq + 1,
                    at=at.astimezone(UTC),
                    author=author,
                    text=text,
                    version=SHEET_VERSION,
                )
            )
        return after_seq + 1

    def seq(self, sheet: str) -> int:
        """Return how many revisions of a sheet were saved here."""
        with self._database.reading() as session:
            return (
                session.scalar(select(func.max(SheetRow.seq)).where(SheetRow.sheet == sheet)) or 0
            )

    def names(self) -> list[str]:
        """Return the ids of all sheets saved here, in the order of their first revision."""
        with self._database.reading() as session:
            first = func.min(SheetRow.id)
            return list(
                session.scalars(select(SheetRow.sheet).group_by(SheetRow.sheet).order_by(first))
            )

    def of(self, sheet: str) -> list[SheetRevision]:
        """Return the revisions of one sheet, newest first."""
        with self._database.reading() as session:
            wanted = select(SheetRow).where(SheetRow.sheet == sheet).order_by(SheetRow.seq.desc())
            rows = session.scalars(wanted).all()
        return [
            SheetRevision(r.sheet, r.seq, r.at.replace(tzinfo=UTC), r.author, r.text, r.version)
            for r in rows
        ]
