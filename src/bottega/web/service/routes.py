"""The service run: its steps led one by one, live where a record exists, typed where not."""

from dataclasses import dataclass, replace

from fastapi import APIRouter, Request, Response
from starlette.datastructures import FormData

from bottega.app.answer import Answer
from bottega.app.errors import BadValue, NotFound, Refused
from bottega.app.job.answer import diagnose
from bottega.app.job.record import parse_body, why_not
from bottega.app.job.standing import declares
from bottega.app.rig.acts import act
from bottega.app.rig.in_hand import stand_at
from bottega.app.service.recorded import Sum, bands_of, sums
from bottega.app.service.run import Led, fullest_l, steps_led, verdict
from bottega.app.workshop import Workshop
from bottega.core.job.events import Checked
from bottega.core.library.checks import both
from bottega.core.library.machine_type import Outcome
from bottega.core.machine.service import READY
from bottega.core.measure.trace import Shows, TraceError, read_trace, shows
from bottega.core.wording import sentence
from bottega.web.kit.errors import REFUSALS, Refusal, note_of
from bottega.web.kit.noting import note_body
from bottega.web.kit.page import (
    ErrorNote,
    Page,
    go_to,
    render,
    status_of,
    workshop_of,
)
from bottega.web.kit.security import HIDDEN, Form, file_of, text_of, texts_of
from bottega.web.rig.page import LiveStand, live_of

router = APIRouter(prefix="/jobs/{number}/service", include_in_schema=False)
NAMED = ("step", "what", "to", "kind")
MOST_LISTED = 60
"""Switchings, and speeds held, of a record that a page lists; chosen, a long run has as many."""
MOST_RUN_BYTES = 4_000_000
"""Of a record; chosen, its most lines with all columns."""


@dataclass(frozen=True)
class StepNeed:
    """What has to be so before steps are run, and is not: the field, what it is to be, in words."""

    what: str
    to: str
    words: str


@dataclass(frozen=True)
class ServicePage:
    """What the page of a service run gets: what is not ready, the steps, the one that is led, its
    outcomes, what a record shows, and the machine on the rig."""

    page: Page
    answer: Answer
    missing: list[StepNeed]
    steps: list[Led]
    led: Led | None
    outcomes: tuple[Outcome, ...]
    goes_on: str
    fullest: float | None
    typed: dict[str, str]
    error: ErrorNote | None
    shown: Shows | None
    more: int
    """What was switched and which speeds were held beyond those shown."""
    sums: list[Sum]
    gaps: int
    rig: str | None
    live: LiveStand | None
    declares: str
    """The check that plugging in is declared for as a live test; empty where none has to be."""


@router.get("")
def service_page(request: Request, number: str, step: str = "") -> Response:
    """Show the run where it stands: the step asked for, else the first that is not done."""
    return _show(request, number, step)


@dataclass(frozen=True)
class ServiceLive:
    """What changes by itself while a step runs."""

    page: Page
    answer: Answer
    led: Led | None
    live: LiveStand


@router.get("/live")
def service_live(request: Request, number: str, step: str = "") -> Response:
    """Show what the machine on the rig does now, with the pass band of the step. Raises
    NotFound."""
    workshop = workshop_of(request)
    answer, ticket = diagnose(workshop, number), workshop.rigs.of_job(number)
    if ticket is None:
        raise NotFound("This job has no machine on the rig.")
    led = next((one for one in steps_led(answer) if one.id == step), None)
    live = live_of(stand_at(workshop, ticket.name), bands_of(answer, led))
    return render(request, "service/live.html", ServiceLive(Page("Live"), answer, led, live))


@router.post("/ready")
def service_ready(request: Request, number: str, form: Form) -> Response:
    """Note that the machine was brought into the state a run needs."""
    step = text_of(form, "step")
    what, to = text_of(form, "what"), text_of(form, "to")
    body = {"kind": "state_changed", "what": what, "to": to, **texts_of(form, *HIDDEN, *NAMED)}
    if what == "off":
        body = {"kind": "took_off", "operation": to}
    if what == "back":
        body = {"kind": "put_back", "operation": to}
    try:
        note_body(request, diagnose(workshop_of(request), number), form, parse_body(body))
    except REFUSALS as error:
        return _refused(request, number, step, form, error=error)
    return go_to(request, "service_page", number=number, step=step or None)


@router.post("/verdict")
def service_verdict(request: Request, number: str, form: Form) -> Response:
    """Note how a step went, and go on to the next."""
    step, workshop = text_of(form, "step"), workshop_of(request)
    try:
        answer = diagnose(workshop, number)
        known = {led.id: led for led in steps_led(answer)}
        _refuse_unready(answer, known.get(step))
        note_body(request, answer, form, verdict(workshop, answer, step, texts_of(form, *HIDDEN)))
    except REFUSALS as error:
        return _refused(request, number, step, form, error=error)
    return go_to(request, "service_page", number=number)


