"""The air that goes round in a dryer: from its heater through the laundry, over the condenser, and
back to the heater."""

from math import exp

from bottega.rig.heat import Warmth
from bottega.rig.state import STEP_S
from bottega.rig.values import Values

AIR_KG_M3, AIR_J_KG_K, VAPOUR_J_KG = 1.06, 1006.0, 2.40e6
"""Density of air at 60 °C, its heat capacity, and the heat that turns a kilogram of water at 40 °C
into vapour (ASHRAE Fundamentals, Psychrometrics)."""
WATER_J_KG_K = 4186.0
AIR_PA = 101_325.0
"""Pressure of the room's air, in pascal."""
MOIST_TO_C = 95.0
"""Warmth up to which moist air is reckoned, in °C."""
LAUNDRY_REACHED = 0.6
"""How near air comes to the laundry it passes, in warmth and in moisture (Lewis: both alike);
chosen, much of it goes past in a loosely filled drum."""
WETS_L_KG = 0.15
"""Litre a kilogram of cotton below which its surface is no longer all wet; chosen, twice what it
takes up from moist air."""
CONDENSER_W_K, SCUM_M2_K_W, CONDENSER_M2 = 8.0, 0.0025, 0.05
"""What a clean condenser hands over by each kelvin of air, in watt; what a millimetre of wet lint
and scum holds back, in square metre kelvin a watt (0.4 W/(m K)); its area. Chosen, a shaft a hand
wide."""
CONDENSER_J_K, CONDENSER_LOSS_W_K = 3000.0, 2.0
"""Heat capacity of the condenser with its film of water, and what it loses to the room; chosen."""
HEATER_J_K, HEATER_LOSS_W_K = 900.0, 1.0
"""Heat capacity of the heater in its duct, and what it loses to the room; chosen."""
SMOOTHED_S = 60.0
"""Time over which the rate of drying is smoothed, in second; chosen."""


def moisture(at_c: float) -> float:
    """Return the water in saturated air at a temperature in °C, up to 95, in kilogram a kilogram of
    dry air (Magnus' formula by Alduchov and Eskridge, 1996)."""
    at_c = min(at_c, MOIST_TO_C)
    pascal = 610.94 * exp(17.625 * at_c / (at_c + 243.04))
    return 0.622 * pascal / (AIR_PA - pascal)


class AirLoop:
    """The air of a dryer and what it passes, as stores of heat: the heater, the laundry (with its
    water, in ``warmth``), the condenser. Air itself stores nothing."""

    def __init__(self, v: Values) -> None:
        self.v = v
        self.heated_c = self.back_c = self.condenser_c = v.room_c
        """Warmth of the air after the heater and after the condenser, and of the condenser, in
        °C."""
        self.back_moist = moisture(v.room_c) / 2
        """Water in the air after the condenser, in kilogram a kilogram of dry air."""
        self.dries_g_s = 0.0
        """Water that leaves the laundry, in gram/second, smoothed."""
        self.holds_l = 0.0
        """Water in the air on its way, in litre."""
        self.put_in = self.lost = self.to_water = 0.0
        """Heat the heater gave, what went to the room, and what the condenser's water took, in
        joule since the beginning."""

    @property
    def rests(self) -> bool:
        """Whether everything is as warm as the room."""
        warmest = max(self.heated_c, self.condenser_c)
        return warmest < self.v.room_c + 1 and self.dries_g_s < 1e-6

    def blow(
        self, kg_s: float, watts: float, warmth: Warmth, load_kg: float, *, water_l_min: float
    ) -> float:
        """Blow so many kilogram of air a second round for a step, with so much heat and so much
        water down the condenser; return the litres that came down from the air."""
        out_c, out_moist = self._past_laundry(kg_s, warmth, load_kg)
        reached = self._reached(kg_s)
        down = reached * max(0.0, out_moist - moisture(self.condenser_c))
        cooled = reached * (out_c - self.condenser_c)
        self._warm(kg_s, watts)
        self._cool(kg_s * (AIR_J_KG_K * cooled + VAPOUR_J_KG * down), water_l_min)
        self.holds_l += kg_s * (out_moist - down - self.back_moist) * STEP_S
        self.back_c, self.back_moist = out_c - cooled, out_moist - down
        return kg_s * down * STEP_S

    def _past_laundry(self, kg_s: float, warmth: Warmth, load_kg: float) -> tuple[float, float]:
        """Let the air dry the laundry for a step; return its warmth and its moisture after."""
        laundry_c, held_l = warmth.water_c, warmth.held_l
        wet = min(1.0, held_l / (WETS_L_KG * load_kg)) if load_kg else 0.0
        taken = LAUNDRY_REACHED * wet * (moisture(laundry_c) - self.back_moist)
        taken = min(taken, held_l / (kg_s * STEP_S)) if kg_s else 0.0
        given_c = LAUNDRY_REACHED * (self.heated_c - laundry_c)
        warmth.air_dries(
            kg_s * taken * STEP_S,
            kg_s * (AIR_J_KG_K * given_c - VAPOUR_J_KG * taken) * STEP_S,
        )
        self.dries_g_s += (1000 * kg_s * taken - self.dries_g_s) * STEP_S / SMOOTHED_S
        return self.heated_c - given_c, self.back_moist + taken

    def _reached(self, kg_s: float) -> float:
        """Return how near air comes to the condenser: 1 - e^(-UA/ṁc) (Incropera, effectiveness
        beside a store of one temperature), with the scum on it in series."""
        if not kg_s:
            return 0.0
        scum = SCUM_M2_K_W * self.v.condenser_scum_mm / CONDENSER_M2
        return 1 - exp(-1 / ((1 / CONDENSER_W_K + scum) * kg_s * AIR_J_KG_K))

    def _warm(self, kg_s: float, watts: float) -> None:
        carried = kg_s * AIR_J_KG_K * (self.heated_c - self.back_c)
        lost = HEATER_LOSS_W_K * (self.heated_c - self.v.room_c)
        self.put_in += watts * STEP_S
        self.lost += lost * STEP_S
        self.heated_c += (watts - carried - lost) / HEATER_J_K * STEP_S

    def _cool(self, watts: float, water_l_min: float) -> None:
        to_water = water_l_min / 60 * WATER_J_KG_K * (self.condenser_c - self.v.cold_tap_c)
        lost = CONDENSER_LOSS_W_K * (self.condenser_c - self.v.room_c)
        self.to_water += to_water * STEP_S
        self.lost += lost * STEP_S
        self.condenser_c += (watts - to_water - lost) / CONDENSER_J_K * STEP_S
