"""The application's own small files, read once and served by the loop itself: they wait for no hand
that works on a job."""

import re
from hashlib import sha256
from mimetypes import guess_type
from pathlib import Path

from starlette.exceptions import HTTPException
from starlette.responses import Response
from starlette.types import Receive, Scope, Send

ASKED_AGAIN = "no-cache"
"""A browser keeps the file, and asks each time whether it is still the same (RFC 9111, 5.2.2.4)."""
FOR_GOOD = "max-age=31536000, immutable"
"""A browser keeps the file for a year without asking (RFC 8246): its address names its edition."""
EDITION = re.compile(r"[0-9a-f]{16}/")


class StaticFiles:
    """Every file below a folder, by its path.

    ``edition`` is a hash of all of them. Below it, ``/static/<edition>/app.css``, a file is kept by
    the browser without asking again; so a page of many small scripts costs one look at each
    release. Scripts name each other by relative addresses and so stay within their edition.
    """

    def __init__(self, folder: Path) -> None:
        files = sorted(file for file in folder.rglob("*") if file.is_file())
        self._files = {file.relative_to(folder).as_posix(): _kept(file) for file in files}
        tags = "".join(f"{name} {kept.headers['etag']}" for name, kept in self._files.items())
        self.edition = sha256(tags.encode()).hexdigest()[:16]

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Answer one request. Raises HTTPException for a file there is not, and for a change."""
        if scope["method"] not in ("GET", "HEAD"):
            raise HTTPException(405)
        path = scope["path"].removeprefix(scope.get("root_path", "")).lstrip("/")
        edition = EDITION.match(path)
        found = self._files.get(path[edition.end() :] if edition else path)
        if found is None:
            raise HTTPException(404)
        asked = dict(scope["headers"]).get(b"if-none-match", b"").decode("latin-1")
        tags = [tag.strip().removeprefix("W/") for tag in asked.split(",")]
        same = found.headers["etag"] in tags
        headers = {"etag": found.headers["etag"], "cache-control": self._kept_for(edition)}
        answer = Response(status_code=304, headers=headers) if same else _with(found, headers)
        await answer(scope, receive, send)

    def _kept_for(self, edition: re.Match[str] | None) -> str:
        """An address of an older edition, from a page that was open before a release, is answered
        with today's file and asked again."""
        now = edition is not None and edition.group() == f"{self.edition}/"
        return FOR_GOOD if now else ASKED_AGAIN


def _kept(file: Path) -> Response:
    raw = file.read_bytes()
    kind = guess_type(file.name)[0] or "application/octet-stream"
    return Response(raw, media_type=kind, headers={"etag": f'"{sha256(raw).hexdigest()[:32]}"'})


def _with(kept: Response, headers: dict[str, str]) -> Response:
    return Response(kept.body, media_type=kept.media_type, headers=headers)
