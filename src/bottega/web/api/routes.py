"""The API: the same use cases as JSON, errors as problem+json."""

from math import isfinite
from typing import Annotated, Any, Literal

from fastapi import APIRouter, Depends, Request, Response
from pydantic import BaseModel, ConfigDict, Field, TypeAdapter, WithJsonSchema

from bottega.app.call.call import Call, Words, open_job
from bottega.app.job.answer import diagnose
from bottega.app.job.bundle import bundle
from bottega.app.job.diagnosis import Diagnosis, diagnosis_of
from bottega.app.job.file import export_job, import_job
from bottega.app.job.record import parse_body, record, record_on
from bottega.app.measure.formula import work_plainly
from bottega.app.measure.reading import take_reading
from bottega.app.panel.heard import (
    hear_counts,
    hear_taps,
    sheet_machine,
    shown_heard,
    written_heard,
)
from bottega.core.job.events import AnyBody
from bottega.core.job.file import JobFile
from bottega.core.library.archetype import ArchetypeFile
from bottega.core.library.machine_type import Code
from bottega.core.library.records import AssemblyFile
from bottega.core.library.sheet import SheetFile
from bottega.web.api.author import Author
from bottega.web.api.problems import PROBLEMS
from bottega.web.api.sent import plain_schema, raw_body, read, takes
from bottega.web.kit.page import workshop_of
from bottega.web.kit.security import checked_api

router = APIRouter(prefix="/api/v1", tags=["v1"])
LAYERS: dict[str, type[BaseModel]] = {
    "sheet": SheetFile,
    "assembly": AssemblyFile,
    "archetype": ArchetypeFile,
}
CHANGES: dict[str, Any] = {
    "status_code": 201,
    "responses": PROBLEMS,
    "dependencies": [Depends(checked_api)],
}
EventId = Annotated[str, Field(pattern=r"^[A-Za-z0-9-]{8,64}$")]
FirstEventId = Annotated[str, Field(pattern=r"^[A-Za-z0-9-]{8,60}$")]
Seen = Annotated[int, Field(ge=0, le=10**6)] | None


class RequestBody(BaseModel):
    """What is sent; unknown keys are refused."""

    model_config = ConfigDict(extra="forbid")


class MachineItem(BaseModel):
    """A machine the library knows."""

    archetype: str
    sheet: str | None
    title: str
    revision: str
    faults: int
    checks: int
    measurements: int
    codes: int


class NewJob(RequestBody):
    """A call: what is known of the machine, the complaint, the phrases in it. Author and time are
    the asker's."""

    event_id: FirstEventId
    opened: Call
    complaint: str = ""
    said: list[str] = []


AnEvent = Annotated[
    dict[str, Any], WithJsonSchema(plain_schema(TypeAdapter(AnyBody).json_schema()))
]
"""The body of an event: described by the union of all kinds, read by the job's own reader."""


class NewEvent(RequestBody):
    """An event: client-made id and body; ``seen`` is how many events its author had before them."""

    id: EventId
    seen: Seen = None
    body: AnEvent


class NewReading(RequestBody):
    """A measurement as typed, with its unit."""

    id: EventId
    seen: Seen = None
    check: str
    typed: str
    unit: str = Field(min_length=1, description="The unit, or a prefix of it; OL needs it too.")
    at: str = Field("", description="The temperature or level it was taken at, with its unit.")


class PanelShown(RequestBody):
    """What a panel shows, in one of its ways: ``rounds`` of counts, or of tones with 1 for high;
    ``taps`` in time ("0:0:300 0:812:310/0:0:290 ...", lamp from nought, milliseconds when and how
    long, rounds parted by a slash); ``lamps`` as sums of each page, 0, 1 and 2 for dark, lit and
    blinking, or tone and length of a bar; ``text`` as it is written down: 3-2, hllhl, o-*.--o,
    low-4, or what a display shows."""

    sheet: str
    rounds: list[list[int]] = Field(default=[], max_length=6)
    taps: str = Field(default="", max_length=40_000)
    lamps: list[int] = Field(default=[], max_length=20)
    text: str = Field(default="", max_length=40)


class PanelReading(BaseModel):
    """A code it may be; null for one in no table."""

    code: str | None
    name: str | None
    chance: float

    @classmethod
    def of(cls, code: Code | None, chance: float) -> "PanelReading":
        """Return a code with its chance; None for one in no table."""
        id_, name = (code.id, code.record.name) if code else (None, None)
        return cls(code=id_, name=name, chance=round(chance, 4))


class AmountItem(BaseModel):
    """A figure in its unit; null where it has no end."""

    amount: float | None
    unit: str


class WorkedOut(BaseModel):
    """What a formula gives, by name, and its source."""

    name: str
    source: str
    gives: dict[str, AmountItem]


class StoredAt(BaseModel):
    """Where a job's log stands after a change."""

    number: str
    seq: int


@router.get("/library", summary="List the machines of the library")
def list_machines(request: Request) -> list[MachineItem]:
    """Return every archetype and sheet with its counts."""
    return [
        MachineItem(
            archetype=m.archetype,
            sheet=m.sheet,
            title=m.title,
            revision=m.revision,
            faults=len(m.faults),
            checks=len(m.checks),
            measurements=sum(c.measure is not None for c in m.checks.values()),
            codes=len(m.codes),
        )
        for m in workshop_of(request).shelf.machines()
    ]


