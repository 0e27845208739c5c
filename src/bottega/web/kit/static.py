"""The application's own small files, read once and served by the loop itself: they wait for no hand
that works on a job."""

from hashlib import sha256
from mimetypes import guess_type
from pathlib import Path

from starlette.exceptions import HTTPException
from starlette.responses import Response
from starlette.types import Receive, Scope, Send

KEPT = "no-cache"
"""A browser keeps them, and asks each time whether they are still the same (RFC 9111, 5.2.2.4)."""


class StaticFiles:
    """Every file below a folder, by its path."""

    def __init__(self, folder: Path) -> None:
        self._files = {
            file.relative_to(folder).as_posix(): _kept(file)
            for file in folder.rglob("*")
            if file.is_file()
        }

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Answer one request. Raises HTTPException for a file there is not, and for a change."""
        if scope["method"] not in ("GET", "HEAD"):
            raise HTTPException(405)
        path = scope["path"].removeprefix(scope.get("root_path", "")).lstrip("/")
        found = self._files.get(path)
        if found is None:
            raise HTTPException(404)
        asked = dict(scope["headers"]).get(b"if-none-match", b"").decode("latin-1")
        tags = [tag.strip().removeprefix("W/") for tag in asked.split(",")]
        same = found.headers["etag"] in tags
        answer = Response(status_code=304, headers=_without_length(found)) if same else found
        await answer(scope, receive, send)


def _kept(file: Path) -> Response:
    raw = file.read_bytes()
    kind = guess_type(file.name)[0] or "application/octet-stream"
    headers = {"etag": f'"{sha256(raw).hexdigest()[:32]}"', "cache-control": KEPT}
    return Response(raw, media_type=kind, headers=headers)


def _without_length(answer: Response) -> dict[str, str]:
    return {name: answer.headers[name] for name in ("etag", "cache-control")}
