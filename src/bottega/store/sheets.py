"""Model sheets written in this shop: every save is a revision with its author."""

from dataclasses import dataclass
from datetime import UTC, datetime

from sqlalchemy import func, select
from sqlalchemy.exc import IntegrityError

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


class SheetStore:
    """Appends and reads revisions of sheets."""

    def __init__(self, database: Database) -> None:
        self._database = database

    def append(self, sheet: str, text: str, author: str, at: datetime, after_seq: int) -> int:
        """Store a revision after ``after_seq`` and return its number. Raises SheetMoved."""
        if self.seq(sheet) != after_seq:
            raise SheetMoved(sheet)
        try:
            with self._database.sessions.begin() as session:
                session.add(SheetRow(sheet=sheet, seq=after_seq + 1, at=at.astimezone(UTC), author=author, text=text))
        except IntegrityError as error:
            raise SheetMoved(sheet) from error
        return after_seq + 1

    def seq(self, sheet: str) -> int:
        """Return how many revisions of a sheet were saved here."""
        with self._database.sessions() as session:
            return session.scalar(select(func.max(SheetRow.seq)).where(SheetRow.sheet == sheet)) or 0

    def all(self) -> list[SheetRevision]:
        """Return every revision of every sheet in the order they were saved."""
        with self._database.sessions() as session:
            rows = session.scalars(select(SheetRow).order_by(SheetRow.id)).all()
        return [SheetRevision(r.sheet, r.seq, r.at.replace(tzinfo=UTC), r.author, r.text) for r in rows]

    def of(self, sheet: str) -> list[SheetRevision]:
        """Return the revisions of one sheet, newest first."""
        return [revision for revision in reversed(self.all()) if revision.sheet == sheet]
