"""What to load into the van for a visit, and what the visit comes to."""

from dataclasses import dataclass

from bottega.app.answer import Answer
from bottega.app.workshop import Workshop
from bottega.core.worth.quote import visit_band

LIKELY = 0.06
"""A part wanted less often than this stays on the shelf; chosen, about one visit in sixteen."""
MOST_PARTS, TOOLS_OF, WAYS_OF = 5, 8, 4
"""Parts listed; steps whose tools, and steps whose ways' tools, are taken along; chosen to fit one
screen."""


@dataclass(frozen=True)
class PartToLoad:
    """A part worth carrying: its name, its newest number if a sheet has one, and the chance that it
    is wanted."""

    name: str
    number: str
    chance: float


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
    return Loading(
        parts=_parts(answer),
        tools=tuple(tool.name for tool in tools if not tool.special),
        special=tuple(tool.name for tool in tools if tool.special),
        band=visit_band(answer.belief, answer.job.state, answer.reaching, workshop.settings),
    )


def _parts(answer: Answer) -> tuple[PartToLoad, ...]:
    machine, chances = answer.machine, answer.belief.fault_now()
    wanted = {
        repair.component: answer.belief.any_of({fault: 1.0 for fault, _ in repair.covers})
        for repair in machine.repairs.values()
        if repair.do == "part" and sum(chances[fault] for fault, _ in repair.covers) > LIKELY
    }
    likely = sorted((-p, component) for component, p in wanted.items() if p > LIKELY)[:MOST_PARTS]
    found = []
    for chance, component in likely:
        numbers = machine.part_numbers.get(component)
        number = numbers[-1].number if numbers else ""
        found.append(PartToLoad(machine.parts[component].name, number, -chance))
    return tuple(found)
