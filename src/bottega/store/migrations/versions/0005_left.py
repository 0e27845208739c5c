"""How a machine of physics was left: what it is like after the last act, and how many acts there
were."""

import sqlalchemy as sa
from alembic import op

revision = "0005"
down_revision = "0004"


def upgrade() -> None:
    op.add_column("rigs", sa.Column("acts", sa.Integer, nullable=False, server_default="0"))
    op.add_column("rigs", sa.Column("left", sa.JSON))


def downgrade() -> None:
    raise NotImplementedError("machines that were drawn are not taken away again")
