"""The figures a sound machine is made of, with spread and source; read once from data/rig."""

from functools import lru_cache
from pathlib import Path
from typing import Literal

import bottega
from bottega.core.library.records import Record
from bottega.core.library.tables import validated
from bottega.core.library.yamlfile import read_yaml

RIG = Path(bottega.__file__).parent / "data" / "rig"
Place = Literal["front", "opening", "pump", "back", "middle", "sides"]
PLACES: tuple[Place, ...] = ("front", "opening", "pump", "back", "middle", "sides")
"""Where drops land under a machine."""


class _Figure(Record):
    is_: float
    spread: float = 0.0
    from_: str

    model_config = {
        "frozen": True,
        "extra": "forbid",
        "alias_generator": lambda name: name.rstrip("_"),
    }


class _Wound(Record):
    ohm: float
    spread: float
    reactance_ohm: float = 0.0
    """Of its coil at 50 Hz."""
    works_w: float = 0.0
    """Watts it works at its rated volts, beside what warms its winding."""


class Joint(Record):
    """Where water can come out: how high over the tub's lowest point in metre, what wets it, where
    it lands, and what opens it: by value, from what on, and square millimetre for each of it."""

    height_m: float
    wet_by: Literal["level", "splash", "spin", "pump", "mains", "flow"]
    lands: Place
    opened_by: dict[str, tuple[float, float]] = {}


class _Figures(Record):
    source: dict[str, str]
    values: dict[str, _Figure]


class _EveryLoad(Record):
    source: str
    values: dict[str, float]


class _Loads(Record):
    source: str
    values: dict[str, _Wound]


class _Joints(Record):
    source: str
    values: dict[str, Joint]


class _File(Record):
    world: _Figures
    every_load: _EveryLoad
    loads: _Loads
    machine: _Figures
    joints: _Joints
    kinds: dict[str, dict[str, float]]
    sheets: dict[str, dict[str, float]]


class PeopleSense(Record):
    """How coarsely people tell a quantity, as a share of it, and how often they are wrong
    altogether."""

    spread: float
    lapse: float
    decibel: float = 3.0
    """By how much a loudness is told off, whatever it is; two in three within."""


class Senses(Record):
    """The senses, and which of them each act uses."""

    source: str
    senses: dict[str, PeopleSense]
    acts: dict[str, str]


class Parameter(Record):
    """One figure of a sound machine: its middle, its spread between specimens as a share, and
    its source."""

    value: float
    spread: float
    source: str


@lru_cache(maxsize=1)
def _file() -> _File:
    return validated(_File, read_yaml(RIG / "parameters.yaml"))


@lru_cache(maxsize=1)
def senses() -> Senses:
    """Return how coarsely people tell things."""
    return validated(Senses, read_yaml(RIG / "senses.yaml"))


@lru_cache(maxsize=32)
def parameters(kind: str, sheet: str | None = None) -> dict[str, Parameter]:
    """Return by name what a sound machine of a kind and sheet is made of. Raises KeyError for a
    kind that changes a figure there is not."""
    file, found = _file(), {}
    for section in (file.world, file.machine):
        for name, figure in section.values.items():
            found[name] = Parameter(
                value=figure.is_, spread=figure.spread, source=section.source[figure.from_]
            )
    for load, wound in file.loads.values.items():
        found[f"{load}_coil_ohm"] = Parameter(
            value=wound.ohm, spread=wound.spread, source=file.loads.source
        )
        for name, plain in (("reactance_ohm", wound.reactance_ohm), ("works_w", wound.works_w)):
            found[f"{load}_{name}"] = Parameter(value=plain, spread=0.0, source=file.loads.source)
        for name, value in file.every_load.values.items():
            found[f"{load}_{name}"] = Parameter(
                value=value, spread=0.1, source=file.every_load.source
            )
    for joint in file.joints.values:
        found[f"{joint}_mm2"] = Parameter(value=0.0, spread=0.0, source=file.joints.source)
    for name, value in {**file.kinds.get(kind, {}), **file.sheets.get(sheet or "", {})}.items():
        found[name] = found[name].model_copy(update={"value": value})
    return found


def loads() -> tuple[str, ...]:
    """Return what boards switch, by the names of their test points."""
    return tuple(_file().loads.values)


def joints() -> dict[str, Joint]:
    """Return where water can come out, by name; the hole is the parameter of that name with
    ``_mm2``."""
    return _file().joints.values
