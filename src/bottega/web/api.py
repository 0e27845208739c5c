"""The API: the same use cases as JSON, errors as problem+json, and its description as a page of our own."""

import json
from dataclasses import dataclass
from typing import Any, Literal

from fastapi import APIRouter, Depends, Request, Response
from pydantic import BaseModel, ConfigDict, Field

from bottega.app.answering import Diagnosis, diagnosis_of
from bottega.app.diagnosing import diagnose
from bottega.app.exchange import JobFile, export_job, import_job
from bottega.app.measuring import take_reading
from bottega.app.recording import parse_body, record
from bottega.app.taking import open_job
from bottega.core.library.records import ArchetypeFile, AssemblyFile, SheetFile
from bottega.web.rendering import Page, render, workshop_of
from bottega.web.security import checked_api

router = APIRouter(prefix="/api/v1", tags=["v1"])
LAYERS: dict[str, type[BaseModel]] = {"sheet": SheetFile, "assembly": AssemblyFile, "archetype": ArchetypeFile}
Problem: dict[int | str, dict[str, Any]] = {
    status: {"description": text, "content": {"application/problem+json": {}}}
    for status, text in ((404, "Not found"), (409, "Not now, or the job has moved on"), (422, "A value to put right"))
}


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


class NewJob(BaseModel):
    """A call: the machine by sheet or archetype, age, place, complaint."""

    model_config = ConfigDict(extra="forbid")

    event_id: str = Field(min_length=8, max_length=60)
    author: str
    opened: dict[str, Any]
    complaint: str = ""
    said: list[str] = []


class NewEvent(BaseModel):
    """An event: client-made id, author, body; ``seen`` is how many events the author had before them."""

    model_config = ConfigDict(extra="forbid")

    id: str = Field(min_length=8, max_length=64)
    author: str
    seen: int | None = None
    body: dict[str, Any]


class NewReading(BaseModel):
    """A measurement as typed, with its unit."""

    model_config = ConfigDict(extra="forbid")

    id: str = Field(min_length=8, max_length=64)
    author: str
    seen: int | None = None
    check: str
    typed: str
    unit: str = Field(min_length=1, description="The unit, or a prefix of it; OL needs it too.")


class Stored(BaseModel):
    """Where a job's log stands after a change."""

    number: str
    seq: int


@dataclass(frozen=True)
class DocsPage:
    """What the API page gets."""

    page: Page
    operations: list[dict[str, Any]]


@router.get("/library", summary="List the machines of the library")
def list_library(request: Request) -> list[MachineItem]:
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


@router.post("/jobs", status_code=201, summary="Take a call", responses=Problem, dependencies=[Depends(checked_api)])
def create_job(request: Request, new: NewJob) -> Stored:
    """Open a job. The same event id again returns the same job."""
    answer = open_job(workshop_of(request), new.opened, new.complaint, new.said, new.author, new.event_id)
    return Stored(number=answer.number, seq=answer.seq)


@router.post(
    "/jobs/{number}/events",
    status_code=201,
    summary="Note an event",
    responses=Problem,
    dependencies=[Depends(checked_api)],
)
def post_event(request: Request, number: str, new: NewEvent) -> Stored:
    """Append one event; what the rules refuse leaves the job unchanged."""
    answer = record(workshop_of(request), number, parse_body(new.body), new.author, new.id, new.seen)
    return Stored(number=number, seq=answer.seq)


@router.post(
    "/jobs/{number}/readings",
    status_code=201,
    summary="Note a measurement",
    responses=Problem,
    dependencies=[Depends(checked_api)],
)
def post_reading(request: Request, number: str, new: NewReading) -> Stored:
    """Judge a reading as typed and append it. The unit is required."""
    workshop = workshop_of(request)
    answer = diagnose(workshop, number)
    body = take_reading(workshop, answer.job, answer.machine, new.check, new.typed, new.unit)
    after = record(workshop, number, body, new.author, new.id, new.seen)
    return Stored(number=number, seq=after.seq)


@router.get("/jobs/{number}/diagnosis", summary="Read the diagnosis", responses=Problem)
def read_diagnosis(request: Request, number: str) -> Diagnosis:
    """Return the ranking, the weights of the findings, and the next steps with their outcomes."""
    return diagnosis_of(diagnose(workshop_of(request), number))


@router.get("/jobs/{number}/export", summary="Export a job", responses=Problem)
def export(request: Request, number: str) -> JobFile:
    """Return the whole job."""
    return export_job(workshop_of(request), number)


@router.post(
    "/jobs/import", status_code=201, summary="Import a job", responses=Problem, dependencies=[Depends(checked_api)]
)
async def bring_in(request: Request) -> Stored:
    """Store an exported job, given as the body."""
    answer = import_job(workshop_of(request), await request.body())
    return Stored(number=answer.number, seq=answer.seq)


@router.get("/schema/job.json", summary="JSON Schema of a job file")
def job_schema() -> dict[str, Any]:
    """Return the JSON Schema of an exported job."""
    return JobFile.model_json_schema()


@router.get("/schema/{layer}.json", summary="JSON Schema of a library file")
def library_schema(layer: Literal["sheet", "assembly", "archetype"]) -> dict[str, Any]:
    """Return the JSON Schema of a sheet, an assembly or an archetype."""
    return LAYERS[layer].model_json_schema()


@router.get("/docs", include_in_schema=False)
def docs(request: Request) -> Response:
    """Show the API's description as a page, without outside resources."""
    described = json.loads(json.dumps(request.app.openapi()))
    operations = []
    for path, methods in described["paths"].items():
        for method, op in methods.items():
            operations.append(
                {
                    "path": path,
                    "method": method.upper(),
                    "summary": op.get("summary", ""),
                    "description": op.get("description", ""),
                    "parameters": op.get("parameters", []),
                    "responses": list(op.get("responses", {})),
                }
            )
    return render(request, "api/docs.html", DocsPage(Page("API", "api"), operations))
