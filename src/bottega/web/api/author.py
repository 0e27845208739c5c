"""Who asks the API: the member a token was made for, or whoever works at the browser the request
comes from."""

from typing import Annotated

from fastapi import Depends, Request

from bottega.app.errors import AppError
from bottega.app.shop.tokens import member_of
from bottega.web.kit.page import author_of, workshop_of

SCHEME = "bearer"


class Unknown(AppError):
    """Nobody has said who asks."""

    status = 401
    title = "Who asks?"


def asking(request: Request) -> str:
    """Return the name of who asks. Raises Unknown without a token of a member and without a session
    of a browser."""
    scheme, _, token = request.headers.get("authorization", "").partition(" ")
    if scheme:
        member = None
        if scheme.lower() == SCHEME:
            member = member_of(workshop_of(request), request.app.state.secret, token.strip())
        if member is None:
            raise Unknown("The token is not that of a member. Make one with “bottega token NAME”.")
        return member
    if not request.session.get("token"):
        raise Unknown(
            "Send “Authorization: Bearer …” with a token made by “bottega token NAME”, "
            "or ask from a browser that has a page of this application open."
        )
    return author_of(request)


Author = Annotated[str, Depends(asking)]
"""Who is written as the author of what is sent."""
