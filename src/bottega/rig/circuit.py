"""The wiring of a machine as a net of impedances between its points: what a meter shows of it, what
reaches each load, and what comes back by the earth wire."""

from collections.abc import Container, Mapping
from dataclasses import dataclass
from math import pi

import numpy as np

from bottega.core.library.wiring_record import EARTH, WayRecord, Wiring, points
from bottega.core.measure.thermistor import thermistor_ohm
from bottega.rig.units import MICRO
from bottega.rig.values import Values

BIG, SMALL = 1e11, 1e-3
"""Ohm of what does not conduct, and of what is one point."""
Net = list[tuple[str, str, complex]]
"""Pairs of points with the ohm between them, its imaginary part that of 50 or 60 Hz."""
STRAY_PER_OHM = 1e-11
"""What damp air leads from each point to ground, in 1/ohm: it keeps points apart that hang in the
air."""
OPEN_SHOWN_OHM = 1e8
"""From here on a meter shows an open circuit."""
METER_OHM = 1e7
"""What a multimeter is to the volts it reads (IEC 61557-3 asks for a million at least)."""
BESIDE_F = 6e-11
"""Capacity of a wire in a harness against its live neighbours, and against earth, in farad; chosen,
60 pF a metre of two insulated wires that touch."""
BARED_OHM, BARED_BY = 2.4e6, -1.8
"""Of the insulation of a harness by the millimetres that are bared; chosen, 200 kohm for four and
1500 ohm for sixty."""
NANO, RATED_HERTZ = 1e-9, 50.0
MOTOR_OHM = 40.0
"""What a running motor is to its wires: its winding and what turning makes of it; chosen, 230 V
over 6 A."""
CORDS = {"cord_L": "cord", "cord_N": "cord", "filter_L": "filter", "filter_N": "filter"}
"""Conductors of which two share one figure."""
JOINTS = {"element_plug": "spade", "phase_u_wire": "phase_wire", "drive_feed": "board_plug"}
"""Conductors whose figure has a name of its own."""
IN_THE_WALL = ("mains.L", "outlet.L")
"""Points of the supply before its socket."""
ROOM_EARTH, PLUG_EARTH = "socket.E", "plug.E"
"""Points of the earth: that of the room, and the plug's pin."""


class NoSuchPoint(KeyError):
    """A test point this machine has not."""

    def __init__(self, wanted: str, known: list[str]) -> None:
        self.message = f"found the test point '{wanted}', expected one of {', '.join(known)}"
        super().__init__(self.message)

    def __str__(self) -> str:
        return self.message


@dataclass(frozen=True)
class Contacts:
    """How a machine stands for its wiring: the contacts and switches that are closed, the load or
    sensor whose plug is off, whether its own plug is in, and how warm its water is, in °C."""

    closed: Container[str] = frozenset()
    unplugged: str | None = None
    plugged: bool = True
    water_c: float = 20.0
    turns: bool = False
    """Whether its motor runs."""


def net_of(wiring: Wiring, v: Values, stands: Contacts) -> Net:
    """Return the wiring of a machine with the values ``v`` as a net for alternating current."""
    return [(*way.between, _impedance(name, way, v, stands)) for name, way in wiring.items()]