@router.post("/jobs", summary="Take a call", openapi_extra=takes(NewJob), **CHANGES)
def create_job(
    request: Request, new: Annotated[NewJob, Depends(read(NewJob))], author: Author
) -> StoredAt:
    """Open a job. The same event id again returns the same job."""
    workshop = workshop_of(request)
    words = Words(new.complaint, exact=tuple(new.said))
    answer = open_job(workshop, new.opened, words, author, event_id=new.event_id)
    return StoredAt(number=answer.number, seq=answer.seq)


@router.post(
    "/jobs/{number}/events", summary="Note an event", openapi_extra=takes(NewEvent), **CHANGES
)
def create_event(
    request: Request, number: str, new: Annotated[NewEvent, Depends(read(NewEvent))], author: Author
) -> StoredAt:
    """Append one event; what the rules refuse leaves the job unchanged."""
    body = parse_body(new.body)
    answer = record(workshop_of(request), number, body, author, event_id=new.id, seen=new.seen)
    return StoredAt(number=number, seq=answer.seq)


@router.post(
    "/jobs/{number}/readings",
    summary="Note a measurement",
    openapi_extra=takes(NewReading),
    **CHANGES,
)
def create_reading(
    request: Request,
    number: str,
    new: Annotated[NewReading, Depends(read(NewReading))],
    author: Author,
) -> StoredAt:
    """Judge a reading as typed and append it. The unit is required."""
    workshop = workshop_of(request)
    answer = diagnose(workshop, number)
    asked = (answer.job, answer.machine, new.check, new.typed, new.unit)
    body = take_reading(workshop, *asked, at=new.at)
    after = record_on(workshop, answer, body, author, event_id=new.id, seen=new.seen)
    return StoredAt(number=number, seq=after.seq)


@router.get("/jobs/{number}/diagnosis", summary="Read the diagnosis", responses=PROBLEMS)
def read_diagnosis(request: Request, number: str) -> Diagnosis:
    """Return the ranking, the weights of the findings, and the next steps with their outcomes."""
    workshop = workshop_of(request)
    return diagnosis_of(diagnose(workshop, number), workshop.settings.prove_at)


@router.get("/jobs/{number}/export", summary="Export a job", responses=PROBLEMS)
def read_job(request: Request, number: str) -> JobFile:
    """Return the whole job."""
    return export_job(workshop_of(request), number)


@router.get("/jobs/{number}/export.zip", summary="Export a job with its photos", responses=PROBLEMS)
def read_job_with_photos(request: Request, number: str) -> Response:
    """Return the whole job as `job.json` in a zip, beside its photos."""
    workshop = workshop_of(request)
    content = bundle(workshop, export_job(workshop, number))
    return Response(content, media_type="application/zip")


@router.get("/measure/{name}", summary="Work out a formula", responses=PROBLEMS)
def work_out_formula(request: Request, name: str) -> WorkedOut:
    """Return what a formula of the bench gives. Its inputs are the query, by name, in the formula's
    own units: `/measure/element_ohm?volts=230&watts=2000`."""
    workshop = workshop_of(request)
    record, amounts = work_plainly(workshop, name, dict(request.query_params))
    gives = {
        key: AmountItem(amount=amount if isfinite(amount) else None, unit=record.gives[key].unit)
        for key, amount in amounts.items()
    }
    return WorkedOut(name=record.name, source=record.source, gives=gives)


@router.post(
    "/panel/decode",
    summary="Decode what a panel shows",
    responses=PROBLEMS,
    openapi_extra=takes(PanelShown),
)
def decode_panel(
    request: Request, shown: Annotated[PanelShown, Depends(read(PanelShown))], _author: Author
) -> list[PanelReading]:
    """Return every code it may be with its chance, the likeliest first; null for one in no table.
    Nothing is stored."""
    workshop = workshop_of(request)
    machine = sheet_machine(workshop, shown.sheet)
    slips = workshop.shelf.tables.panel
    if shown.taps:
        found = hear_taps(machine, shown.taps, slips)
    elif shown.rounds:
        found = hear_counts(machine, [tuple(counts) for counts in shown.rounds], slips)
    else:
        found = (
            written_heard(machine, shown.text, slips)
            if shown.text
            else shown_heard(machine, tuple(shown.lamps), slips)
        )
    return [PanelReading.of(reading.code, reading.chance) for reading in found.readings]


@router.post(
    "/jobs/import",
    summary="Import a job",
    **CHANGES,
)
def create_job_from_file(
    request: Request, raw: Annotated[bytes, Depends(raw_body)], _author: Author
) -> StoredAt:
    """Store an exported job, given as the body. Its authors and times are those of the file."""
    answer = import_job(workshop_of(request), raw)
    return StoredAt(number=answer.number, seq=answer.seq)


@router.get("/schema/job.json", summary="JSON Schema of a job file")
def job_schema() -> dict[str, Any]:
    """Return the JSON Schema of an exported job."""
    return JobFile.model_json_schema()


@router.get("/schema/{layer}.json", summary="JSON Schema of a library file", responses=PROBLEMS)
def library_schema(layer: Literal["sheet", "assembly", "archetype"]) -> dict[str, Any]:
    """Return the JSON Schema of a sheet, an assembly or an archetype."""
    return LAYERS[layer].model_json_schema()
