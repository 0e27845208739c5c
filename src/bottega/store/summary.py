"""One job's summary, and how it is kept beside the log, in the transaction of the event it follows
from."""

from dataclasses import dataclass
from datetime import UTC, datetime
from typing import Any

from sqlalchemy import or_
from sqlalchemy.dialects.sqlite import insert
from sqlalchemy.orm import Session

from bottega.store.tables import SummaryRow

SUMMARY_VERSION = 4
"""Counts up when what a summary holds changes; older ones are made anew from the log."""

NEW = insert(SummaryRow)
KEEP = NEW.on_conflict_do_update(
    index_elements=["job_id"],
    set_={column.name: column for column in NEW.excluded if column.name != "job_id"},
    where=or_(
        SummaryRow.version != SUMMARY_VERSION,
        SummaryRow.seq <= NEW.excluded.seq,
    ),
)
"""Stores a summary, or puts it in place of an earlier one."""


@dataclass(frozen=True)
class Summary:
    """What a list shows of a job, and up to which event it was computed."""

    number: str
    seq: int
    lane: str
    archetype: str
    closed_at: datetime | None
    words: str
    body: dict[str, Any]


def washer_word(key: str) -> str:
    """Return the word by which the summaries of one washer are found among all words."""
    return f"washer={key};"


def keep_summary(session: Session, job_id: int, summary: Summary) -> None:
    """Store or replace the summary of a job, unless a later one is kept already."""
    session.execute(
        KEEP,
        {
            "job_id": job_id,
            "seq": summary.seq,
            "version": SUMMARY_VERSION,
            "lane": summary.lane,
            "archetype": summary.archetype,
            "closed_at": summary.closed_at and summary.closed_at.astimezone(UTC),
            "words": summary.words.lower(),
            "body": summary.body,
        },
    )
