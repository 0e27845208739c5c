"""Tokens with which a program notes things in the name of a member."""

from itsdangerous import BadSignature, URLSafeSerializer

from bottega.app.errors import NotFound
from bottega.app.workshop import Workshop

SALT = "api"


def token_for(workshop: Workshop, secret: str, member: str) -> str:
    """Return a token of a member of the shop. It holds until the shop's secret changes. Raises
    NotFound."""
    names = [known.name for known in workshop.members]
    if member not in names:
        expected = ", ".join(names) or "a member added in the settings first"
        raise NotFound(f"Found no member '{member}', expected {expected}.")
    return str(URLSafeSerializer(secret, salt=SALT).dumps(member))


def member_of(workshop: Workshop, secret: str, token: str) -> str | None:
    """Return the member a token was made for; None for one that is forged, or of somebody who is no
    member any more."""
    try:
        member = URLSafeSerializer(secret, salt=SALT).loads(token)
    except BadSignature:
        return None
    names = [known.name for known in workshop.members]
    return member if isinstance(member, str) and member in names else None
