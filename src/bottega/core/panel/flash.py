"""Flash trains: counts of flashes per lamp, decoded by the sheet's code table."""

from dataclasses import dataclass

from bottega.core.library.machine_type import Code, MachineType


class PanelError(ValueError):
    """Flash counts that cannot be a code; says what was found and what was expected."""


@dataclass(frozen=True)
class Decoded:
    """One train: the counts as seen, the code they stand for if any, and codes one flash away."""

    shown: tuple[int, ...]
    code: Code | None
    near: tuple[Code, ...]


def decode(machine: MachineType, shown: tuple[int, ...]) -> Decoded:
    """Return what one train of flash counts stands for. Raises PanelError for counts the lamps cannot show.

    Counts that are in no table are a misread or a bad lamp: ``code`` is None and ``near`` lists codes one flash away.
    """
    panel = machine.panel
    if panel is None:
        raise PanelError(f"found flashes, expected none: {machine.title} has no sheet with a panel")
    if len(shown) != len(panel.lamps):
        raise PanelError(f"found {len(shown)} counts, expected {len(panel.lamps)}: " + " then ".join(panel.lamps))
    for lamp, count in zip(panel.lamps, shown, strict=True):
        if not 0 < count <= panel.most_flashes:
            raise PanelError(f"found {count} {lamp} flashes, expected 1 to {panel.most_flashes}")
    near = []
    for code in machine.codes.values():
        distance = sum(abs(a - b) for a, b in zip(code.record.show, shown, strict=True))
        if distance == 0:
            return Decoded(shown, code, ())
        if distance == 1:
            near.append(code)
    return Decoded(shown, None, tuple(near))
