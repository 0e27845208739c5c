"""Where the screen goes on once something is noted: to the next station when this one is done with,
else it stays."""

from bottega.app.answer import Answer
from bottega.app.strip.plan import still_to_open
from bottega.core.job.events import AnyBody, Checked, HandedOver, Repaired
from bottega.core.job.proofs import checks_owed, owed
from bottega.core.job.stations import Station


def onward(station: Station, body: AnyBody, before: Answer, after: Answer) -> Station:
    """Return the station to go on at after ``body`` was noted at ``station``."""
    match body:
        case HandedOver():
            return "handover"
        case Repaired() if after.job.to_make and before.job.to_make != after.job.to_make:
            return "open" if still_to_open(after) else "fit"
        case Repaired():
            return "close" if after.job.state.off else "proof"
        case Checked() if body.check in checks_owed(before.job, before.machine):
            return "proof"
    return NEXT[station] if _left(station, before) and not _left(station, after) else station


NEXT: dict[Station, Station] = {"open": "fit", "close": "proof", "proof": "handover"}
"""Stations that end by themselves, when nothing of them is left."""


def _left(station: Station, answer: Answer) -> bool:
    """Return whether a station has something left to do; one that does not end by itself never
    has."""
    job = answer.job
    match station:
        case "open":
            return still_to_open(answer)
        case "close":
            return bool(job.state.off) or job.state.posture == "tipped"
        case "proof":
            return any(not debt.settled for debt in owed(job, answer.machine))
        case _:
            return False
