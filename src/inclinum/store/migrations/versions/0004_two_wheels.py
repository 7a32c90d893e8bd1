"""two wheels: jobs and vehicles say how many they have, and with it which documents they hold."""

import sqlalchemy as sa
from alembic import op

revision = "0004"
down_revision = "0003"


def upgrade() -> None:
    for table in ("job", "vehicle"):
        op.add_column(table, sa.Column("wheels", sa.Integer(), nullable=False, server_default="4"))
