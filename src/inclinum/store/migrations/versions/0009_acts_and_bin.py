"""Acts at the machine by their own ids; a bin for what is deleted; lists by title and by the last save."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0009"
down_revision = "0008"


def upgrade() -> None:
    op.create_table(
        "build_act",
        sa.Column("id", postgresql.UUID(), primary_key=True),
        sa.Column("job_id", sa.String(64), sa.ForeignKey("job.id", ondelete="CASCADE"), nullable=False),
        sa.Column("at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
    )
    op.create_index("build_act_of_job", "build_act", ["job_id"])
    op.create_table(
        "bin",
        sa.Column("id", sa.Integer(), primary_key=True),
        sa.Column("what", sa.String(10), nullable=False),
        sa.Column("key", sa.String(64), nullable=False),
        sa.Column("title", sa.String(200), nullable=False),
        sa.Column("rows", postgresql.JSONB(), nullable=False),
        sa.Column("deleted_at", sa.DateTime(timezone=True), server_default=sa.func.now(), nullable=False),
        sa.Column("deleted_by", sa.String(120), nullable=False),
        sa.CheckConstraint("what IN ('job', 'vehicle')", name="bin_of_kind"),
    )
    op.create_index("bin_newest", "bin", [sa.text("deleted_at DESC"), sa.text("id DESC")])
    op.create_index("job_by_title", "job", ["title", "id"])
    op.create_index("job_last_saved", "job", [sa.text("saved_at DESC"), "id"])
