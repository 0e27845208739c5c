"""The drying air of a washer-dryer, a step at a time."""

from bottega.rig.state import OPEN_OHM, STEP_S
from bottega.rig.wet import condenser_l_min
from bottega.rig.works import Works


def air(m: Works) -> None:
    """Drive the drying air for a step: fan, heater, duct and condenser."""
    v, now, seen = m.v, m.now, m.seen
    fan = m.volts_at("fan", m.asks.fan)
    air = 0.0
    if fan:
        m.take(fan, "fan")
        turns = v.fan_jam_share < 0.5 and 50 < v.fan_coil_ohm < OPEN_OHM
        air = v.fan_m3_h * v.duct_open_share if turns else 0.0
        if m.asks.fan:
            seen.most(
                "fan_db",
                52
                + (20 * max(v.fan_rub_share - 0.2, 0.0) / 0.3 + 4 if v.fan_rub_share > 0.2 else 0)
                if turns
                else 0.0,
            )
    heats = m.volts_at("drying", m.asks.drying)
    watts = 0.0
    if heats and v.drying_stat_ohm < 100 and now.air_c < 120:
        m.take(heats, "drying")
        watts = heats * heats / v.drying_coil_ohm
    if not m.asks.fan and not watts and now.air_c < v.room_c + 1:
        return
    carried = air / 3600 * 1.2 * 1005
    now.air_c += (watts - (carried * 0.28 + 3) * (now.air_c - v.room_c)) / 900 * STEP_S
    if m.asks.fan:
        cooled = 1.0 if condenser_l_min(m) > 0.1 else 0.25
        cooled *= max(0.2, 1 - max(0.0, v.condenser_scum_mm - 1) / 5)
        off = max(0.0, v.air_sensor_off_k - 3) / 25 + (0.6 if v.air_plug_ohm > 5000 else 0.0)
        seen.add(
            "dried_share",
            watts / 1200 * min(1.0, air / 90) * cooled * max(0.2, 1 - off) * STEP_S / 240,
        )
        seen.most("air_c", now.air_c if air > 5 else v.room_c)
