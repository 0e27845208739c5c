"""The workshop: everything the use cases share. One object per running application."""

import gc
from collections.abc import Callable, Hashable
from dataclasses import dataclass, field
from datetime import UTC, datetime
from pathlib import Path
from threading import RLock
from typing import Any

from threadpoolctl import threadpool_limits

from bottega.app.answer import Answer, AnswerKey, Believed
from bottega.app.live.bell import Bell
from bottega.core.diagnosis.engine import Engine
from bottega.core.diagnosis.plan import Plan
from bottega.core.kept import Kept
from bottega.core.library.consistency import breaks_pages
from bottega.core.library.errors import LibraryError, Problem
from bottega.core.library.lacks import Lacks
from bottega.core.library.machine_type import MachineType
from bottega.core.library.shelf import Shelf, shipped_shelf
from bottega.core.library.yamlfile import YamlSource, parse_yaml
from bottega.core.machine.reach import Reaching
from bottega.core.shop import ShopSettings
from bottega.devices.link import Links
from bottega.store.database import Database, open_database
from bottega.store.log import EventLog
from bottega.store.photos import Photos
from bottega.store.rigs import RigStore
from bottega.store.sheets import SheetRevision, SheetStore
from bottega.store.shop import Member, ShopStore
from bottega.store.summaries import Summaries

ANSWERS_KEPT = 128
"""Chosen: a hundred people at work, each on a job, at about half a megabyte an answer."""
BELIEFS_KEPT = 64
"""Chosen: the last of every job that is being worked on; the answers kept hold the same."""
ANSWER_BYTES = 500_000
"""What an answer takes beside what each finding changes; measured."""
ANSWERS_BYTES, BELIEFS_BYTES = 120_000_000, 60_000_000
"""Bytes of what is kept; chosen, so that a few jobs of a hundred readings do not fill the
memory."""
WAYS_KEPT = 32
"""Machine types whose ways are remembered; chosen, a shop meets about a dozen kinds a week."""
OWN_KEPT = 32
"""Machine types whose readings are remembered; chosen like the ways."""
PAST_KEPT = 64
"""Machine types of earlier revisions; chosen, so that a year of open jobs fits."""


@dataclass(frozen=True)
class Quarantined:
    """A revision of a sheet that is kept but does not load any more, and why. Its text is not
    changed."""

    sheet: str
    seq: int
    author: str
    problems: tuple[Problem, ...]


