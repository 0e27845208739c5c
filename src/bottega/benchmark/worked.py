"""Worked examples of the rig's physics: each a case whose figure is found by hand from a source
that knows nothing of this code, and what the rig makes of it."""

from collections.abc import Callable
from dataclasses import dataclass
from functools import lru_cache
from math import e, pi

from bottega.benchmark.policy import workshop
from bottega.core.bearings.rates import ball_rates_hz
from bottega.core.library.machine_type import MachineType
from bottega.core.measure.thermistor import thermistor_ohm
from bottega.rig.air_loop import AirLoop, moisture
from bottega.rig.body import damping_ratio, louder_db, swing_m, swing_ratio
from bottega.rig.circuit import Contacts, Fed, Net, fed_of, resistance_ohm
from bottega.rig.drives import (
    belt_nm,
    braked_nm_s,
    kloss,
    rotor_share,
    synchronous_rad_s,
    three_phases,
    universal,
)
from bottega.rig.heat import Warmth
from bottega.rig.knocking import loosened_mm, struck_db
from bottega.rig.laundry import held_l_kg
from bottega.rig.loads import heater_ohm, hiss_db
from bottega.rig.pump import flow_l_min, head_m, synchronous
from bottega.rig.shaking import rocking_n
from bottega.rig.specimen import sound_values
from bottega.rig.turning import suds_nm
from bottega.rig.values import Values
from bottega.rig.water import in_series, orifice_l_s, segment_m2, trapped_pa, tub_of

MUNSON = "Munson, Fundamentals of Fluid Mechanics"
FITZGERALD = "Fitzgerald, Electric Machinery"
RAO = "Rao, Mechanical Vibrations"
ASHRAE = "ASHRAE Fundamentals, Psychrometrics"
HEAT = "energy balance, 4186 J/(kg K)"
OHM = "Kirchhoff's and Ohm's laws"


@dataclass(frozen=True)
class ByHand:
    """One example: what it is, its source with the working, the figure by hand, within which share
    of it the rig has to be, and what the rig finds."""

    name: str
    source: str
    by_hand: float
    within: float
    found: Callable[[], float]

    @property
    def held(self) -> bool:
        """Return whether the rig finds what was found by hand."""
        return abs(self.found() - self.by_hand) <= self.within * abs(self.by_hand)


@lru_cache(maxsize=1)
def _machine() -> MachineType:
    return workshop().shelf.machine("FB")


def _values(**other: float) -> Values:
    return sound_values(_machine(), "worked").but(**other)


def _kettle_s() -> float:
    kettle = Warmth(_values(loss_w_k=0.0, tub_heat_j_k=1.0, element_heat_j_k=60.0, room_c=20.0))
    kettle.pour(10.0, 20.0)
    seconds = 0.0
    while kettle.water_c < 55:
        kettle.heat(2000.0, 0.25)
        seconds += 0.25
    return seconds


def _mixed_c() -> float:
    warmth = Warmth(_values(tub_heat_j_k=0.001))
    warmth.pour(10.0, 20.0)
    warmth.pour(5.0, 50.0)
    return warmth.water_c


def _cooled_c() -> float:
    warmth = Warmth(_values(loss_w_k=5.5, tub_heat_j_k=14_000.0, room_c=20.0))
    warmth.pour(13.0, 20.0)
    warmth.water_c = warmth.element_c = 60.0
    for _ in range(1200):
        warmth.heat(0.0, 0.5)
    return warmth.water_c


def _steamed_l_h() -> float:
    warmth = Warmth(_values(loss_w_k=0.0))
    warmth.pour(13.0, 20.0)
    warmth.water_c, warmth.element_c = 100.0, 300.0
    for _ in range(1200):
        warmth.heat(2000.0, 0.5)
    begun = warmth.steamed_l
    for _ in range(7200):
        warmth.heat(2000.0, 0.5)
    return warmth.steamed_l - begun


def _wet_bulb_c() -> float:
    warmth = Warmth(_values(tub_heat_j_k=1.0, loss_w_k=0.0))
    warmth.pour(0.5, 20.0)
    loop = AirLoop(warmth.v)
    for _ in range(20_000):
        loop.heated_c, loop.back_moist = 60.0, 0.010
        warmth.litres = warmth.held_l = 0.5
        loop.blow(0.03, 0.0, warmth, 1.0, water_l_min=0.0)
    return warmth.water_c


