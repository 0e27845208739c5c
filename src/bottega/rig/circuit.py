"""The wiring as a net of resistances between test points, and what a meter laid on two of them
shows."""

from functools import lru_cache

import numpy as np

from bottega.core.measure.thermistor import thermistor_ohm
from bottega.rig.parameters import loads
from bottega.rig.values import Values

BIG, SMALL = 1e11, 1e-3
"""Ohm of what does not conduct, and of what is one point."""
Net = list[tuple[str, str, float]]
"""Pairs of points with the ohm between them."""
STRAY_S = 1e-11
"""Siemens of damp air from each point to ground: it keeps points apart that hang in the air."""
OPEN_SHOWN_OHM = 1e8
"""From here on a meter shows an open circuit."""


class NoSuchPoint(KeyError):
    """A test point this machine has not."""

    def __init__(self, wanted: str, known: list[str]) -> None:
        self.message = f"found the test point '{wanted}', expected one of {', '.join(known)}"
        super().__init__(self.message)

    def __str__(self) -> str:
        return self.message


def net_of(
    v: Values, water_c: float, on: frozenset[str], unplugged: str | None, *, plugged: bool
) -> Net:
    """Return the wiring of a machine with the values ``v``: the loads in ``on`` have their
    contact closed, the plug of ``unplugged`` is off, and the machine's own is in or out."""
    net: Net = [
        ("mains.L", "socket.L", v.outlet_ohm + v.mains_source_ohm),
        ("socket.L", "plug.L", SMALL if plugged else BIG),
        ("socket.N", "plug.N", SMALL if plugged else BIG),
        ("plug.L", "fuse.L", v.fuse_ohm),
        ("fuse.L", "filter.L", v.cord_ohm),
        ("plug.N", "filter.N", v.cord_ohm),
        ("filter.L", "board.L", v.filter_ohm),
        ("filter.N", "board.N", v.filter_ohm),
        ("board.L", "board.N", v.filter_across_ohm),
        ("board.L", "earth", v.filter_earth_ohm),
        ("plug.E", "earth", v.earth_bond_ohm),
        ("ntc.1", "ntc.2", thermistor_ohm(v.ntc_r25_ohm, v.ntc_beta_k, water_c)),
        ("tacho.1", "tacho.2", v.tacho_coil_ohm),
    ]
    for load in loads():
        contact = v[f"{load}_out_ohm"] if load in on else v[f"{load}_rest_ohm"]
        joined = unplugged not in (load, "board")
        spade = v.spade_ohm if load == "element" else SMALL
        back = v.cut_out_ohm if load == "element" else SMALL
        net += [
            ("board.L", f"{load}.out", contact if unplugged != "board" else BIG),
            (f"{load}.out", f"{load}.pin", v[f"{load}_wire_ohm"]),
            (f"{load}.pin", f"{load}.1", spade if joined else BIG),
            (f"{load}.1", f"{load}.2", v[f"{load}_coil_ohm"]),
            (f"{load}.1", "earth", v[f"{load}_earth_ohm"]),
            (f"{load}.2", "board.N", back if joined else BIG),
        ]
    return net


@lru_cache(maxsize=1)
def points_of() -> tuple[str, ...]:
    """Return the test points a lead can be laid on."""
    fixed = (
        "socket.L",
        "socket.N",
        "plug.L",
        "plug.N",
        "plug.E",
        "fuse.L",
        "filter.L",
        "filter.N",
        "board.L",
        "board.N",
        "earth",
        "ntc.1",
        "ntc.2",
        "tacho.1",
        "tacho.2",
    )
    return fixed + tuple(f"{load}.{pin}" for load in loads() for pin in ("out", "pin", "1", "2"))


def _solved(net: Net, inject: dict[str, float], ground: str) -> dict[str, float]:
    """Return the volts of every point against ``ground`` when so many ampere are put in at
    points (Kirchhoff's currents, node by node)."""
    names = sorted({name for a, b, _ in net for name in (a, b)})
    at = {name: n for n, name in enumerate(names)}
    g = np.zeros((len(names), len(names)))
    for a, b, ohm in net:
        s, i, j = 1 / max(ohm, SMALL), at[a], at[b]
        g[i, i] += s
        g[j, j] += s
        g[i, j] -= s
        g[j, i] -= s
    g += np.eye(len(names)) * STRAY_S
    zero = at[ground]
    g[zero, :] = 0.0
    g[zero, zero] = 1.0
    put = np.zeros(len(names))
    for name, ampere in inject.items():
        if name != ground:
            put[at[name]] += ampere
    volts = np.linalg.solve(g, put)
    return dict(zip(names, volts.tolist(), strict=True))


def resistance_ohm(net: Net, first: str, second: str) -> float | None:
    """Return the resistance between two points in ohm, None for an open circuit. Raises
    NoSuchPoint."""
    known = sorted({name for a, b, _ in net for name in (a, b)})
    for name in (first, second):
        if name not in known:
            raise NoSuchPoint(name, known)
    if first == second:
        return 0.0
    ohm = _solved(net, {first: 1.0}, second)[first]
    return None if ohm > OPEN_SHOWN_OHM else ohm


def volts_between(net: Net, source_v: float, first: str, second: str) -> float:
    """Return the volts between two points while the socket gives ``source_v`` through its own
    resistance. Raises NoSuchPoint."""
    known = sorted({name for a, b, _ in net for name in (a, b)})
    for name in (first, second):
        if name not in known:
            raise NoSuchPoint(name, known)
    inner = 0.01
    supply: Net = [*net, ("mains.L", "socket.N", inner)]
    volts = _solved(supply, {"mains.L": source_v / inner}, "socket.N")
    return abs(volts[first] - volts[second])
