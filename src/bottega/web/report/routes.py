"""The report of a job as a printable page, and the job as a file."""

from dataclasses import dataclass

from fastapi import APIRouter, Request, Response

from bottega.app.job.answer import diagnose
from bottega.app.job.bundle import bundle
from bottega.app.job.file import export_job
from bottega.app.job.room import written
from bottega.app.report.report import Report, report_of
from bottega.web.kit.page import Page, render, workshop_of

router = APIRouter(prefix="/jobs/{number}", include_in_schema=False)


@dataclass(frozen=True)
class ReportPage:
    """What the report page gets."""

    page: Page
    report: Report


@router.get("/report")
def report_page(request: Request, number: str) -> Response:
    """Show the report, whole or so far."""
    workshop = workshop_of(request)
    report = report_of(
        diagnose(workshop, number), workshop.settings.prove_at, workshop.settings.units
    )
    return render(request, "report/page.html", ReportPage(Page(f"Report {number}"), report))


@router.get("/export")
def export_file(request: Request, number: str) -> Response:
    """Hand out the whole job as a JSON file."""
    file = export_job(workshop_of(request), number)
    headers = {"Content-Disposition": f'attachment; filename="job-{file.number}.json"'}
    return Response(written(file), media_type="application/json", headers=headers)


@router.get("/export.zip")
def export_with_photos(request: Request, number: str) -> Response:
    """Hand out the whole job with its photos, as a zip."""
    workshop = workshop_of(request)
    file = export_job(workshop, number)
    headers = {"Content-Disposition": f'attachment; filename="job-{file.number}.zip"'}
    return Response(bundle(workshop, file), media_type="application/zip", headers=headers)
