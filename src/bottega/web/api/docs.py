"""The API's description as a page of our own, without outside resources."""

from dataclasses import dataclass
from typing import Any

from fastapi import APIRouter, Request, Response

from bottega.web.kit.page import Page, render

router = APIRouter(prefix="/api/v1", include_in_schema=False)


@dataclass(frozen=True)
class DocParameter:
    """One parameter: its name, where it stands, its type."""

    name: str
    where: str
    kind: str


@dataclass(frozen=True)
class Operation:
    """One thing the API does."""

    path: str
    method: str
    summary: str
    description: str
    parameters: list[DocParameter]
    answers: list[str]


@dataclass(frozen=True)
class DocsPage:
    """What the API page gets."""

    page: Page
    operations: list[Operation]


@router.get("/docs")
def api_page(request: Request) -> Response:
    """Show the API's description."""
    paths: dict[str, dict[str, Any]] = request.app.openapi()["paths"]
    operations = [
        Operation(
            path=path,
            method=method.upper(),
            summary=op.get("summary", ""),
            description=op.get("description", ""),
            parameters=[
                DocParameter(p["name"], p["in"], p["schema"].get("type", ""))
                for p in op.get("parameters", [])
            ],
            answers=list(op.get("responses", {})),
        )
        for path, methods in paths.items()
        for method, op in methods.items()
    ]
    return render(request, "api/docs.html", DocsPage(Page("API"), operations))
