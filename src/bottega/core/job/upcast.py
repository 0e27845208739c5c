"""Bodies of events as older versions wrote them, made into those of today. Nothing stored is ever
rewritten."""

from collections.abc import Callable, Mapping, Sequence
from typing import Any

Raw = Mapping[str, Any]
Upcaster = Callable[[Raw], dict[str, Any]]
"""Makes a body of one version into a body of the next."""

ASIDE_REASONS = {
    "tool missing": "tool_missing",
    "not allowed": "not_allowed",
    "no access": "no_access",
}
"""What version 1 kept as free text, by the word that stands for it since."""


class NewerBody(ValueError):
    """A body of a version this Bottega does not know yet."""


def upcasted(kind: str, version: int, body: Raw, chain: Sequence[Upcaster]) -> dict[str, Any]:
    """Return a body of ``version`` (from 1) as one of the newest version. Raises NewerBody when it
    is newer still."""
    newest = 1 + len(chain)
    if not 1 <= version <= newest:
        raise NewerBody(
            f"found {kind} of version {version}, expected at most {newest}; update Bottega first"
        )
    raw = dict(body)
    for upcaster in chain[version - 1 :]:
        raw = upcaster(raw)
    return raw


def opened_1(body: Raw) -> dict[str, Any]:
    """Say what version 1 left out where a machine arrived as most do: plugged in, its taps open."""
    return {"power": "on", "taps": "open", **body}


def set_aside_1(body: Raw) -> dict[str, Any]:
    """Make a reason of version 1 a word: "cannot" with the text "tool missing" is
    ``tool_missing``."""
    if body.get("why") != "cannot":
        return dict(body)
    reason = str(body.get("reason", ""))
    word = ASIDE_REASONS.get(reason)
    return {**body, "why": word or "other", "reason": "" if word else reason}


def waived_1(body: Raw) -> dict[str, Any]:
    """Part what was waived in version 1, "proof:run", into kind and subject; a word alone was a
    station or the memory."""
    kind, colon, subject = str(body.get("what", "")).partition(":")
    kept = {key: value for key, value in body.items() if key != "what"}
    if colon:
        return {**kept, "owed": kind, "subject": subject}
    return {**kept, "owed": "clear" if kind == "clear" else "station", "subject": kind}
