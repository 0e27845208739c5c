"""Versions of stored bodies; summaries that lists can be drawn from without opening a job (made
anew from the log)."""

import sqlalchemy as sa
from alembic import op

revision = "0003"
down_revision = "0002"


def upgrade() -> None:
    for table in ("events", "sheet_revisions"):
        op.add_column(table, sa.Column("version", sa.Integer, nullable=False, server_default="1"))
    op.drop_table("summaries")
    op.create_table(
        "summaries",
        sa.Column("job_id", sa.Integer, sa.ForeignKey("jobs.id"), primary_key=True),
        sa.Column("seq", sa.Integer, nullable=False),
        sa.Column("version", sa.Integer, nullable=False),
        sa.Column("lane", sa.String(20), nullable=False, index=True),
        sa.Column("archetype", sa.String(20), nullable=False),
        sa.Column("closed_at", sa.DateTime(timezone=True)),
        sa.Column("words", sa.Text, nullable=False),
        sa.Column("body", sa.JSON, nullable=False),
    )
    op.create_index("ix_summaries_closed", "summaries", ["archetype", "closed_at"])
    op.create_index("ix_events_at", "events", ["at"])


def downgrade() -> None:
    raise NotImplementedError("versions are not taken away again")
