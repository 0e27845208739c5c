"""What the board tells of itself: the codes of its memory, a panel that lets nobody in, a
calibration."""

from collections.abc import Iterable
from dataclasses import dataclass, field

from bottega.core.diagnosis.evidence import Finding, Source, read_code
from bottega.core.job.events import Checked, CodesCleared, PanelRead, Proved
from bottega.core.job.job import Entry
from bottega.core.library.machine_type import Code, MachineType
from bottega.core.library.tables import EngineTable, PanelTable, Tables

WHOLE_RUNS = ("run", "leak_watch")
"""Proofs in which a machine goes through all it does."""


@dataclass
class Memory:
    """The board's memory as the job's log tells of it: the codes ever read, how often the memory
    was cleared and in which epoch last, and the effects the machine has been made to show since."""

    stored: set[str] = field(default_factory=set)
    clears: int = 0
    cleared_in: int | None = None
    shown: set[str] = field(default_factory=set)
    shown_all: bool = False

    def follow(self, entry: Entry, machine: MachineType) -> None:
        """Take in one more event of the log: a clear, a run, a check with the power on, or a
        calibration."""
        body = entry.body
        if isinstance(body, CodesCleared):
            self.clears, self.cleared_in = self.clears + 1, entry.epoch
            self.shown, self.shown_all = set(), False
        elif isinstance(body, Proved) and body.proof == "calibration":
            self.shown |= {phase.effect for phase in machine.calibration.phases}
        elif isinstance(body, Proved) and body.proof in WHOLE_RUNS:
            self.shown_all = True
        elif isinstance(body, Checked) and (check := machine.checks.get(body.check)):
            self.shown_all |= check.watches
            self.shown |= {check.effect} if check.needs.power == "on" else set()

    def would_tell(self, effect: str) -> bool:
        """Return whether the board has had occasion, since the memory was cleared, to store a code
        about this effect."""
        return self.shown_all or effect in self.shown

    def empty(self, entry: Entry) -> bool:
        """Return whether the memory was cleared and the machine has not run since."""
        return self.cleared_in == entry.epoch and not entry.since_clear


def panel_findings(
    entry: Entry,
    body: PanelRead,
    machine: MachineType,
    tables: Tables,
    *,
    memory: Memory,
) -> list[Finding]:
    """Return what a reading of the memory says. A code seen before and never cleared is old news;
    codes missing after a clear say nothing until the machine has done what they watch."""
    if body.result == "unreadable":
        return _unreadable(entry, body, machine, tables)
    if memory.empty(entry):
        return []
    stale = tables.engine.stale_after_clear if entry.since_clear else None
    clears = memory.clears if entry.since_clear else 0
    repeats = tables.engine.codes_repeatability
    found = []
    named = stored_codes(body, machine)
    for code in _speaks_of(body, machine):
        stored = code.id in named
        old_news = entry.epoch > 0 and not entry.since_clear
        if old_news and (stored == (code.id in memory.stored) or not stored):
            continue
        if (body.unlisted or body.told) and not stored:
            continue
        if entry.since_clear and not stored and not memory.would_tell(code.effect):
            continue
        found.append(
            read_code(
                entry.event.id,
                code,
                stored,
                entry.epoch,
                repeatability=repeats,
                stale=stale,
                clears=clears,
            )
        )
    return found


def _unreadable(
    entry: Entry, body: PanelRead, machine: MachineType, tables: Tables
) -> list[Finding]:
    if machine.unreadable is None:
        return []
    effect, stated = machine.unreadable
    chances = unread(stated, body.attempts, tables.panel)
    again = tables.engine.codes_repeatability
    event, source = entry.event.id, Source("panel")
    return [Finding(event, source, effect, "unreadable", chances, again, entry.epoch)]


def calibrated(
    entry: Entry, body: Proved, machine: MachineType, engine: EngineTable
) -> list[Finding]:
    """Return findings from a calibration. One that ends has passed all its phases; one that stalls
    has passed the phases before. One that went badly without a named phase says nothing."""
    if body.went == "badly" and machine.calibration.phase(body.stalled) is None:
        return []
    found, again = [], engine.run_repeatability
    for phase in machine.calibration.phases:
        here = phase.id == body.stalled
        chances = tuple(p if here else 1 - p for p in phase.chances)
        source = Source("calibration", phase.id)
        what = "stalled" if here else "passed"
        found.append(
            Finding(entry.event.id, source, phase.effect, what, chances, again, entry.epoch)
        )
        if here:
            break
    return found


def unread(stated: tuple[float, ...], attempts: int, slips: PanelTable) -> tuple[float, ...]:
    """Return P(the service mode did not open | state of the panel) after so many attempts, or the
    chance the sheet states where the attempts were not counted. A sound panel refuses every
    attempt only where its way in differs from the sheet's; otherwise each attempt fails by a
    slip of the beat alone. A bad panel refuses with the chance the sheet states, and otherwise
    behaves like a sound one."""
    if not attempts:
        return stated
    pace = slips.entry_missed**attempts
    never = (slips.entry_never, *stated[1:])
    return tuple(chance + (1 - chance) * pace for chance in never)


def stored_codes(body: PanelRead, machine: MachineType) -> set[str]:
    """Return the codes of a reading by the names they have now."""
    return {machine.renamed.get(name, name) for name in body.codes}


def _speaks_of(body: PanelRead, machine: MachineType) -> Iterable[Code]:
    """Return the codes that a reading can speak of: those of the sheet; where there was no sheet
    when the panel was read, the codes known by their meaning."""
    by_meaning = not machine.codes or set(body.codes) & set(machine.meanings)
    return (machine.meanings if by_meaning else machine.codes).values()
