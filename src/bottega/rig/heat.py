"""Heat into the water and out of it."""

from bottega.rig.values import Values

WATER_J = 4186.0
"""Heat capacity of a litre of water, joule/kelvin (at 20 °C)."""
SCALE_K_W_MM = 0.0157
"""Kelvin for each watt that a millimetre of limescale holds back on an element of 640 square
centimetre: 1 W/(m K)."""
BOILS_C, STEAM_J_L = 100.0, 2.257e6
"""Where water boils at sea level, and the joule that turn a litre into steam (IAPWS)."""


class Warmth:
    """Element, water with the tub, and room, as three stores of heat; energies in joule since
    the beginning."""

    def __init__(self, v: Values) -> None:
        self.v = v
        self.water_c = v.room_c
        self.element_c = v.room_c
        self.litres = 0.0
        """All the water, that in the laundry with it."""
        self.held_l = 0.0
        """Of that, what the laundry holds."""
        self.cut_out = False
        self.steamed_l = 0.0
        self.put_in = self.carried_in = self.carried_out = self.lost = 0.0

    @property
    def stored(self) -> float:
        """Return the heat stored over that of room temperature, in joule."""
        v = self.v
        water = WATER_J * self.litres + v.tub_heat_j_k
        return water * (self.water_c - v.room_c) + v.element_heat_j_k * (self.element_c - v.room_c)

    @property
    def store_j_k(self) -> float:
        """Return what the water with the tub takes to grow a kelvin warmer, in joule."""
        return WATER_J * self.litres + self.v.tub_heat_j_k

    @property
    def free_l(self) -> float:
        """Return the water that stands in the tub, in litre."""
        return max(0.0, self.litres - self.held_l)

    def pour(self, litres: float, at_c: float) -> None:
        """Add water of a temperature; mixing keeps the heat."""
        v, before = self.v, WATER_J * self.litres + self.v.tub_heat_j_k
        added = WATER_J * litres
        self.carried_in += added * (at_c - v.room_c)
        self.water_c = (before * self.water_c + added * at_c) / (before + added)
        self.litres += litres

    def drain(self, litres: float) -> float:
        """Take water away at its temperature; return how much there was to take, in litre."""
        taken = min(litres, self.free_l)
        self.litres -= taken
        self.carried_out += WATER_J * taken * (self.water_c - self.v.room_c)
        return taken

    def air_dries(self, litres: float, joule: float) -> None:
        """Let air take so much water from the laundry, and bring it so much heat (less than none
        where it takes more with its vapour)."""
        self.carried_out += WATER_J * litres * (self.water_c - self.v.room_c) - joule
        self.litres -= litres
        self.held_l -= litres
        self.water_c += joule / self.store_j_k

    def heat(self, watts: float, seconds: float) -> float:
        """Let the element give its watts for a time, and everything cool; return the watts it
        took, which are none once its cut-out, a fuse, has opened. At boiling water goes off as
        steam, and grows no warmer."""
        v = self.v
        if self.element_c > v.cut_out_opens_c:
            self.cut_out = True
        watts = 0.0 if self.cut_out or v.cut_out_ohm > 100 else watts
        wet = self.free_l > v.element_covered_l
        resist = v.film_k_w + SCALE_K_W_MM * v.scale_mm if wet else v.dry_k_w
        across = (self.element_c - self.water_c) / resist * seconds
        across = (
            min(across, (self.element_c - self.water_c) * v.element_heat_j_k)
            if across > 0
            else across
        )
        cooling = v.loss_w_k * (self.water_c - v.room_c) * seconds
        self.put_in += watts * seconds
        self.lost += cooling
        self.element_c += (watts * seconds - across) / v.element_heat_j_k
        self.water_c += (across - cooling) / self.store_j_k
        if self.water_c > BOILS_C:
            self._boil((self.water_c - BOILS_C) * self.store_j_k)
        return watts

    def _boil(self, joule: float) -> None:
        """Let so much heat leave with the water it makes into steam."""
        steam = min(joule / STEAM_J_L, self.litres)
        self.litres -= steam
        self.steamed_l += steam
        self.carried_out += joule + steam * WATER_J * (BOILS_C - self.v.room_c)
        self.water_c = BOILS_C
