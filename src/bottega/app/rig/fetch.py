"""A machine on the rig by its name: those looked at last are in memory, the others are set up again
as they were left."""

from bottega.app.errors import NotFound
from bottega.app.rig.left import stand_as_left
from bottega.app.rig.stand import Stand
from bottega.app.workshop import Workshop
from bottega.core.library.shelf import UnknownMachine
from bottega.rig.faults import FaultError
from bottega.rig.specimen import Specimen
from bottega.store.rigs import RigTicket

STANDS_KEPT = 24
"""Machines kept in memory, those that were looked at last; chosen, a shop trains fewer at once."""


def stand(workshop: Workshop, name: str) -> Stand:
    """Return the machine of that name as it stands, its time caught up. Raises NotFound."""
    ticket = workshop.rigs.ticket(name)
    if ticket is None:
        raise NotFound(f"Found no machine '{name}' on the rig, expected one that was drawn.")
    with workshop.stands_turn:
        found = workshop.stands.pop(name, None)
        if not isinstance(found, Stand) or found.ticket != ticket:
            found = _set_up(workshop, ticket)
            acts, left = workshop.rigs.left(name)
            if acts:
                stand_as_left(found, acts, left)
            while len(workshop.stands) >= STANDS_KEPT:
                workshop.stands.pop(next(iter(workshop.stands)))
        workshop.stands[name] = found
    with found.lock:
        found.catch_up(workshop.now())
    return found


def _set_up(workshop: Workshop, ticket: RigTicket) -> Stand:
    try:
        kind = workshop.shelf.machine(ticket.archetype, ticket.sheet)
        specimen = Specimen(kind, ticket.seed, ticket.faults)
    except (UnknownMachine, FaultError) as error:
        raise NotFound(
            f"The machine '{ticket.name}' cannot be set up any more: {error}."
        ) from error
    return Stand(
        ticket, kind, specimen, workshop.now(), workshop.shelf.tables, workshop.reaching(kind)
    )
