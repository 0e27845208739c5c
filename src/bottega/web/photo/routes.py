"""Photos as they are kept."""

from fastapi import APIRouter, Request, Response

from bottega.app.photo.photo import photo_of
from bottega.web.kit.page import workshop_of

router = APIRouter(include_in_schema=False)
FOR_EVER = "private, max-age=31536000, immutable"
"""A photo's name follows from what is in it, so that it never changes."""


@router.get("/photos/{name}")
def photo(request: Request, name: str) -> Response:
    """Return a photo."""
    raw = photo_of(workshop_of(request), name)
    return Response(raw, media_type="image/jpeg", headers={"Cache-Control": FOR_EVER})
