"""The workshop: everything the use cases share. One object per running application."""

import gc
from collections.abc import Callable
from dataclasses import dataclass, field
from datetime import UTC, datetime
from pathlib import Path

from bottega.app.watching import Bell
from bottega.core.job.state import Reaching
from bottega.core.library.machine_type import MachineType
from bottega.core.library.shelf import Shelf, shipped_shelf
from bottega.core.library.yamlfile import Source, parse_yaml
from bottega.core.shop import ShopSettings
from bottega.store.database import Database, open_database
from bottega.store.log import EventLog
from bottega.store.sheets import SheetStore
from bottega.store.shop import ShopStore


@dataclass
class Workshop:
    """Library, log, settings and clock, and the compiled models of the machine types in use."""

    shelf: Shelf
    database: Database
    clock: Callable[[], datetime]
    log: EventLog = field(init=False)
    shop: ShopStore = field(init=False)
    sheets: SheetStore = field(init=False)
    past: dict[str, MachineType] = field(default_factory=dict)
    """Machine types of earlier revisions by their hash: a job keeps the one it was diagnosed with."""
    reachings: dict[str, Reaching] = field(default_factory=dict)
    """Ways found so far, by the machine type's revision."""
    closed: dict[str, tuple[int, object]] = field(default_factory=dict)
    """Jobs handed over as ``app.history`` reads them, by number with the position of their log."""
    answers: dict[tuple[str, int], object] = field(default_factory=dict)

    bell: Bell = field(default_factory=Bell)

    def __post_init__(self) -> None:
        self.log = EventLog(self.database)
        self.shop = ShopStore(self.database)
        self.sheets = SheetStore(self.database)
        for revision in self.sheets.all():
            self.take(parse_yaml(revision.text.encode(), f"{revision.sheet}.yaml"))

    def take(self, source: Source) -> None:
        """Put a sheet on the shelf; the machine type it replaces stays for the jobs that were diagnosed with it."""
        before = self.shelf
        name = source.data.get("sheet") if isinstance(source.data, dict) else None
        after = before.with_sheet(source)
        if name in before.sheets:
            replaced = before.machine(before.sheets[name].archetype, name)
            self.past[replaced.revision] = replaced
        self.shelf = after
        self.answers.clear()
        self.closed.clear()

    def machine(self, archetype: str, sheet: str | None, revision: str = "") -> MachineType:
        """Return the machine type of a sheet or an archetype, at a past revision if that is known. Raises UnknownMachine."""
        machine = self.shelf.machine(archetype, sheet)
        return self.past.get(revision, machine) if revision != machine.revision else machine

    def reaching(self, machine: MachineType) -> Reaching:
        """Return what finds the ways on a machine type; one for all its jobs, so that each way is found once."""
        key = f"{machine.archetype}/{machine.sheet}/{machine.revision}"
        if key not in self.reachings:
            self.reachings[key] = Reaching(machine, self.shelf.tables)
        return self.reachings[key]

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


def settle() -> None:
    """Tell the collector that what is loaded by now stays, so that it does not walk the whole library again and again."""
    gc.collect()
    gc.freeze()