@dataclass
class Workshop:
    """Library, log, settings and clock, and what was worked out and is kept for now."""

    shelf: Shelf
    database: Database
    clock: Callable[[], datetime]
    photos: Photos = field(default_factory=lambda: Photos(None))
    log: EventLog = field(init=False)
    summaries: Summaries = field(init=False)
    shop: ShopStore = field(init=False)
    sheets: SheetStore = field(init=False)
    rigs: RigStore = field(init=False)
    stands: dict[str, Any] = field(default_factory=dict)
    """Machines of physics that are being worked at, by name; they live as long as the
    application does."""
    stands_turn: RLock = field(default_factory=RLock)
    bell: Bell = field(default_factory=Bell)
    probed: str = ""
    """The machine of physics a meter's leads were laid on last, by name."""
    links: Links = field(default_factory=Links)
    """The lines to the shop's instruments."""
    edition: int = 0
    """Counts up whenever the shelf changes; part of the key of whatever follows from the shelf."""
    quarantine: dict[str, Quarantined] = field(default_factory=dict)
    """Sheets whose newest revision does not load, by id."""
    engine: Engine = field(default_factory=Engine)
    """The compiled machine types, and what was worked out with them."""
    answers: Kept[AnswerKey, Answer] = field(
        default_factory=lambda: Kept(ANSWERS_KEPT, ANSWERS_BYTES, weight)
    )
    beliefs: Kept[tuple[Hashable, ...], Believed] = field(
        default_factory=lambda: Kept(BELIEFS_KEPT, BELIEFS_BYTES, weight)
    )
    plans: Kept[tuple[Hashable, ...], Plan] = field(default_factory=lambda: Kept(BELIEFS_KEPT))
    own_readings: Kept[tuple[str, str, int], dict[str, list[float]]] = field(
        default_factory=lambda: Kept(OWN_KEPT)
    )
    """Good readings of the shop by kind, sheet, and how many jobs are handed over."""
    lacks: Kept[int, Lacks] = field(default_factory=lambda: Kept(1))
    """What the library lacks, by edition."""
    _past: Kept[tuple[str, str, str], MachineType | None] = field(
        default_factory=lambda: Kept(PAST_KEPT)
    )
    _ways: Kept[tuple[str, str | None, str], Reaching] = field(
        default_factory=lambda: Kept(WAYS_KEPT)
    )
    sheets_turn: RLock = field(default_factory=RLock)
    """Held from the reading of a sheet to the writing of what comes of it."""
    _lock: RLock = field(default_factory=RLock)
    _settings: ShopSettings | None = None
    _members: list[Member] | None = None

    def __post_init__(self) -> None:
        self.log = EventLog(self.database)
        self.summaries = Summaries(self.database)
        self.shop = ShopStore(self.database)
        self.sheets = SheetStore(self.database)
        self.rigs = RigStore(self.database)
        for sheet in self.sheets.names():
            self._load(sheet)

    def _load(self, sheet: str) -> None:
        """Put the newest revision of a sheet that loads on the shelf; one that does not is
        quarantined and named."""
        for revision in self.sheets.of(sheet):
            try:
                source = source_of(revision)
                problems = breaks_pages(self.shelf.with_sheet(source), sheet)
                if problems:
                    raise LibraryError(problems)
                self.take(source)
            except LibraryError as error:
                problems = error.problems
                found = Quarantined(sheet, revision.seq, revision.author, tuple(problems))
                self.quarantine.setdefault(sheet, found)
            else:
                return

    def take(self, source: YamlSource) -> None:
        """Put a sheet on the shelf. What was worked out with the one it replaces is not used any
        more.

        Raises LibraryError; then nothing has changed.
        """
        with self._lock:
            self.shelf = self.shelf.with_sheet(source)
            self.edition += 1
            self.engine.clear()
            self.answers.clear()
            self.beliefs.clear()
            self.plans.clear()
            self._past.clear()

    def forget(self) -> None:
        """Let go of everything that can be worked out again."""
        for kept in (
            self.answers,
            self.beliefs,
            self.plans,
            self.own_readings,
            self._past,
        ):
            kept.clear()
        self.engine.clear()

    def saved(self, source: YamlSource) -> None:
        """Put a sheet on the shelf that was just saved: its newest revision loads."""
        self.take(source)
        self.quarantine.pop(str(source.data["sheet"]), None)

    def machine(self, archetype: str, sheet: str | None, revision: str = "") -> MachineType:
        """Return the machine type of a sheet or an archetype, at a past revision if that is known.
        Raises UnknownMachine.

        Past revisions are loaded when somebody asks for them. One that is known no more gives way
        to the present one.
        """
        machine = self.shelf.machine(archetype, sheet)
        if sheet is None or not revision or revision == machine.revision:
            return machine
        key = (archetype, sheet, revision)
        return self._past.get(key, lambda: self._of_revision(archetype, sheet, revision)) or machine

    def _of_revision(self, archetype: str, sheet: str, revision: str) -> MachineType | None:
        for shelf in self._past_shelves(sheet):
            if shelf.sheets[sheet].archetype == archetype:
                machine = shelf.machine(archetype, sheet)
                if machine.revision == revision:
                    return machine
        return None

    def _past_shelves(self, sheet: str) -> "list[Shelf]":
        shelves = [shipped_shelf()] if sheet in shipped_shelf().sheets else []
        for stored in self.sheets.of(sheet):
            try:
                shelves.append(self.shelf.with_sheet(source_of(stored)))
            except LibraryError:
                continue
        return shelves

    def reaching(self, machine: MachineType) -> Reaching:
        """Return what finds the ways on a machine type; one for all its jobs, so that each way is
        found once."""
        key = (machine.archetype, machine.sheet, machine.revision)
        return self._ways.get(key, lambda: Reaching(machine, self.shelf.tables))

    @property
    def settings(self) -> ShopSettings:
        """Return the shop's settings as stored."""
        with self._lock:
            if self._settings is None:
                self._settings = self.shop.settings()
            return self._settings

    def change_settings(self, change: Callable[[ShopSettings], ShopSettings]) -> ShopSettings:
        """Change the shop's settings as they are stored now, in one transaction, and return them.
        What ``change`` raises changes nothing."""
        changed = self.shop.change_settings(change)
        with self._lock:
            self._settings = None
        return changed

    @property
    def members(self) -> list[Member]:
        """Return the members of the shop by name."""
        with self._lock:
            if self._members is None:
                self._members = self.shop.members()
            return self._members

    def change_member(self, name: str, role: Callable[[str], str]) -> Member:
        """Store a member with the role that follows from the one that is stored, empty for
        nobody."""
        changed = self.shop.change_member(name, role)
        with self._lock:
            self._members = None
        return changed

    def now(self) -> datetime:
        """Return the time, with its zone."""
        return self.clock()

    def close(self) -> None:
        """Let the database go."""
        self.database.close()


def weight(kept: Answer | Believed) -> int:
    """Return how many bytes an answer takes, or what is believed in it."""
    believed = kept.believed if isinstance(kept, Answer) else kept
    return ANSWER_BYTES + believed.out.nbytes


def source_of(revision: SheetRevision) -> YamlSource:
    """Return a stored revision of a sheet as parsed YAML of today's version. Raises
    LibraryError."""
    return parse_yaml(revision.text.encode(), f"{revision.sheet}.yaml", revision.version)


def open_workshop(folder: Path | None, clock: Callable[[], datetime] | None = None) -> Workshop:
    """Open the workshop in a data folder, or in memory for None."""
    clock = clock or (lambda: datetime.now(UTC))
    return Workshop(shipped_shelf(), open_database(folder), clock, Photos(folder))


COLLECTED_AFTER = (50_000, 20, 100)
"""New objects after which the collector looks at the youngest, and how many such looks make one at
the older ones; measured beside Python's own (700, 10, 10): 8 % less of the processor a request."""


def ready_to_serve() -> None:
    """Tell the garbage collector that what is loaded by now stays, so that it does not walk the
    library again, and to look less often, since pages make much and leave nothing behind; and numpy
    to use one thread a request, since its arrays here are too small for several to help each
    other."""
    gc.collect()
    gc.freeze()
    gc.set_threshold(*COLLECTED_AFTER)
    threadpool_limits(limits=1, user_api="blas")
