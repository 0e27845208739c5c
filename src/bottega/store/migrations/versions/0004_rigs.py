"""Machines of physics a shop has drawn: which type, by which seed, with what in them."""

import sqlalchemy as sa
from alembic import op

revision = "0004"
down_revision = "0003"


def upgrade() -> None:
    op.create_table(
        "rigs",
        sa.Column("name", sa.String(20), primary_key=True),
        sa.Column("archetype", sa.String(20), nullable=False),
        sa.Column("sheet", sa.String(60)),
        sa.Column("seed", sa.String(60), nullable=False),
        sa.Column("faults", sa.JSON, nullable=False),
        sa.Column("job", sa.String(20), index=True),
    )


def downgrade() -> None:
    raise NotImplementedError("machines that were drawn are not taken away again")
