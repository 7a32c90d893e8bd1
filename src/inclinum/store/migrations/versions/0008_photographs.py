"""Photographs, kept by their content; torques by feel, and with the angle a wrench told."""

import sqlalchemy as sa
from alembic import op

revision = "0008"
down_revision = "0007"


def upgrade() -> None:
    op.create_table(
        "photo",
        sa.Column("id", sa.String(64), primary_key=True),
        sa.Column("data", sa.LargeBinary(), nullable=False),
        sa.Column("width", sa.Integer(), nullable=False),
        sa.Column("height", sa.Integer(), nullable=False),
        sa.Column("saved_at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
        sa.Column("saved_by", sa.String(120), nullable=False),
    )
    for column in ("text", "value", "unit"):
        op.alter_column("torque_record", column, nullable=True)
    op.add_column("torque_record", sa.Column("angle", sa.Float()))