def _lying_m(share: float) -> float:
    tub = tub_of(True, 0.25, 0.40, 1.0, sump_m=0.02)
    return tub.height_m(1.0 + share * pi * 0.25**2 * 0.40 * 1000) - 0.02


def _bridge_ohm() -> float:
    arms = {("a", "b"): 10, ("a", "c"): 20, ("b", "d"): 30, ("c", "d"): 40, ("b", "c"): 50}
    net: Net = [(a, b, complex(ohm)) for (a, b), ohm in arms.items()]
    return resistance_ohm(net, "a", "d") or 0.0


def _fed(*closed: str, **other: float) -> Fed:
    figures = {"filter_earth_ohm": 1e12, "gnawed_mm": 0.0, "filter_y_nf": 1e-6} | other
    return fed_of(_machine().wiring, _values(**figures), Contacts(frozenset(closed)))


HEATS = ("element", "lock_contact")


def _leaks_a(bond_ohm: float) -> float:
    return 230 * _fed(*HEATS, element_earth_ohm=400.0, earth_bond_ohm=bond_ohm).leakage_per_ohm


def _drive() -> Values:
    return _values(
        phase_nm=22.0, phase_a=4.0, phase_u_ohm=9.0, phase_v_ohm=9.0, phase_w_ohm=9.0,
        phase_wire_ohm=0.0, drive_plug_green_share=0.0, magnet_share=1.0, bus_v=320.0,
        position_share=1.0, base_rpm=300.0,
    )  # fmt: skip


BASE_RAD_S = 300 * 2 * pi / 60

