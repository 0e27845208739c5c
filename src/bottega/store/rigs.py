"""The machines of physics a shop has drawn."""

from dataclasses import dataclass
from typing import Any

from sqlalchemy import select

from bottega.store.database import Database
from bottega.store.tables import RigRow

OF_JOB = "SELECT name FROM rigs WHERE job = ? LIMIT 1"
"""Each page of a job asks it."""


@dataclass(frozen=True)
class RigTicket:
    """What makes a machine of physics what it is; the same ticket is the same machine."""

    name: str
    archetype: str
    sheet: str | None
    seed: str
    faults: dict[str, float]
    job: str | None = None


class MovedSince(RuntimeError):
    """Somebody else acted on the machine since it was read."""


class RigStore:
    """Reads and writes the tickets of machines of physics."""

    def __init__(self, database: Database) -> None:
        self._database = database

    def keep(self, ticket: RigTicket) -> None:
        """Store a ticket, or what is new of one."""
        with self._database.writing() as session:
            session.merge(
                RigRow(
                    name=ticket.name,
                    archetype=ticket.archetype,
                    sheet=ticket.sheet,
                    seed=ticket.seed,
                    faults=ticket.faults,
                    job=ticket.job,
                )
            )

    def leave(self, name: str, acts: int, left: dict[str, Any]) -> None:
        """Store how a machine stands after its act number ``acts``, as plain data. Raises
        MovedSince where that is not the next of its acts."""
        with self._database.writing() as session:
            row = session.get(RigRow, name)
            if row is None or row.acts != acts - 1:
                raise MovedSince(f"found act {row.acts if row else 0}, expected {acts - 1}")
            row.acts, row.left = acts, left

    def left(self, name: str) -> tuple[int, Any]:
        """Return how many acts there were at a machine, and how the last one left it; None where
        there were none."""
        with self._database.reading() as session:
            row = session.get(RigRow, name)
        return (row.acts, row.left) if row else (0, None)

    def ticket(self, name: str) -> RigTicket | None:
        """Return a ticket by its name, or None."""
        with self._database.reading() as session:
            row = session.get(RigRow, name)
        return _ticket(row)

    def of_job(self, number: str) -> RigTicket | None:
        """Return the ticket a job is bound to, or None."""
        found = self._database.row(OF_JOB, number)
        return self.ticket(found[0]) if found else None

    def all(self) -> list[RigTicket]:
        """Return every ticket, in the order of their names."""
        with self._database.reading() as session:
            rows = session.scalars(select(RigRow).order_by(RigRow.name)).all()
        return [ticket for row in rows if (ticket := _ticket(row)) is not None]


def _ticket(row: RigRow | None) -> RigTicket | None:
    """Return a ticket; None where there is none, or its faults were spoilt by hand."""
    if row is None or not isinstance(row.faults, dict):
        return None
    return RigTicket(row.name, row.archetype, row.sheet, row.seed, dict(row.faults), row.job)
