"""The fields of a rating plate, as they are typed on a call and on a new sheet."""

from collections.abc import Mapping
from dataclasses import dataclass


@dataclass(frozen=True)
class PlateField:
    """One field of a rating plate: its key in the record, the name of the form's field, its
    label."""

    key: str
    label: str

    @property
    def name(self) -> str:
        """Return the name of the form's field."""
        return f"plate_{self.key}"

    @property
    def keyboard(self) -> str:
        """Return which keyboard a phone shows for it."""
        return "text" if self.key == "serial" else "decimal"


PLATE_FIELDS = (
    PlateField("volts", "Volts"),
    PlateField("hertz", "Hertz"),
    PlateField("heater_w", "Heater W"),
    PlateField("motor_w", "Motor W"),
    PlateField("capacity_kg", "Capacity kg"),
    PlateField("spin_rpm", "Spin rpm"),
    PlateField("year", "Year"),
    PlateField("serial", "Serial"),
)


def plate_of_form(typed: Mapping[str, str]) -> dict[str, str | None]:
    """Return the plate's fields as typed, by their key in the record; None for an empty one."""
    read = {field: typed.get(field.name, "").strip() for field in PLATE_FIELDS}
    return {
        field.key: (text if field.key == "serial" else text.replace(",", ".")) or None
        for field, text in read.items()
    }
