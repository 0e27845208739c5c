"""The way into the service mode, led: steps with their beat, attempts counted, advice after each
that failed, and when to stop."""

from dataclasses import dataclass

from bottega.core.library.panel_record import EntryStep, PanelRecord
from bottega.core.library.tables import Tables
from bottega.web.kit.words import figure


@dataclass(frozen=True)
class CoachStep:
    """One step: what to do, with what of the panel, and its beat; empty where it has none."""

    say: str
    at: str
    times: int
    beat: str
    clicks: int
    within: str


@dataclass(frozen=True)
class Coach:
    """The steps, how many attempts failed, what to do otherwise now, and whether to stop."""

    steps: list[CoachStep]
    beaten: bool
    """Whether any step has a beat."""
    listens: str
    failed: int
    advice: str
    stop: bool


def coach_of(panel: PanelRecord, failed: int, tables: Tables) -> Coach:
    """Return the coach after so many attempts that failed."""
    advice = panel.advice or tables.panel.entry_advice
    return Coach(
        [_step(step) for step in panel.entry],
        any(step.beat_s for step in panel.entry),
        panel.listens or "",
        failed,
        advice[(failed - 1) % len(advice)] if failed and advice else "",
        failed >= panel.stop_after,
    )


def _step(step: EntryStep) -> CoachStep:
    times = abs(step.clicks) or step.times
    return CoachStep(
        step.say,
        "|".join(step.at),
        times,
        f"{step.beat_s:g}" if step.beat_s else "",
        step.clicks,
        figure(step.within_s) if step.within_s else "",
    )
