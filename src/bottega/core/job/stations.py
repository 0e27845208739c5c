"""The ten stations of a job, and where a job stands among them."""

from dataclasses import dataclass
from typing import Literal, get_args

from bottega.core.job.events import StateChanged
from bottega.core.job.job import Job
from bottega.core.job.proofs import owed
from bottega.core.library.machine_type import MachineType

Station = Literal[
    "call", "safe", "panel", "prove", "decide", "open", "fit", "close", "proof", "handover"
]
STATIONS: dict[Station, str] = dict(
    zip(
        get_args(Station),
        (
            "Call",
            "Make safe",
            "Panel",
            "Prove",
            "Decide",
            "Open up",
            "Fit",
            "Close up",
            "Prove repair",
            "Hand over",
        ),
        strict=True,
    )
)
"""The stations in their order, each with its name on the rail."""
WAIVABLE: tuple[Station, ...] = get_args(Station)[:8]
"""A proof is waived one by one, and a hand-over is not waived at all."""


Mark = Literal["open", "done", "waived", "none"]


@dataclass(frozen=True)
class Stamp:
    """One station of the rail: open, done, waived with a reason, or not for this machine."""

    id: Station
    number: int
    name: str
    mark: Mark
    reason: str | None


def stations(job: Job, machine: MachineType) -> list[Stamp]:
    """Return the ten stations with their stamps."""
    debts = owed(job, machine)
    made_safe = job.state.power == "off" or any(isinstance(e.body, StateChanged) for e in job.live)
    settled = job.decided is not None and job.decided.choice != "repair"
    several = job.decided is not None and bool(job.decided.also)
    made = bool(job.repairs) and not (several and job.to_make)
    done: dict[Station, bool] = {
        "call": job.complaint is not None,
        "safe": made_safe,
        "panel": job.panel is not None,
        "prove": job.decided is not None or bool(job.repairs),
        "decide": job.decided is not None,
        "open": made or settled or (job.decided is not None and bool(job.state.off)),
        "fit": made or settled,
        "close": (made or settled) and not job.state.off,
        "proof": (made or settled) and all(debt.settled for debt in debts),
        "handover": job.handed_over is not None,
    }
    absent: set[Station] = {"panel"} if machine.panel is None and not done["panel"] else set()
    return [
        Stamp(
            key,
            n,
            name,
            "none" if key in absent else _mark(job, key, done[key]),
            job.stations_waived.get(key),
        )
        for n, (key, name) in enumerate(STATIONS.items(), start=1)
    ]


def _mark(job: Job, station: Station, done: bool) -> Mark:
    return "waived" if station in job.stations_waived else "done" if done else "open"


def current_station(job: Job, machine: MachineType) -> Station:
    """Return the station where the job stands: the first that is still open after the last one
    stamped, or the first."""
    stamps = stations(job, machine)
    if job.handed_over is not None:
        return "handover"
    passed = {"safe", "panel"} if job.checked() else set()
    must = {"call", "prove", "decide", "fit", "close", "proof", "handover"}
    for stamp in stamps:
        later_done = any(other.mark == "done" for other in stamps[stamp.number :])
        if stamp.mark == "open" and stamp.id not in passed and (stamp.id in must or not later_done):
            return stamp.id
    return stamps[-1].id
