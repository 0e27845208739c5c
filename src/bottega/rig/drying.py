"""A washer-dryer's fan and drying heater, a step at a time."""

from math import sqrt

from bottega.rig.air_loop import AIR_KG_M3
from bottega.rig.state import OPEN_OHM
from bottega.rig.values import Values
from bottega.rig.works import Works

CUT_OUT_C = 130.0
"""Where the heater's own thermostat opens, and from where it stays open till it is cooler, in °C;
chosen."""
CLOSES_MM = 40.0
"""Lint that closes the duct, in millimetre; chosen."""
FAN_DB, RUBS_FROM, RUB_DB = 52.0, 0.2, 67.0
"""How loud a fan is that runs free; the share of its rim from which it rubs; decibel for each share
more of it. Chosen."""
BLOWS_M3_H = 5.0
"""Air that is felt, in cubic metre/hour; chosen."""


def air(m: Works) -> None:
    """Drive the drying air for a step: fan, heater, laundry and condenser; what comes down from it
    runs into the tub."""
    loop, warmth = m.air, m.warmth
    m3_h, watts = _blown_m3_h(m), _heated_w(m)
    if not m3_h and not watts and loop.rests:
        return
    kg_s = m3_h / 3600 * AIR_KG_M3
    litres = loop.blow(kg_s, watts, warmth, m.v.load_kg, water_l_min=m.now.condenser_l_min)
    if litres:
        warmth.pour(litres, warmth.water_c)
    if m.asks.fan:
        m.seen.most("dries_g_s", loop.dries_g_s)
        m.seen.most("air_c", loop.heated_c if m3_h > BLOWS_M3_H else m.v.room_c)


def _blown_m3_h(m: Works) -> float:
    """Let the fan take its current; return the air it moves, in cubic metre/hour."""
    v = m.v
    volts = m.volts_at("fan")
    if not volts:
        return 0.0
    m.take(volts, "fan")
    turns = v.fan_jam_share < 0.5 and 50 < v.fan_coil_ohm < OPEN_OHM
    if m.asks.fan and turns:
        m.seen.most("fan_db", FAN_DB + RUB_DB * max(0.0, v.fan_rub_share - RUBS_FROM))
    return v.fan_m3_h * duct_open(v) if turns else 0.0


def duct_open(v: Values) -> float:
    """Return the share of a duct that is open: a skin of lint holds back more than its
    thickness."""
    return v.duct_open_share * max(0.0, 1 - sqrt(v.lint_mm / CLOSES_MM))


def _heated_w(m: Works) -> float:
    """Let the drying heater take its current, unless its thermostat is open; return its watts."""
    volts = m.volts_at("drying")
    if not volts or m.air.heated_c > CUT_OUT_C:
        return 0.0
    m.take(volts, "drying")
    return volts * volts / m.v.drying_coil_ohm
