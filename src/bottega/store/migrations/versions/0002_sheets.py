"""Revisions of model sheets written in this shop: append-only, with author and time."""

import sqlalchemy as sa
from alembic import op

revision = "0002"
down_revision = "0001"


def upgrade() -> None:
    op.create_table(
        "sheet_revisions",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("sheet", sa.String(60), nullable=False, index=True),
        sa.Column("seq", sa.Integer, nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), nullable=False),
        sa.Column("author", sa.String(60), nullable=False),
        sa.Column("text", sa.Text, nullable=False),
        sa.UniqueConstraint("sheet", "seq"),
    )
    for verb in ("UPDATE", "DELETE"):
        op.execute(
            f"CREATE TRIGGER sheet_revisions_no_{verb.lower()} BEFORE {verb} ON sheet_revisions "
            "BEGIN SELECT RAISE(ABORT, 'the log is append-only'); END"
        )


def downgrade() -> None:
    op.drop_table("sheet_revisions")