@router.post("/start")
def service_start(request: Request, number: str, form: Form) -> Response:
    """Let the machine on the rig do the step."""
    step, workshop = text_of(form, "step"), workshop_of(request)
    try:
        ticket = workshop.rigs.of_job(number)
        led = {one.id: one for one in steps_led(diagnose(workshop, number))}.get(step)
        if ticket is None or led is None or not led.step.runs:
            raise NotFound("Found no machine on the rig that does this step.")
        _refuse_start(workshop, diagnose(workshop, number), led)
        at = stand_at(workshop, ticket.name)
        act(workshop, ticket.name, "start", led.step.runs, seen=at.acts)
    except REFUSALS as error:
        return _refused(request, number, step, form, error=error)
    return go_to(request, "service_page", number=number, step=step)


@router.post("/record")
def service_record(request: Request, number: str, form: Form) -> Response:
    """Read a record of a run, and say what it shows. It is not kept."""
    step = text_of(form, "step")
    try:
        raw = file_of(form, "file", MOST_RUN_BYTES)
        if not raw:
            raise BadValue("No file came along.", "file")
        trace = read_trace(raw.decode("utf-8-sig"))
    except UnicodeDecodeError:
        wrong = BadValue("Found no text, expected CSV in UTF-8.", "file")
        return _refused(request, number, step, form, error=wrong)
    except TraceError as error:
        wrong = BadValue(sentence(error), "file")
        return _refused(request, number, step, form, error=wrong)
    except REFUSALS as error:
        return _refused(request, number, step, form, error=error)
    return _show(request, number, step, shown=shows(trace), gaps=len(trace.gaps))


def _refuse_unready(answer: Answer, led: Led | None) -> None:
    """Raise BadValue where the machine does not stand as a step wants it."""
    lacking = _missing(answer, led)
    if lacking:
        raise BadValue(f"Not yet. First: {', '.join(m.words.lower() for m in lacking)}.", "step")


def _refuse_start(workshop: Workshop, answer: Answer, led: Led) -> None:
    """Raise BadValue where the machine does not stand as a step wants it, Refused where running it
    would break what may never be."""
    _refuse_unready(answer, led)
    body = Checked(check=led.check.id, step=led.id, outcome=led.check.outcomes[0].id)
    why = why_not(workshop, answer, body, workshop.now())
    if why:
        raise Refused(why, "step")


def _refused(
    request: Request, number: str, step: str, form: FormData, *, error: Refusal
) -> Response:
    if isinstance(error, NotFound):
        raise error
    return _show(request, number, step, note_of(error, texts_of(form, *HIDDEN)))


def _missing(answer: Answer, led: Led | None) -> list[StepNeed]:
    """Return what a run needs, and this step's own check beside it, and is not so, safely in order:
    upright before it is plugged in."""
    needs = both(READY, led.check.needs) if led else READY
    reach = answer.reaching.reach(answer.job.state, needs)
    return [StepNeed(step.what, step.to, step.name) for step in reach.steps]


def _first(shown: Shows) -> Shows:
    """Return of what a record shows as much as a page takes."""
    return replace(
        shown, switched=shown.switched[:MOST_LISTED], plateaus=shown.plateaus[:MOST_LISTED]
    )


def _more(shown: Shows) -> int:
    """Return how much of what a record shows is beyond that."""
    lists = (shown.switched, shown.plateaus)
    return sum(max(0, len(one) - MOST_LISTED) for one in lists)


def _show(
    request: Request,
    number: str,
    step: str,
    error: ErrorNote | None = None,
    *,
    shown: Shows | None = None,
    gaps: int = 0,
) -> Response:
    workshop = workshop_of(request)
    answer = diagnose(workshop, number)
    steps = steps_led(answer)
    known = {led.id: led for led in steps}
    if step and step not in known:
        raise NotFound(f"Found the step '{step[:40]}', expected one of this machine's.")
    led = known.get(step) or next((one for one in steps if not one.went), None)
    panel, ticket = answer.machine.panel, workshop.rigs.of_job(number)
    context = ServicePage(
        page=Page(f"Service run {number}"),
        answer=answer,
        missing=_missing(answer, led),
        steps=steps,
        led=led,
        outcomes=led.check.outcomes if led else (),
        goes_on=(panel.steps or panel.how) if panel else "",
        fullest=fullest_l(answer.machine),
        typed=error.typed if error else {},
        error=error,
        shown=_first(shown) if shown else None,
        more=_more(shown) if shown else 0,
        sums=sums(answer, shown) if shown else [],
        gaps=gaps,
        rig=ticket.name if ticket else None,
        declares=led.check.id if led and declares(answer, led.check) else "",
        live=live_of(stand_at(workshop, ticket.name), bands_of(answer, led)) if ticket else None,
    )
    return render(request, "service/page.html", context, status_of(error))
