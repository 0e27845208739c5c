"""The notebook of a model: what panels showed in this shop that is in no table of its sheet."""

from dataclasses import dataclass

from bottega.app.errors import BadValue
from bottega.app.job.summary import sheet_of
from bottega.app.panel.heard import look_up
from bottega.app.workshop import Workshop
from bottega.core.library.machine_type import MachineType

MOST_STRANGE = 40
"""Entries of a model's notebook; chosen, a page of them."""


@dataclass(frozen=True)
class Strange:
    """One showing in no table, as it was written down, and the job it was seen in."""

    shown: str
    job: str
    photo: str
    """The name of its photo; empty where there is none."""


def strange_codes(workshop: Workshop, machine: MachineType) -> list[Strange]:
    """Return what is still in no table of a machine's sheet, the newest first."""
    if machine.sheet is None or machine.panel is None:
        return []
    found = [
        Strange(shown, summary.number, photo)
        for summary in workshop.summaries.with_strange_codes(machine.sheet)
        for shown, photo in sheet_of(summary).unlisted
        if not _known(machine, shown)
    ]
    return found[:MOST_STRANGE]


def _known(machine: MachineType, shown: str) -> bool:
    try:
        return look_up(machine, shown).code is not None
    except BadValue:
        return False
