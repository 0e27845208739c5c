"""What the sheets of all stations share: what one is built from, and where it leads on the
drawing."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import ClassVar

from bottega.app.answer import Answer
from bottega.app.workshop import Workshop
from bottega.core.machine.reach import Reach
from bottega.web.kit.page import ErrorNote
from bottega.web.station.asked import Asked


@dataclass(frozen=True)
class Desk:
    """What the sheet of a station is built from: the shop, the job worked out, what was asked, what
    went wrong."""

    workshop: Workshop
    answer: Answer
    asked: Asked
    error: ErrorNote | None


@dataclass(frozen=True)
class Lead:
    """Where a sheet leads: the way to be gone, and the component at its end."""

    reach: Reach
    component: str


@dataclass(frozen=True)
class Sheet:
    """The right-hand side of a job at one station. Each kind names its template and may lead
    somewhere."""

    template: ClassVar[str]

    @property
    def lead(self) -> Lead | None:
        """Return where it leads on the drawing, if it does."""
        return None


MakeSheet = Callable[[Desk], Sheet]
