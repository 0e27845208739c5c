"""What of a job was asked for by its address."""

from dataclasses import dataclass, replace
from typing import Literal

from fastapi import Request

from bottega.core.job.stations import STATIONS, Station
from bottega.web.kit.page import url_of

VIEWS = ("section", "layers")
Tab = Literal["next", "drawing", "ledger"]
TABS: dict[Tab, str] = {"next": "Next", "drawing": "Drawing", "ledger": "Ledger"}
"""The tabs of the phone, each with its name."""


@dataclass(frozen=True)
class Asked:
    """A station; at proving a check, a part, a search or a mark (empty for no part yet); the fault
    the ledger weighs for; the drawing as a section or as layers."""

    station: Station
    check: str | None = None
    part: str | None = None
    find: str | None = None
    mark: str | None = None
    point: tuple[float, float] | None = None
    """Where on the drawing was tapped for a mark, in its own units."""
    weigh: str | None = None
    view: str = VIEWS[0]
    tab: Tab = "next"
    """What the phone shows."""
    ask: str | None = None
    """An entry of the ledger that is about to be taken back."""
    before: int | None = None
    """Before which entry the ledger is shown, counted from one; None for the newest."""

    @property
    def layers(self) -> bool:
        """Return whether the strip-down is shown instead of the section."""
        return self.view == "layers"

    @property
    def name(self) -> str:
        """Return the station's name."""
        return STATIONS[self.station]

    def address(self, request: Request, number: str) -> str:
        """Return the address that shows the same again."""
        return url_of(
            request,
            "job_station",
            number=number,
            station=self.station,
            check=self.check,
            part=self.part,
            find=self.find,
            mark=self.mark,
            weigh=self.weigh,
            view=self.view if self.layers else None,
        )

    def at(self, station: Station) -> "Asked":
        """Return the same asked of another station."""
        return replace(self, station=station)
