"""What to load into the van for a visit, and what the visit comes to."""

from collections.abc import Sequence
from dataclasses import dataclass

from bottega.app.answer import Answer
from bottega.app.workshop import Workshop
from bottega.core.job.fold import stood_of
from bottega.core.worth.quote import LEAST_SHOWN, Cure, cheapest_repairs, visit_band

LIKELY = 0.06
"""A part wanted less often than this stays on the shelf; chosen, about one visit in sixteen."""
MOST_PARTS, TOOLS_OF, WAYS_OF = 5, 8, 4
"""Parts listed; steps whose tools, and steps whose ways' tools, are taken along; chosen to fit one
screen."""


@dataclass(frozen=True)
class PartToLoad:
    """A part worth carrying: its name, the number its own sheet gives, the chance that it is
    wanted, and the share of cases in which it is and none of those before it; none too small to
    tell."""

    name: str
    number: str
    chance: float
    share: float | None


@dataclass(frozen=True)
class Loading:
    """What to take along: parts, tools, special tools; and the price band of the visit in the
    shop's currency."""

    parts: tuple[PartToLoad, ...]
    tools: tuple[str, ...]
    special: tuple[str, ...]
    band: tuple[float, float]


def loading(workshop: Workshop, answer: Answer) -> Loading:
    """Return parts and tools worth loading for a visit, and the price band of the visit in the
    shop's currency."""
    names = [step.check.tool for step in answer.plan.steps[:TOOLS_OF]]
    operations = answer.machine.operations
    for step in answer.plan.steps[:WAYS_OF]:
        names += [operations[s.to].tool for s in step.reach.steps if s.kind == "operation"]
    tools = [workshop.shelf.tables.tools[name] for name in dict.fromkeys(names) if name != "none"]
    shop = workshop.settings
    cures = cheapest_repairs(answer.belief, stood_of(answer.job), workshop.shelf.tables, shop)
    return Loading(
        parts=_parts(answer, cures),
        tools=tuple(tool.name for tool in tools if not tool.special),
        special=tuple(tool.name for tool in tools if tool.special),
        band=visit_band(cures, shop),
    )


def _parts(answer: Answer, cures: Sequence[Cure]) -> tuple[PartToLoad, ...]:
    machine, belief = answer.machine, answer.belief
    wants: dict[str, list[str]] = {}
    for cure in cures:
        if cure.repair.do == "part":
            wants.setdefault(cure.repair.component, []).append(cure.fault)
    chances = {c: belief.any_of(dict.fromkeys(faults, 1.0)) for c, faults in wants.items()}
    likely = [c for c in sorted(chances, key=lambda c: (-chances[c], c)) if chances[c] > LIKELY]
    likely = likely[:MOST_PARTS]
    found = []
    for component, share in zip(likely, belief.parted([wants[c] for c in likely]), strict=True):
        numbers = machine.part_numbers.get(component)
        number = numbers[0].number if numbers else ""
        name = machine.parts[component].name
        told = share if share >= LEAST_SHOWN else None
        found.append(PartToLoad(name, number, chances[component], told))
    return tuple(found)
