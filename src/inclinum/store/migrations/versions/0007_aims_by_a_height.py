"""Aims said by a height, a rake, or not at all: a brief has a rise only where somebody said one."""

from alembic import op

revision = "0007"
down_revision = "0006"


def upgrade() -> None:
    op.alter_column("job", "rear_rise", nullable=True, server_default=None)
