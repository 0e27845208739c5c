"""Machines of physics: which there are, one to stand in front of, its sound, its run as a file."""

import io
from collections.abc import Callable
from dataclasses import dataclass

from fastapi import APIRouter, Request, Response
from starlette.datastructures import FormData

from bottega.app.errors import NotFound
from bottega.app.rig.acts import NOTHING_DECLARED, LiveTest, act
from bottega.app.rig.bound import call_about, check_on_rig
from bottega.app.rig.gestures import FeltCurve, felt
from bottega.app.rig.hands import bucket, meter, perform, take_off
from bottega.app.rig.in_hand import stand_at
from bottega.app.rig.leads import lay_for, lift, touched
from bottega.app.rig.stand import Stand, draw
from bottega.core.panel.encoder import shown
from bottega.rig.memory import codes_shown
from bottega.rig.sound import HEARD, beeps, sound_of, wav
from bottega.rig.telemetry import write_csv
from bottega.store.rigs import RigTicket
from bottega.web.kit.errors import REFUSALS, note_of
from bottega.web.kit.page import (
    ErrorNote,
    Page,
    asks_for_part,
    author_of,
    go_to,
    render,
    status_of,
    workshop_of,
)
from bottega.web.kit.security import HIDDEN, Form, seen_of, text_of, texts_of
from bottega.web.rig.page import LiveStand, live_of, rig_page

router = APIRouter(include_in_schema=False)


@dataclass(frozen=True)
class RigsPage:
    """What the list of machines gets."""

    page: Page
    kinds: list[tuple[str, str]]
    rigs: list[tuple[RigTicket, str]]
    error: ErrorNote | None


@dataclass(frozen=True)
class LivePage:
    """What the part that changes by itself gets."""

    page: Page
    live: LiveStand


@router.get("/rigs")
def rigs_page(request: Request) -> Response:
    """Show the machines that were drawn, and the types another may be drawn of."""
    return _list(request, None)


@router.post("/rigs")
def draw_rig(request: Request, form: Form) -> Response:
    """Draw a machine with something wrong that nobody is told."""
    try:
        ticket = draw(workshop_of(request), text_of(form, "machine"))
    except REFUSALS as error:
        return _list(request, note_of(error, texts_of(form, *HIDDEN)))
    return go_to(request, "rig_stand", name=ticket.name)


@router.get("/rigs/{name}")
def rig_stand(request: Request, name: str) -> Response:
    """Show one machine as it stands."""
    return _show(request, stand_at(workshop_of(request), name), None, None)


@router.get("/rigs/{name}/live")
def rig_live(request: Request, name: str) -> Response:
    """Show what of a machine changes by itself."""
    at = stand_at(workshop_of(request), name)
    return render(request, "rig/live.html", LivePage(Page("Live"), live_of(at)))


@router.post("/rigs/{name}/act")
def rig_act(request: Request, name: str, form: Form) -> Response:
    """Do one thing to the machine."""
    workshop = workshop_of(request)
    what, value = text_of(form, "what"), text_of(form, "value")
    doing: dict[str, Callable[[int], Stand]] = {
        "off": lambda seen: take_off(workshop, name, value, seen),
        "check": lambda seen: perform(workshop, name, value, seen),
        "meter": lambda seen: meter(
            workshop,
            name,
            text_of(form, "first"),
            text_of(form, "second"),
            function=text_of(form, "function"),
            seen=seen,
        ),
        "bucket": lambda seen: bucket(workshop, name, seen),
    }
    curve: FeltCurve | None = None
    try:
        seen = seen_of(form)
        if what == "feel":
            at = stand_at(workshop, name)
            curve = felt(at, value)
        elif what in doing:
            at = doing[what](seen)
        else:
            at = act(workshop, name, what, value, seen=seen, live=_declared(form))
    except REFUSALS as error:
        if isinstance(error, NotFound):
            raise
        return _show(
            request, stand_at(workshop, name), note_of(error, texts_of(form, *HIDDEN)), None
        )
    if asks_for_part(request) or curve is not None:
        return _show(request, at, None, curve)
    return go_to(request, "rig_stand", name=name)


