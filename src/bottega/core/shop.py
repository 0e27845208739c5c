"""The shop's settings: money, mains, units, and the schools it follows."""

from dataclasses import dataclass
from typing import Literal

from bottega.core.gear import Instrument

School = Literal["prove_first", "swap_cheap"]


@dataclass(frozen=True)
class ShopSettings:
    """What the shop chose once. Money in ``currency``; ``per_eur`` turns the library's euro prices
    into it."""

    name: str = "Bottega"
    currency: str = "EUR"
    per_eur: float = 1.0
    rate_per_hour: float = 54.0
    visit_fee: float = 38.0
    tax_rate: float = 0.22
    part_markup: float = 0.15
    mains_v: float = 230.0
    mains_hz: float = 50.0
    units: Literal["metric", "us"] = "metric"
    school: School = "prove_first"
    prove_at: float = 0.85
    ferry_days: tuple[int, ...] = ()
    """Weekdays (Monday is 0) on which parts arrive."""
    limits: str = "after_repair"
    """The set of limits its electrical checks are held against, of tables/limits.yaml."""
    parts: Literal["equivalent", "makers"] = "equivalent"
    """Whether another part than the maker's may go in."""
    schools: tuple[tuple[str, str], ...] = ()
    """By disagreement of tables/schools.yaml the side the shop takes; what is missing is usual."""
    seals: tuple[str, ...] = ()
    """Shaft seals that lie on the shelf, as shaft x bore x width."""
    pace: tuple[tuple[str, float], ...] = ()
    """By operation the share of the library's minutes that the shop takes over it, as it was
    learned; empty where its plans count with the library's."""
    gear: tuple[Instrument, ...] = ()
    """The test gear; none written down means the usual is there."""

    def money(self, eur: float) -> float:
        """Return an amount of the library's euro in the shop's currency."""
        return eur * self.per_eur

    def charged(self, eur: float) -> float:
        """Return what a part is charged at, in the shop's currency before tax: its price in the
        library's euro with the markup, to the cent."""
        return round(self.money(eur) * (1 + self.part_markup), 2)
