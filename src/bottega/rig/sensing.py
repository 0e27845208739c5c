"""What a board can know of its machine: signals of sensors and switches, as its wires bring
them."""

from bisect import bisect_left
from collections.abc import Callable, Sequence
from math import exp

from bottega.core.measure.thermistor import thermistor_c, thermistor_ohm
from bottega.rig.air_loop import AirLoop
from bottega.rig.drives import DIRECT_KINDS, LEAST_SUPPLY_V, OPEN_PHASE_OHM, phases_ohm
from bottega.rig.heat import Warmth
from bottega.rig.parameters import parameters
from bottega.rig.state import Now
from bottega.rig.values import Values

ON_MOTOR = frozenset({"FB", "WD", "FI"})
"""Kinds whose tacho sits on the motor's shaft, and knows nothing of the belt."""


FILM_OHM, FILM_MM = 0.1, 0.434
"""Of the exponential by which a plug's contact is lost; see ``loose_ohm``."""
NO_SIGNAL_OHM, NO_LEVEL_OHM, LEAST_LEVEL_V = 5000.0, 1000.0, 3.0
"""From what resistance on no pulses and no warmth come through a wire, and no level; and the least
a level sensor works with. Chosen."""
FAR_OFF_KGM = 9.0
"""Unbalance that a switch tells which is held: more than any there is."""
LEAST_SWING_V = 2.4
"""Volts a tacho has to swing for its pulses to be counted; chosen, four tenths of a sound one's."""


def loose_ohm(gap_mm: float) -> float:
    """Return what a plug adds that stands off its pins so far, in ohm: a thin film at first, then
    next to nothing that touches. Chosen, an ohm at a millimetre, a kilohm at four."""
    return FILM_OHM * exp(gap_mm / FILM_MM)


class LevelCurve:
    """The board's own table from the sensor's pressure to litres, made of a sound machine of
    nominal sizes."""

    def __init__(self, pressures: Sequence[float], litres: Sequence[float]) -> None:
        self._pressures = list(pressures)
        self._litres = list(litres)

    def litres(self, pascal: float) -> float:
        """Return the litres of a pressure in pascal, on a line between the table's points."""
        at = bisect_left(self._pressures, pascal)
        if at <= 0:
            return self._litres[0]
        if at >= len(self._pressures):
            return self._litres[-1]
        low, high = self._pressures[at - 1], self._pressures[at]
        share = (pascal - low) / max(high - low, 1e-9)
        return self._litres[at - 1] + share * (self._litres[at] - self._litres[at - 1])


class Sensing:
    """The signals of one machine; it looks at how the machine stands each time it is asked."""

    def __init__(
        self,
        v: Values,
        kind: str,
        zero_hz: float,
        curve: LevelCurve,
        *,
        now: Now,
        warmth: Warmth,
        air: AirLoop,
        door_shut: Callable[[], bool] = lambda: True,
    ) -> None:
        self._v, self._kind, self._curve, self._now, self._warmth = v, kind, curve, now, warmth
        self._zero_hz, self._door_shut, self._air = zero_hz, door_shut, air
        self._hz_pa = parameters(kind)["level_hz_pa"].value

    @property
    def level_l(self) -> float | None:
        """Litres by the board's curve; None without a signal."""
        v = self._v
        plug = v.level_plug_ohm + loose_ohm(v.level_plug_gap_mm)
        if v.level_signal < 0.5 or plug > NO_LEVEL_OHM or v.level_supply_v < LEAST_LEVEL_V:
            return 0.0 if self._kind == "TG" else None
        read = self.level_hz
        pascal = (self._zero_hz - read) / self._hz_pa
        return self._curve.litres(pascal * (1 - v.board_sense_off_share))

    @property
    def level_hz(self) -> float:
        """Frequency of the level sensor in hertz; it falls as the pressure rises."""
        v = self._v
        return v.level_zero_hz - v.level_hz_pa * v.level_gain_share * self._now.sensed_pa

    @property
    def ntc_ohm(self) -> float:
        """Resistance on the thermistor's input, in ohm."""
        v = self._v
        probe = thermistor_ohm(v.ntc_r25_ohm, v.ntc_beta_k, self._warmth.water_c)
        way = v.ntc_wire_ohm + v.ntc_plug_ohm + loose_ohm(v.ntc_plug_gap_mm)
        return (probe + way) * (1 + 2 * v.board_sense_off_share)

    @property
    def water_by_ntc_c(self) -> float:
        """What the board's table makes of that, in °C."""
        return thermistor_c(self._v.ntc_nominal_ohm, self._v.ntc_nominal_k, self.ntc_ohm)

    @property
    def air_c(self) -> float | None:
        """Warmth of the drying air by its sensor, in °C; None without a signal."""
        v = self._v
        plug = v.air_plug_ohm + loose_ohm(v.air_plug_gap_mm)
        return None if plug > NO_SIGNAL_OHM else self._air.heated_c + v.air_sensor_off_k

    @property
    def speed_rpm(self) -> float | None:
        """Drum's speed by the pulses the board gets, which come from the motor where a tacho sits
        on its shaft; None where none come."""
        v = self._v
        if self._kind in ON_MOTOR:
            coil = v.tacho_coil_ohm + v.tacho_wire_ohm + v.tacho_plug_ohm
            coil += loose_ohm(v.tacho_plug_gap_mm)
            swings_v = v.tacho_v * v.tacho_magnet_share
            dumb = self._kind != "FI" and (coil > NO_SIGNAL_OHM or swings_v < LEAST_SWING_V)
        elif self._kind in ("TS", "SL"):
            plug = v.speed_plug_ohm + loose_ohm(v.speed_plug_gap_mm)
            missing = (
                v.speed_signal_share < 0.5
                or plug > NO_SIGNAL_OHM
                or v.speed_supply_v < LEAST_SUPPLY_V
            )
            dumb = self._now.in_spin and missing
        else:
            dumb = False
        if self._kind in ON_MOTOR:
            return None if dumb else self._now.motor_rpm / v.belt_ratio
        return None if dumb else self._now.drum_rpm

    @property
    def phases_carry(self) -> bool:
        """Whether every phase of an inverter that drives carries current."""
        direct = self._kind in DIRECT_KINDS
        return not direct or max(phases_ohm(self._v)) < OPEN_PHASE_OHM

    @property
    def contact(self) -> bool:
        """Whether lock or lid switch says that it is shut."""
        v = self._v
        if self._kind == "TG":
            shut = self._door_shut() or v.lid_contact_held > 0.5
            return shut and v.lock_contact_ohm < 100
        return self._now.locked and v.lock_contact_ohm < 100

    @property
    def shifted(self) -> bool:
        """Whether the shifter says it stands at spin."""
        return self._now.in_spin and self._v.shifter_switch_stuck < 0.5

    @property
    def uneven_kgm(self) -> float:
        """Unbalance in kilogram metre by the ripple of the speed; a stuck balance switch says it
        is too much."""
        v = self._v
        held = v.balance_switch_held > 0.5 or v.lever_held > 0.5
        return FAR_OFF_KGM if held else v.unbalance_kgm * self._now.lies_share
