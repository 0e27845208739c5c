"""The walk with the probes: one stop after the other, each kept by itself when it has settled and
the probes are lifted."""

from dataclasses import dataclass

from fastapi import APIRouter, Request, Response

from bottega.app.answer import Answer
from bottega.app.errors import NotFound
from bottega.app.job.answer import diagnose
from bottega.app.measure.walk import Stop, read_at, stop_of, stops
from bottega.app.values import whole
from bottega.app.workshop import Workshop
from bottega.core.job.job import Job
from bottega.core.job.words import checked as told
from bottega.web.kit.errors import REFUSALS, note_of
from bottega.web.kit.noting import note_body
from bottega.web.kit.page import (
    ErrorNote,
    Page,
    go_to,
    render,
    status_of,
    workshop_of,
)
from bottega.web.kit.security import Form, text_of
from bottega.web.measure.pins import PinMap, pin_map

router = APIRouter(prefix="/jobs/{number}", include_in_schema=False)
MOST_STOPS = 12
"""Stops of one walk; chosen, more than any machine has terminals in one place."""


@dataclass(frozen=True)
class WalkPage:
    """What a walk gets: its stops with what was read at those that are done, where one stands,
    and the machine on the rig it may be bound to."""

    page: Page
    answer: Answer
    stops: list[tuple[Stop, str]]
    at: int
    checks: str
    plug: PinMap | None
    rig: str | None
    error: ErrorNote | None

    @property
    def here(self) -> Stop | None:
        """Return the stop one stands at; None at the end."""
        return self.stops[self.at][0] if self.at < len(self.stops) else None


@router.get("/walk")
def walk_page(request: Request, number: str, checks: str = "", at: int = 0) -> Response:
    """Show the walk where it stands; a new one goes through all that can be measured now."""
    return _show(request, number, checks, at)


@router.post("/walk")
def walk_on(request: Request, number: str, form: Form) -> Response:
    """Keep what was read at a stop, or pass it by, and go on."""
    workshop, checks = workshop_of(request), text_of(form, "checks")
    at = whole(text_of(form, "at"), "at", 0, MOST_STOPS)
    if not text_of(form, "pass"):
        answer = diagnose(workshop, number)
        typed = [str(value).strip() for value in form.getlist("typed")]
        try:
            stop = _named(workshop, answer, text_of(form, "check"))
            note_body(request, answer, form, read_at(workshop, answer, stop, typed))
        except REFUSALS as error:
            if isinstance(error, NotFound):
                raise
            return _show(
                request, number, checks, at, error=note_of(error, {"typed": " ".join(typed)})
            )
    return go_to(request, "walk_page", number=number, checks=checks, at=at + 1)


def _show(
    request: Request, number: str, checks: str, at: int, *, error: ErrorNote | None = None
) -> Response:
    workshop = workshop_of(request)
    answer = diagnose(workshop, number)
    names = [name for name in checks.split(",") if name][:MOST_STOPS]
    found = (
        [_named(workshop, answer, name) for name in names]
        if names
        else stops(workshop, answer)[:MOST_STOPS]
    )
    ticket = workshop.rigs.of_job(number)
    context = WalkPage(
        page=Page("A walk with the probes"),
        answer=answer,
        stops=[(stop, _read(answer, stop)) for stop in found],
        at=min(max(at, 0), len(found)),
        checks=",".join(stop.check.id for stop in found),
        plug=pin_map(workshop, answer, found[at].check) if 0 <= at < len(found) else None,
        rig=ticket.name if ticket else None,
        error=error,
    )
    return render(request, "measure/walk.html", context, status_of(error))


def _named(workshop: Workshop, answer: Answer, name: str) -> Stop:
    check = answer.machine.checks.get(name)
    stop = stop_of(workshop, check) if check else None
    if stop is None:
        raise NotFound(f"Found no stop '{name[:40]}', expected a measurement by wire.")
    return stop


def _read(answer: Answer, stop: Stop) -> str:
    """Return what was read at a stop since the last repair, in words; empty where nothing was."""
    job: Job = answer.job
    last = [
        body
        for entry, body in job.checked()
        if body.check == stop.check.id and entry.epoch == job.epoch
    ]
    return told(answer.machine, last[-1])[1] if last else ""