def _impedance(name: str, way: WayRecord, v: Values, stands: Contacts) -> complex:
    stem, _, part = name.rpartition("_")
    if way.is_ == "plug":
        off = stands.unplugged in (stem, "board") or (stem == "plug" and not stands.plugged)
        return BIG if off else _figure(name, v)
    if way.is_ == "contact":
        if stands.unplugged == "board":
            return BIG
        closed = stem in stands.closed
        if f"{stem}_out_ohm" in v and part == "out":
            return complex(v[f"{stem}_out_ohm" if closed else f"{stem}_rest_ohm"])
        return SMALL if closed else BIG
    if way.is_ == "switch":
        return _figure(name, v) if name in stands.closed else BIG
    if way.is_ == "capacitor":
        return _capacitor(name, v)
    if way.is_ == "load" and part == "coil":
        ohm = v[f"{name}_ohm"]
        if stem == "motor" and stands.turns:
            ohm = max(ohm, MOTOR_OHM)
        return complex(ohm, v[f"{stem}_reactance_ohm"] * v.hertz / RATED_HERTZ)
    if name == "ntc":
        return complex(thermistor_ohm(v.ntc_r25_ohm, v.ntc_beta_k, stands.water_c))
    parted = part == "back" and stands.unplugged in (stem, "board")
    if parted:
        return BIG
    if name == "filter_earth":
        return complex(_gnawed_ohm(v))
    return _figure(name, v) + (v.flex_ohm if name == "motor_wire" else 0.0)


def _gnawed_ohm(v: Values) -> float:
    """Return the insulation of what lies behind the filter, in ohm: the harness too, where teeth
    have bared its wires."""
    if not v.gnawed_mm:
        return v.filter_earth_ohm
    bared: float = BARED_OHM * v.gnawed_mm**BARED_BY
    return 1 / (1 / v.filter_earth_ohm + 1 / bared)


def _figure(name: str, v: Values) -> complex:
    """Return the resistance of a conductor by its own name, next to nothing where it has none."""
    key = f"{JOINTS.get(name, CORDS.get(name, name))}_ohm"
    return complex(v[key]) if key in v else complex(SMALL)


def _capacitor(name: str, v: Values) -> complex:
    """Return the impedance of a capacitor: of the filter's against earth, of a motor's; of one
    across the mains the resistance that discharges it."""
    omega = 2 * pi * v.hertz
    if name.startswith("filter_y"):
        return complex(0.0, -1 / (omega * v.filter_y_nf * NANO))
    if name == "start_capacitor":
        farad = v.capacitor_uf * MICRO
        return complex(v.capacitor_short_ohm, -1 / (omega * farad)) if farad > 0 else BIG
    return _figure(name, v)


def direct(net: Net, wiring: Wiring) -> Net:
    """Return a net as an ohmmeter sees it, for direct current: windings are their copper, and
    capacitors are open."""
    blocks = {way.between for way in wiring.values() if way.is_ == "capacitor"}
    return [
        (a, b, complex(ohm.real if ohm.real or (a, b) not in blocks else BIG)) for a, b, ohm in net
    ]


def _solved(net: Net, inject: Mapping[str, complex], ground: str) -> dict[str, complex]:
    """Return the volts of every point against ``ground`` when so many ampere are put in at
    points (Kirchhoff's currents, node by node)."""
    at: dict[str, int] = {}
    for a, b, _ in net:
        at.setdefault(a, len(at))
        at.setdefault(b, len(at))
    ends = np.array([(at[a], at[b]) for a, b, _ in net])
    ohm = np.array([ohm if abs(ohm) > SMALL else SMALL for _, _, ohm in net])
    s = 1 / ohm
    g = np.zeros((len(at), len(at)), complex)
    np.add.at(g, (ends[:, 0], ends[:, 0]), s)
    np.add.at(g, (ends[:, 1], ends[:, 1]), s)
    np.add.at(g, (ends[:, 0], ends[:, 1]), -s)
    np.add.at(g, (ends[:, 1], ends[:, 0]), -s)
    g += np.eye(len(at)) * STRAY_PER_OHM
    zero = at[ground]
    g[zero, :] = 0.0
    g[zero, zero] = 1.0
    put = np.zeros(len(at), complex)
    for name, ampere in inject.items():
        if name != ground:
            put[at[name]] += ampere
    volts = np.linalg.solve(g, put)
    return dict(zip(at, volts.tolist(), strict=True))


def _refuse_unknown(net: Net, *wanted: str) -> None:
    known = sorted({name for a, b, _ in net for name in (a, b)})
    for name in wanted:
        if name not in known:
            raise NoSuchPoint(name, known)


