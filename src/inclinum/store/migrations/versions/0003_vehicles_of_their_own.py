"""vehicles: a document of their own, so that they can be set up before any job."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0003"
down_revision = "0002"


def upgrade() -> None:
    op.add_column("vehicle", sa.Column("document", postgresql.JSONB(), nullable=True))
    op.add_column("vehicle", sa.Column("version", sa.Integer(), nullable=False, server_default="1"))
    op.add_column("vehicle", sa.Column("schema_version", sa.Integer(), nullable=False, server_default="2"))
    op.add_column("vehicle", sa.Column("saved_by", sa.String(120), nullable=False, server_default=""))
    op.add_column(
        "vehicle", sa.Column("saved_at", sa.DateTime(timezone=True), nullable=False, server_default=sa.func.now())
    )
    op.execute(
        sa.text(
            """
            UPDATE vehicle SET document = (
                SELECT vehicle_document FROM job WHERE job.vehicle_id = vehicle.id ORDER BY created_at DESC, id LIMIT 1)
            """
        )
    )
    op.execute(sa.text("DELETE FROM vehicle WHERE document IS NULL"))
    op.alter_column("vehicle", "document", nullable=False)
