"""Records of what turns and what keeps water from it: bearings, fits, shaft seals, as their
standards list them."""

from pydantic import Field, model_validator

from bottega.core.library.records import Record

Deviations = tuple[float, float]
"""Upper and lower, in thousandths of a millimetre."""


class SuffixRecord(Record):
    """What a suffix of a mark says, and why one would want it."""

    says: str
    why: str
    keeps_out: str = ""
    rare: bool = False
    """Whether it is thought of only where the mark shows its letter."""


class MarkedTable(Record):
    """Suffixes by their letters."""

    source: str
    names: dict[str, SuffixRecord]


class BallProportions(Record):
    """How large and how many the balls of a bearing are: a share of the space between its rings,
    over which arc they are filled in."""

    source: str
    share: float = Field(gt=0, lt=0.5)
    filled_deg: float = Field(gt=90, lt=360)


class RatingTable(Record):
    """The factors of ISO 281: fc by ball over pitch diameter."""

    source: str
    bm: float = Field(gt=0)
    fc: dict[float, float] = Field(min_length=2)


class BearingTable(Record):
    """tables/bearings.yaml: by series and bore in mm, outside diameter and width in mm."""

    source: str
    series: dict[str, dict[float, tuple[float, float]]]
    closures: MarkedTable
    clearances: MarkedTable
    balls: BallProportions
    rating: RatingTable

    @model_validator(mode="after")
    def _rings_go_round_the_bore(self) -> "BearingTable":
        for series, rows in self.series.items():
            if list(rows) != sorted(rows):
                raise ValueError(f"found the bores of {series} out of order")
            for bore, (outside, width) in rows.items():
                if not 0 < width < outside or bore >= outside:
                    raise ValueError(f"found {bore:g} x {outside:g} x {width:g} in {series}")
        return self


class BearingClass(Record):
    """Deviations of a bearing's own bore and outside diameter."""

    source: str
    bore: dict[float, Deviations]
    outside: dict[float, Deviations]


class UsualFit(Record):
    """A usual pair of fits."""

    shaft: str
    housing: str


class UsualFits(Record):
    """The fits of drum and motor."""

    source: str
    drum: UsualFit
    motor: UsualFit


class Material(Record):
    """A material: how stiff, how much it grows, how hot it may be made."""

    name: str
    elastic_gpa: float = Field(gt=0)
    expands_um_m_k: float = Field(gt=0)
    hottest_c: float = Field(gt=0)


class Materials(Record):
    """The materials of shafts and housings."""

    source: str
    aluminium: Material
    cast_iron: Material
    plastic: Material


class Pressing(Record):
    """How a bearing is put in: the wall usually round its seat, the gap it drops in with, the room
    it is done in."""

    source: str
    wall_mm: float = Field(gt=0)
    gap_um: float = Field(gt=0)
    room_c: float


class FitTable(Record):
    """tables/fits.yaml: deviations by class and diameter."""

    source: str
    over_mm: float
    shafts: dict[str, dict[float, Deviations]]
    housings: dict[str, dict[float, Deviations]]
    bearing: BearingClass
    usual: UsualFits
    pressing: Pressing
    materials: Materials


class SealForm(Record):
    """A form of shaft seal: what its lips keep out."""

    name: str
    water: int = Field(ge=0, le=3)
    """Lips that keep water out of the side they look from."""
    dust: int = Field(ge=0, le=2)
    dearer: float = Field(default=1, gt=0)
    """Its price over that of the plain form."""


class SealTable(Record):
    """tables/seals.yaml: shaft seals as they are in stock, all in mm; ``sizes`` by shaft and
    bore the widths and a usual price."""

    source: str
    prices: str
    """Where the prices are from."""
    forms: dict[str, SealForm]
    sizes: dict[float, dict[float, dict[float, float]]]
    bore_within_mm: float = Field(gt=0)
    """By how much a seat may differ from the seal's outside diameter."""
    shaft_within_mm: float = Field(gt=0)
    """By how much the shaft may differ from the seal's."""
    lip_at: float = Field(gt=0.5, lt=1)
    """Where its lip touches, as a share of its width from its back."""
