"""vehicles: an axle's coil becomes a spring of a stated kind."""

import sqlalchemy as sa
from alembic import op

revision = "0002"
down_revision = "0001"


def upgrade() -> None:
    for axle in ("front", "rear"):
        op.execute(
            sa.text(
                f"""
                UPDATE job SET schema_version = 2, vehicle_document = jsonb_set(
                    vehicle_document #- '{{{axle},coil}}', '{{{axle},spring}}',
                    jsonb_build_object('type', 'coil_spring') || (vehicle_document #> '{{{axle},coil}}'))
                WHERE vehicle_document #> '{{{axle},coil}}' IS NOT NULL
                """
            )
        )
