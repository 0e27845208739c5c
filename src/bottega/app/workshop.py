"""The workshop: everything the use cases share. One object per running application."""

from collections.abc import Callable
from dataclasses import dataclass, field
from datetime import UTC, datetime
from pathlib import Path

from bottega.core.library.machine_type import MachineType
from bottega.core.library.shelf import Shelf, shipped_shelf
from bottega.core.shop import ShopSettings
from bottega.store.database import Database, open_database
from bottega.store.log import EventLog
from bottega.store.shop import ShopStore


@dataclass
class Workshop:
    """Library, log, settings and clock, and the compiled models of the machine types in use."""

    shelf: Shelf
    database: Database
    clock: Callable[[], datetime]
    log: EventLog = field(init=False)
    shop: ShopStore = field(init=False)
    answers: dict[tuple[str, int], object] = field(default_factory=dict)

    def __post_init__(self) -> None:
        self.log = EventLog(self.database)
        self.shop = ShopStore(self.database)

    def machine(self, archetype: str, sheet: str | None) -> MachineType:
        """Return the machine type of a sheet or an archetype. Raises UnknownMachine."""
        return self.shelf.machine(archetype, sheet)

    @property
    def settings(self) -> ShopSettings:
        """Return the shop's settings as stored."""
        return self.shop.settings()

    def now(self) -> datetime:
        """Return the time, with its zone."""
        return self.clock()

    def close(self) -> None:
        """Let the database go."""
        self.database.close()


def open_workshop(folder: Path | None, clock: Callable[[], datetime] | None = None) -> Workshop:
    """Open the workshop in a data folder, or in memory for None."""
    return Workshop(shipped_shelf(), open_database(folder), clock or (lambda: datetime.now(UTC)))
