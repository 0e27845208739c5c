"""How refusals are documented: problem+json (RFC 9457) with its status."""

from typing import Any

PROBLEMS: dict[int | str, dict[str, Any]] = {
    status: {"description": text, "content": {"application/problem+json": {}}}
    for status, text in (
        (401, "Nobody has said who asks"),
        (403, "Not from here"),
        (404, "Not found"),
        (409, "Not now, or the job has moved on"),
        (413, "Too large"),
        (422, "A value to put right"),
        (503, "Not stored; send it again"),
    )
}