@router.get("/rigs/{name}/probe")
def rig_probe(request: Request, name: str, quantity: str) -> dict[str, float | None]:
    """Say what the leads touch, for a meter at their other end."""
    return {"amount": touched(workshop_of(request), name, quantity)}


@router.post("/rigs/{name}/leads")
def rig_leads(request: Request, name: str, form: Form) -> Response:
    """Lay the meter's leads for a check of the job the machine is bound to, or take them off."""
    workshop, check = workshop_of(request), text_of(form, "check")
    at = lay_for(workshop, name, check) if check else lift(workshop, name)
    if at.ticket.job is None:
        return go_to(request, "rig_stand", name=name)
    return (
        Response(status_code=204)
        if asks_for_part(request)
        else go_to(
            request, "job_station", number=at.ticket.job, station="prove", check=check or None
        )
    )


@router.post("/rigs/{name}/call")
def rig_call(request: Request, name: str, form: Form) -> Response:
    """Open a job about the machine, with what its customer noticed."""
    try:
        answer = call_about(
            workshop_of(request), name, author_of(request), text_of(form, "event_id")
        )
    except REFUSALS as error:
        return _show(
            request,
            stand_at(workshop_of(request), name),
            note_of(error, texts_of(form, *HIDDEN)),
            None,
        )
    return go_to(request, "job_start", number=answer.number)


@router.post("/jobs/{number}/on-rig")
def rig_check(request: Request, number: str, form: Form) -> Response:
    """Do a check of a job at the machine it is bound to, and write down what it tells."""
    seen = seen_of(form)
    check_on_rig(
        workshop_of(request),
        number,
        text_of(form, "check"),
        author_of(request),
        event_id=text_of(form, "event_id"),
        seen=seen,
    )
    return go_to(request, "job_station", number=number, station="prove")


@router.get("/rigs/{name}/sound/{of}.wav")
def rig_sound(request: Request, name: str, of: str) -> Response:
    """Give the sound of a phase, or of the panel, as WAV."""
    at = stand_at(workshop_of(request), name)
    if of == "panel":
        panel, codes = at.machine_type.panel, codes_shown(at.bench, at.machine_type, "stand")
        if panel is None or not codes:
            raise NotFound("Nothing is stored that could sound.")
        code = at.machine_type.codes[codes[at.shown_code % len(codes)]]
        return Response(wav(beeps(shown(panel, code, rounds=2).taps)), media_type="audio/wav")
    if of not in HEARD:
        raise NotFound(f"Found the sound '{of[:20]}', expected one of {', '.join(HEARD)}.")
    with at.lock:
        sound = sound_of(at.machine, of)
    return Response(wav(sound), media_type="audio/wav")


@router.get("/rigs/{name}/run.csv")
def rig_csv(request: Request, name: str) -> Response:
    """Give what was recorded of the machine as CSV."""
    at, held = stand_at(workshop_of(request), name), io.StringIO()
    with at.lock:
        samples = list(at.recorder.samples)
    write_csv(samples, held)
    return Response(held.getvalue(), media_type="text/csv; charset=utf-8")


def _declared(form: FormData) -> LiveTest:
    """Return the live test that plugging in is declared for: with a name, and the tick that he
    may."""
    check, by = text_of(form, "for_check"), text_of(form, "qualified").strip()
    said = check and by and text_of(form, "ticked")
    return LiveTest(check, by[:60]) if said else NOTHING_DECLARED


def _list(request: Request, error: ErrorNote | None) -> Response:
    workshop = workshop_of(request)
    shelf = workshop.shelf
    kinds = [(name, shelf.sheet(name).title) for name in sorted(shelf.sheets)]
    titles = dict(kinds)
    rigs = [
        (ticket, titles.get(ticket.sheet or "", ticket.archetype)) for ticket in workshop.rigs.all()
    ]
    context = RigsPage(Page("Machines on the rig"), kinds, rigs, error)
    return render(request, "rig/list.html", context, status_of(error))


def _show(
    request: Request, at: Stand, error: ErrorNote | None, curve: FeltCurve | None
) -> Response:
    return render(request, "rig/page.html", rig_page(at, error, curve), status_of(error))
