"""How good the engine is on machines its library did not make: the last fleet that was kept."""

from functools import lru_cache

from pydantic import BaseModel, ConfigDict

from bottega.core.library.shelf import DATA

FLEET = DATA / "bench" / "fleet.json"


class _Kept(BaseModel):
    model_config = ConfigDict(frozen=True, extra="ignore")


class Share(_Kept):
    """A mean with the interval that holds it in 19 of 20 draws."""

    mean: float
    low: float
    high: float


class WayWorth(_Kept):
    """What one way of working comes to."""

    first_right: Share
    within_five: Share
    checks: Share
    all_in: Share
    all_gone: Share


class SaidShare(_Kept):
    """Of first repairs said to be right with about that chance, the share that were, and how
    many."""

    said: float
    true: float
    jobs: int


class SoundLeftAlone(_Kept):
    """Sound machines left alone."""

    ended_well: Share


class Fleet(_Kept):
    """A fleet that was played, with its date and the seed that reproduces it."""

    date: str
    seed: int
    truths: int
    policies: dict[str, WayWorth]
    saved: Share
    saved_faulty: Share
    over_checklist: Share
    sound: SoundLeftAlone
    calibration: tuple[SaidShare, ...]
    said_less_true: float


@lru_cache(maxsize=1)
def last_fleet() -> Fleet:
    """Return the last fleet that was kept with this version."""
    return Fleet.model_validate_json(FLEET.read_text())