def resistance_ohm(net: Net, first: str, second: str) -> float | None:
    """Return the resistance between two points in ohm, None for an open circuit. Raises
    NoSuchPoint."""
    _refuse_unknown(net, first, second)
    if first == second:
        return 0.0
    ohm = abs(_solved(net, {first: 1.0}, second)[first])
    return None if ohm > OPEN_SHOWN_OHM else ohm


def volts_between(net: Net, source_v: float, first: str, second: str) -> float:
    """Return the volts a multimeter shows between two points while the mains gives ``source_v``.
    What hangs in the air takes some from its neighbours in the harness. Raises NoSuchPoint."""
    _refuse_unknown(net, first, second)
    if first == second:
        return 0.0
    volts = _fed([*net, (first, second, complex(METER_OHM))], source_v)
    return abs(volts[first] - volts[second])


def _fed(net: Net, source_v: float) -> dict[str, complex]:
    """Return the volts of every point against the supply's neutral while the mains is on."""
    supply = [*net, ("mains.L", "socket.N", complex(SMALL))]
    return _solved(supply, {"mains.L": source_v / SMALL}, "socket.N")


def beside_live(net: Net, wiring: Wiring, hertz: float) -> Net:
    """Return a net with what couples wires of one harness: each wire's end against live, and
    against earth."""
    ohm = complex(0.0, -1 / (2 * pi * hertz * BESIDE_F))
    ends = [
        way.between[1]
        for way in wiring.values()
        if way.is_ == "wire" and "harness" in way.of and "board.N" not in way.between
    ]
    both = [(end, other, ohm) for end in ends for other in ("board.L", EARTH)]
    return [*net, *both]


@dataclass(frozen=True)
class Fed:
    """What one volt at a machine's board brings about: by load the share of that volt across it,
    the cabinet's volts against the room's earth, and the ampere that come back by the earth wire
    and not by neutral."""

    shares: Mapping[str, float]
    cabinet: float
    leakage_per_ohm: float


def fed_of(wiring: Wiring, v: Values, stands: Contacts) -> Fed:
    """Return what one volt at the board brings about while the contacts stand so."""
    volts = _fed(net_of(wiring, v, stands), 1.0)
    board = abs(volts["board.L"] - volts["board.N"])
    if not board:
        return Fed({}, 0.0, 0.0)
    shares = {
        name.removesuffix("_coil"): abs(volts[way.between[0]] - volts[way.between[1]]) / board
        for name, way in wiring.items()
        if name.endswith("_coil") and way.is_ == "load"
    }
    cabinet = abs(volts[EARTH] - volts[ROOM_EARTH]) / board
    comes_back = abs(volts[EARTH] - volts[PLUG_EARTH]) / v.earth_bond_ohm / board
    return Fed(shares, cabinet, comes_back)


def meter_volts(wiring: Wiring, v: Values, stands: Contacts, first: str, second: str) -> float:
    """Return the volts of the mains that a multimeter shows between two points of a machine. Raises
    NoSuchPoint."""
    net = beside_live(net_of(wiring, v, stands), wiring, v.hertz)
    return volts_between(net, v.mains_v, first, second)


def meter_ohm(wiring: Wiring, v: Values, stands: Contacts, first: str, second: str) -> float | None:
    """Return the ohms that a multimeter shows between two points of a machine that is not plugged
    in, None for an open circuit. Raises NoSuchPoint."""
    return resistance_ohm(direct(net_of(wiring, v, stands), wiring), first, second)


def insulations(wiring: Wiring, v: Values) -> list[float]:
    """Return the insulation of each part against the cabinet, in ohm."""
    return [
        _impedance(name, way, v, Contacts()).real
        for name, way in wiring.items()
        if way.is_ == "insulation"
    ]


def points_of(wiring: Wiring) -> list[str]:
    """Return the test points a lead can be laid on: not those in the wall."""
    return [point for point in points(wiring) if point not in IN_THE_WALL]
