"""What a stand-in's probes touch: figures that stay, or the leads laid on a machine on the
rig."""

import json
from collections.abc import Sequence
from urllib.error import URLError
from urllib.parse import quote
from urllib.request import urlopen

from bottega.devices.scpi import FUNCTIONS
from bottega.devices.standin import Source

RIG_TIMEOUT_S = 2.0


class SourceError(ValueError):
    """Nothing a probe could touch: says what was found and expected."""


def fixed_source(figures: Sequence[str]) -> Source:
    """Return probes on figures such as "resistance=184"; of everything else they touch nothing.
    Raises SourceError."""
    known: dict[str, float] = {}
    for text in figures:
        quantity, _, figure = text.partition("=")
        if quantity not in FUNCTIONS:
            raise SourceError(f"found '{quantity}', expected one of {', '.join(FUNCTIONS)}")
        try:
            known[quantity] = float(figure)
        except ValueError as error:
            raise SourceError(f"found '{figure}' for {quantity}, expected a number") from error
    return known.get


def rig_source(address: str) -> Source:
    """Return probes on the leads of a machine on the rig, by the address of its page. Raises
    SourceError for one that is none."""
    if not address.startswith(("http://", "https://")):
        raise SourceError(f"found '{address[:60]}', expected the address of a machine's page")
    base = address.rstrip("/") + "/probe?quantity="

    def touch(quantity: str) -> float | None:
        try:
            with urlopen(base + quote(quantity), timeout=RIG_TIMEOUT_S) as answer:
                amount = json.load(answer)["amount"]
        except (URLError, OSError, ValueError, KeyError, TypeError):
            return None
        return None if amount is None else float(amount)

    return touch
