"""Write part numbers into a model's sheet."""

from typing import Any

from bottega.app.errors import BadValue
from bottega.app.library.sheets import change
from bottega.app.values import number
from bottega.app.workshop import Workshop
from bottega.core.library.machine_type import MachineType

LEAST_PRICE, MOST_PRICE = 0.01, 100_000.0
"""What a part costs at least and at most, in the shop's currency; chosen."""
LONGEST_NUMBER = 80
"""Letters of a number, and of where it stands; chosen, a line on a label."""
LONGEST_TELL = 300
"""Letters of what tells a part; chosen, two sentences."""


def _refuse_long(fields: dict[str, str]) -> None:
    """Raise BadValue for what no label has room for."""
    for name in ("number", "revision", "diagram", "replaces", "tell"):
        most = LONGEST_TELL if name in ("tell", "replaces") else LONGEST_NUMBER
        if len(fields.get(name, "")) > most:
            raise BadValue(
                f"Found {len(fields[name])} letters for {name}, expected at most {most}.", name
            )


def add_part(workshop: Workshop, sheet: str, fields: dict[str, str], author: str) -> MachineType:
    """Write a part number of a component into a sheet, beside those it has. Raises BadValue,
    NotFound."""
    component = fields.get("component", "")
    machine = workshop.machine(workshop.shelf.sheets[sheet].archetype, sheet)
    if component not in machine.components:
        raise BadValue("Choose which part the number belongs to.", "component")
    price = number(fields.get("price", ""), "price", LEAST_PRICE, MOST_PRICE)
    _refuse_long(fields)
    record: dict[str, Any] = {
        "number": fields.get("number", "").strip(),
        "price_eur": round(price / workshop.settings.money(1.0), 2),
    }
    told = {key: fields.get(key, "").strip() for key in ("revision", "tell", "diagram")}
    record |= {key: words for key, words in told.items() if words}
    old = [word.strip() for word in fields.get("replaces", "").split(",") if word.strip()]
    record |= {"replaces": old} if old else {}
    if not record["number"]:
        raise BadValue("A part wants its number.", "number")
    with workshop.sheets_turn:
        machine = workshop.machine(workshop.shelf.sheets[sheet].archetype, sheet)
        first = component not in machine.part_numbers
        new = [record] if first else record
        return change(workshop, sheet, author, {}, (("parts", component), new))
