"""torques without a side: a two-wheeler has none."""

from alembic import op

revision = "0005"
down_revision = "0004"


def upgrade() -> None:
    op.alter_column("torque_record", "side", nullable=True)
    op.execute("UPDATE torque_record SET side = NULL FROM job WHERE job.id = torque_record.job_id AND job.wheels = 2")
