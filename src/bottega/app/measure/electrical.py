"""The electrical check after a repair, held against the limits the shop chose."""

from bottega.app.workshop import Workshop
from bottega.core.job.events import Limits, Proved
from bottega.core.job.proofs import MEASURED
from bottega.core.library.limits import LimitSet


def limits_of(workshop: Workshop) -> LimitSet:
    """Return the limits of the shop; those after a repair where its own set is no longer there."""
    sets = workshop.shelf.tables.limits.sets
    return sets.get(workshop.settings.limits) or next(iter(sets.values()))


def with_limits(workshop: Workshop, body: Proved) -> Proved:
    """Return an electrical proof with the limits it is held against, as they stand now; what came
    along from outside is not believed."""
    if body.proof not in MEASURED:
        return body
    held = limits_of(workshop)
    limits = Limits(
        name=held.name,
        earth_ohm=held.earth_ohm,
        insulation_mohm=held.insulation_mohm,
        leakage_ma=held.leakage_ma,
    )
    return body.model_copy(update={"limits": limits})
