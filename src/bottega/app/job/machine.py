"""The machine a job is diagnosed with: by its opening, or by the sheet it was moved to since."""

from bottega.app.errors import NotFound
from bottega.app.workshop import Workshop
from bottega.core.job.events import Event, Opened, Rebased
from bottega.core.job.fold import withdrawn_ids
from bottega.core.library.machine_type import MachineType
from bottega.core.library.shelf import UnknownMachine


def machine_of(workshop: Workshop, events: list[Event]) -> MachineType:
    """Return the machine type a job's opening names. Raises NotFound when the library has lost
    it."""
    opened = events[0].body
    if not isinstance(opened, Opened):
        raise NotFound("The log of this job does not begin with its opening.")
    try:
        return workshop.machine(opened.archetype, sheet_of(events), revision_of(events))
    except UnknownMachine as error:
        raise NotFound(
            f"The machine of this job is not in the library: {error}", "machine"
        ) from error


def revision_of(events: list[Event]) -> str:
    """Return the revision of the library a job is diagnosed with: that of its opening, or of its
    last change of sheet."""
    moved = _moves(events)
    opened = events[0].body
    return moved[-1].revision if moved else opened.revision if isinstance(opened, Opened) else ""


def sheet_of(events: list[Event]) -> str | None:
    """Return the sheet a job is diagnosed with: the last one it was moved to, or that of its
    opening; None for none."""
    named = [move.sheet for move in _moves(events) if move.sheet]
    opened = events[0].body
    return named[-1] if named else opened.sheet if isinstance(opened, Opened) else None


def _moves(events: list[Event]) -> list[Rebased]:
    gone = withdrawn_ids(events)
    return [e.body for e in events if isinstance(e.body, Rebased) and e.id not in gone]
