"""Repairs of one machine type: what each puts right, what it costs, how long it takes."""

from bottega.core.library.checks import both
from bottega.core.library.errors import misfit
from bottega.core.library.faults import Records
from bottega.core.library.machine_type import RepairOption
from bottega.core.library.records import Component, Needs, Part, Repair
from bottega.core.library.sheet import SheetFile

REPAIR_MIN = 10.0
"""Minutes of a repair the library gives none for; chosen, a hose clamp or a plug put back."""
REPAIR_SUCCESS = 0.9
"""P(it is put right | the repair was made) where the library gives none; chosen, one in ten comes
back."""

_Gathered = dict[str, tuple[str, Repair, list[str]]]
"""Component, work and the faults covered, by the repair's id."""


def parts_of(components: dict[str, Component], sheet: SheetFile | None) -> dict[str, Part]:
    """Return the parts of the components, priced by the sheet where it knows them: the first
    number is that of the machine's own variant."""
    parts = {name: component.part for name, component in components.items() if component.part}
    for name, numbers in (sheet.parts if sheet else {}).items():
        if name in parts:
            parts[name] = parts[name].model_copy(update={"price_eur": numbers[0].price_eur})
    return parts


def repairs_of(
    records: Records,
    components: dict[str, Component],
    parts: dict[str, Part],
    out: dict[str, tuple[str, ...]],
) -> dict[str, RepairOption]:
    """Return the repairs of a machine's faults by id. Raises LibraryError when a fault wants a part
    its component does not have."""
    return {
        name: _option(name, component, repair, covered, components=components, parts=parts, out=out)
        for name, (component, repair, covered) in _gathered(records).items()
    }


def _gathered(records: Records) -> _Gathered:
    """Gather repairs: the part of a component ends every fault of it that lists ``part``; other
    work is per fault."""
    gathered: _Gathered = {}
    for fault, (_, record) in records.items():
        for repair in record.repairs:
            component = repair.of or record.component
            repair_id = f"{component}.part" if repair.do == "part" else f"{fault}.{repair.do}"
            gathered.setdefault(repair_id, (component, repair, []))[2].append(fault)
    return gathered


def _option(
    name: str,
    component: str,
    repair: Repair,
    covered: list[str],
    *,
    components: dict[str, Component],
    parts: dict[str, Part],
    out: dict[str, tuple[str, ...]],
) -> RepairOption:
    minutes, price, words, success = (
        repair.minutes,
        repair.price_eur,
        repair.name,
        repair.success,
    )
    needs = way = components[component].reach
    if repair.do == "part":
        part = parts.get(component)
        if part is None:
            key = f"components.{component}.part"
            raise misfit("assemblies", key, "no part", "a part, since a fault wants it")
        minutes, price = minutes or part.minutes, part.price_eur
        words, success = words or f"Fit a new {part.name}", success or part.success
        needs = both(needs, part.needs)
        way = both(needs, Needs(off=out.get(component, ())))
    return RepairOption(
        id=name,
        do=repair.do,
        name=words or f"{repair.do} {components[component].name}",
        component=component,
        minutes=minutes or REPAIR_MIN,
        price_eur=price,
        covers=tuple((fault, success or REPAIR_SUCCESS) for fault in covered),
        needs=needs,
        way=way if repair.do == "part" else needs,
    )
