"""The log, its summaries, members and settings. Triggers keep the log append-only."""

import sqlalchemy as sa
from alembic import op

revision = "0001"
down_revision = None


def upgrade() -> None:
    op.create_table(
        "jobs",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("number", sa.String(12), nullable=False, unique=True),
    )
    op.create_table(
        "events",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("job_id", sa.Integer, sa.ForeignKey("jobs.id"), nullable=False, index=True),
        sa.Column("seq", sa.Integer, nullable=False),
        sa.Column("event_id", sa.String(64), nullable=False, unique=True),
        sa.Column("at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("author", sa.String(60), nullable=False),
        sa.Column("kind", sa.String(30), nullable=False),
        sa.Column("body", sa.JSON, nullable=False),
        sa.UniqueConstraint("job_id", "seq"),
    )
    op.create_table(
        "summaries",
        sa.Column("job_id", sa.Integer, sa.ForeignKey("jobs.id"), primary_key=True),
        sa.Column("seq", sa.Integer, nullable=False),
        sa.Column("body", sa.JSON, nullable=False),
    )
    op.create_table(
        "members",
        sa.Column("name", sa.String(60), primary_key=True),
        sa.Column("role", sa.String(40), nullable=False),
    )
    op.create_table(
        "settings",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("body", sa.JSON, nullable=False),
    )
    for verb in ("UPDATE", "DELETE"):
        op.execute(
            f"CREATE TRIGGER events_no_{verb.lower()} BEFORE {verb} ON events "
            "BEGIN SELECT RAISE(ABORT, 'the log is append-only'); END"
        )


def downgrade() -> None:
    for table in ("settings", "members", "summaries", "events", "jobs"):
        op.drop_table(table)