EXAMPLES: tuple[ByHand, ...] = (
    ByHand("a hole of 10 mm2 under half a metre, l/s",
           f"{MUNSON}: 0.62 · 10e-6 · √(2 · 9.81 · 0.5)", 0.01942, 1e-3,
           lambda: orifice_l_s(10.0, 0.5)),
    ByHand("two restrictions in series, 3 and 4",
           f"{MUNSON}: 1/√(1/9 + 1/16)", 2.4, 1e-9, lambda: in_series(3.0, 4.0)),
    ByHand("air of 70 ml trapped under 144 mm, Pa",
           "Boyle: the air shrinks by 1.4 %, 1.9 mm of 500 mm2", 1391.0, 3e-3,
           lambda: trapped_pa(0.144, 70e-6, 500e-6)),
    ByHand("water in a standing tub of 250 mm radius, m",
           "geometry: 19 l over 0.19635 m2, on a sump of 20 mm", 0.1168, 0.01,
           lambda: tub_of(False, 0.25, 0.4, 1.0, sump_m=0.02).height_m(20.0)),
    ByHand("a lying tub half full, m", "geometry: its axis", 0.25, 0.01, lambda: _lying_m(0.5)),
    ByHand("a segment half a radius deep, m2",
           "geometry: π/3 - √3/4", 0.6142, 1e-3, lambda: segment_m2(1.0, 0.5)),
    ByHand("a kettle of 10 l by 35 K with 2 kW, s",
           f"{HEAT}: 10 · 4186 · 35 / 2000", 732.6, 0.03, _kettle_s),
    ByHand("10 l of 20 °C with 5 l of 50 °C, °C", f"{HEAT}: (200 + 250) / 15", 30.0,
           1e-3, _mixed_c),
    ByHand("13 l that cool for ten minutes, °C",
           "Newton: 20 + 40 · e^(-600 · 5.5 / 68 400)", 58.1, 2e-3, _cooled_c),
    ByHand("water boiled off by 2 kW in an hour, l",
           "IAPWS: 7.2 MJ / 2.257 MJ/l", 3.19, 0.01, _steamed_l_h),
    ByHand("a thermistor of 10 kohm and 3950 K at 50 °C, ohm",
           "beta equation: 10 000 · e^(3950 · (1/323.15 - 1/298.15))", 3588.0, 1e-3,
           lambda: thermistor_ohm(10_000, 3950, 50)),
    ByHand("a lock's heater a time constant over its knee, share of its ohm",
           "IEC 60738-1 by shape: e", e, 1e-6, lambda: heater_ohm(1.0, 95 + 1 / 0.12)),
    ByHand("an element of 1500 W that hisses, dB",
           "ISO 3744: 10 lg(1500 · 1.6e-11 / 1e-12)", 43.8, 1e-3, lambda: hiss_db(1500.0)),
    ByHand("an unbalanced bridge, ohm", f"{OHM}, star for delta", 23.944, 1e-4, _bridge_ohm),
    ByHand("400 ohm to a bonded cabinet, A", f"{OHM}: 230 / 400", 0.575, 0.01,
           lambda: _leaks_a(0.08)),
    ByHand("a person of 2 kohm on a cabinet without earth, A", "Thevenin: 230 / 2400", 0.0958, 0.01,
           lambda: _leaks_a(2000.0)),
    ByHand("a filter's capacitor of 4.7 nF, A", f"{OHM}: 230 · 2π · 50 · 4.7e-9", 0.3396e-3, 0.01,
           lambda: 230 * _fed(filter_y_nf=4.7).leakage_per_ohm),
    ByHand("a cabinet between two capacitors, V", f"{OHM}: half the mains", 115.0, 0.01,
           lambda: 230 * _fed(filter_y_nf=4.7, earth_bond_ohm=1e9).cabinet),
    ByHand("a coil of 170 + 400j ohm behind 100 ohm, share of its volts",
           f"{OHM}: 434.6 / 482.6", 0.9006, 2e-3,
           lambda: _fed("pump", pump_wire_ohm=100.0, pump_coil_ohm=170.0,
                        pump_reactance_ohm=400.0).shares["pump"]),
    ByHand("a series motor at 1000 rad/s, A", f"{FITZGERALD}: 230 / (2 + 0.038 · 1000)", 5.75, 1e-6,
           lambda: universal(230, 1000, 2.0, 0.0, k=0.038).ampere),
    ByHand("its torque, N m", f"{FITZGERALD}: 0.038 · 5.75²", 1.2564, 1e-4,
           lambda: universal(230, 1000, 2.0, 0.0, k=0.038).nm),
    ByHand("a series motor held at rest behind 2 + 12j ohm, A", f"{OHM}: 230 / 12.17", 18.91, 1e-3,
           lambda: universal(230, 0.0, 2.0, 12.0, k=0.038).ampere),
    ByHand("an induction motor at 5 % slip, share of its breakdown torque",
           "Kloss: 2 / (0.2 + 5)", 0.3846, 1e-3, lambda: kloss(0.05)),
    ByHand("at its breakdown slip", "Kloss", 1.0, 1e-9, lambda: kloss(0.25)),
    ByHand("at rest", "Kloss: 2 / (4 + 0.25)", 0.4706, 1e-3, lambda: kloss(1.0)),
    ByHand("its rotor's current at 5 % slip, share of the locked one",
           f"{FITZGERALD}, equivalent circuit: √(1.0625 / 26)", 0.2021, 1e-3,
           lambda: rotor_share(0.05)),
    ByHand("the field of four poles at 50 Hz, rad/s", f"{FITZGERALD}: π · 50", 157.08, 1e-4,
           lambda: synchronous_rad_s(_values(pole_pairs=2.0), 50.0)),
    ByHand("the field of four poles at 60 Hz, rad/s", f"{FITZGERALD}: π · 60", 188.5, 1e-4,
           lambda: synchronous_rad_s(_values(pole_pairs=2.0), 60.0)),
    ByHand("a drive at twice its base speed, N m", f"{FITZGERALD}, field weakening: 22 / 2", 11.0,
           1e-6, lambda: three_phases(_drive(), 2 * BASE_RAD_S).nm),
    ByHand("a drive on two phases, N m", "the mean of sin²: 22 / 2", 11.0, 1e-6,
           lambda: three_phases(_drive().but(phase_w_ohm=1e9), 1.0).nm),
    ByHand("a drive whose bridge is shorted, N m s", f"{FITZGERALD}: 3/2 · 3.667² / 9", 2.241, 1e-3,
           lambda: braked_nm_s(_drive().but(bridge_stuck=1.0))),
    ByHand("a pump's motor of 400 ohm and 180 V of EMF at 25 W, A",
           f"{FITZGERALD}: sin δ = 25 · 400 / (230 · 180)", 0.176, 5e-3,
           lambda: (synchronous(230, 1e-9, 400, 180, shaft_w=25.0) or (0.0, 0.0))[0]),
    ByHand("the most it gives, W", f"{FITZGERALD}: 230 · 180 / 400", 103.5, 0.01,
           lambda: max(w / 2 for w in range(300)
                       if synchronous(230, 1e-9, 400, 180, shaft_w=w / 2))),
    ByHand("a belt of 200 N, 0.4 and 2.6 rad on 11 mm, N m",
           "Eytelwein: 400 · (2.829 - 1) / (2.829 + 1) · 0.011", 2.102, 1e-3,
           lambda: belt_nm(200, 0.4, 2.6, 0.011)),
    ByHand("a drum in foam at 60 rad/s, N m",
           "Herschel and Bulkley: (20 + 3 √(60 · 0.25 / 0.015)) · 0.6 · 0.25", 17.23, 1e-3,
           lambda: suds_nm(60.0)),
    ByHand("a pump at half its flow, m", f"{MUNSON}: 2 · (1 - 1/4)", 1.5, 1e-9,
           lambda: head_m(10.0, 2.0, 20.0)),
    ByHand("a pump at nine tenths of its speed, m", "affinity: 2 · 0.81", 1.62, 1e-9,
           lambda: head_m(0.0, 2.0, 20.0, 0.9)),
    ByHand("a pump at half its shut-off head, l/min", f"{MUNSON}: 20 · √0.5", 14.14, 1e-3,
           lambda: flow_l_min(2.0, 20.0, 1.0, 1e9)),
    ByHand("a tub of 50 kg at its own frequency, m",
           f"{RAO}: 0.1 · 12.8² / (260 · 12.8)", 4.925e-3, 1e-3,
           lambda: swing_m((8200 / 50) ** 0.5, 0.1, 50, 8200, damper_ns_m=260)),
    ByHand("far above it, m", f"{RAO}: 0.1 / 50", 2.0e-3, 0.02,
           lambda: swing_m(300.0, 0.1, 50, 8200, damper_ns_m=260)),
    ByHand("its damping over critical", f"{RAO}: 260 / (2 √(8200 · 45))", 0.214, 1e-3,
           lambda: damping_ratio(45, 8200, 260)),
    ByHand("swing over swing at a tenth of it", f"{RAO}: e^(0.2π / √0.99)", 1.8804, 1e-3,
           lambda: swing_ratio(0.1)),
    ByHand("two equal sounds, dB", "ISO 3744: 60 + 10 lg 2", 63.01, 1e-3,
           lambda: louder_db(60, 60)),
    ByHand("what falls twice as far, dB louder", "energy of the fall: 10 lg 2", 3.01, 1e-3,
           lambda: struck_db(2.0) - struck_db(1.0)),
    ByHand("a cabinet of 75 kg that rocks a millimetre, N",
           "momentum: 75 · 0.001 · 12.36 / 0.02", 46.4, 0.01,
           lambda: rocking_n(47.0, 12.36, 1.0, 75.0)),
    ByHand("a bolt at half of what holds, mm", "half of its slack", 1.0, 1e-9,
           lambda: loosened_mm(7.5, 15.0)),
    ByHand("an outer ring at 1200 turns a minute, Hz",
           "ISO 15243: 8/2 · 20 · (1 - 11.5/43.5)", 58.85, 1e-3,
           lambda: ball_rates_hz(20.0, 8, 11.5, 43.5)["outer"]),
    ByHand("a motor's outer ring under it, Hz", "ISO 15243: 8/2 · 250 · (1 - 6.7/28.5)", 764.9,
           1e-3,
           lambda: ball_rates_hz(250.0, 8, 6.7, 28.5)["outer"]),
    ByHand("cotton spun at 1200 on 240 mm, l/kg", "1.6 · 386^-0.21, as spins are rated", 0.458,
           5e-3,
           lambda: held_l_kg(1200.0, 0.24)),
    ByHand("saturated air at 20 °C, kg/kg", ASHRAE, 0.01476, 0.01, lambda: moisture(20.0)),
    ByHand("saturated air at 40 °C, kg/kg", ASHRAE, 0.04914, 0.01, lambda: moisture(40.0)),
    ByHand("saturated air at 60 °C, kg/kg", ASHRAE, 0.15354, 0.01, lambda: moisture(60.0)),
    ByHand("the wet bulb of air of 60 °C with 10 g/kg, °C",
           f"{ASHRAE}: 86.5 kJ/kg as saturated at 27.3 °C", 27.3, 0.025, _wet_bulb_c),
)  # fmt: skip
