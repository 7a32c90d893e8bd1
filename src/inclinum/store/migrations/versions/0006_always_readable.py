"""always readable: kinds held by keys, columns for what lists show, long lines of history kept whole beside."""

import sqlalchemy as sa
from alembic import op
from sqlalchemy.dialects import postgresql

revision = "0006"
down_revision = "0005"

WHEN = sa.DateTime(timezone=True)


def upgrade() -> None:
    repair_history()
    repair_kinds()
    keep_kinds()
    columns_of_lists()
    notice_other_hands()


def repair_history() -> None:
    """Lines longer than a job can be read with are told shortened; whole they stand beside."""
    op.add_column("event", sa.Column("detail", postgresql.JSONB(), nullable=True))
    op.execute(
        """
        UPDATE event SET
            detail = jsonb_build_array(jsonb_build_object('path', 'as it was written', 'old', NULL, 'new', what)),
            what = left(what, 1999) || '…'
        WHERE char_length(what) > 2000
        """
    )
    op.create_check_constraint("event_can_be_read", "event", "char_length(what) <= 2000")
    op.drop_index("ix_event_job_id", "event")
    op.create_index("event_of_job", "event", ["job_id", "id"])


def repair_kinds() -> None:
    """What a row says of its kind follows its document; a vehicle overwritten by one of another kind is two again."""
    op.drop_constraint("vehicle_name_plate_key", "vehicle", type_="unique")
    op.add_column(
        "vehicle",
        sa.Column("uid", postgresql.UUID(), nullable=False, server_default=sa.text("gen_random_uuid()")),
    )
    op.create_unique_constraint("vehicle_uid_key", "vehicle", ["uid"])
    op.execute("UPDATE vehicle SET wheels = CASE WHEN document ? 'fork' THEN 2 ELSE 4 END")
    op.execute("UPDATE job SET wheels = CASE WHEN vehicle_document ? 'fork' THEN 2 ELSE 4 END")
    op.execute(
        """
        WITH apart AS (
            SELECT DISTINCT ON (job.vehicle_id, job.wheels) job.vehicle_id, job.wheels, job.vehicle_document,
                job.schema_version, vehicle.owner_id, vehicle.name, vehicle.plate
            FROM job JOIN vehicle ON vehicle.id = job.vehicle_id
            WHERE job.wheels <> vehicle.wheels ORDER BY job.vehicle_id, job.wheels, job.created_at DESC
        ), made AS (
            INSERT INTO vehicle (owner_id, name, plate, wheels, document, version, schema_version, saved_by)
            SELECT owner_id, vehicle_document->>'name', coalesce(vehicle_document->>'plate', ''), wheels,
                vehicle_document, 1, schema_version, ''
            FROM apart RETURNING id, name, plate, wheels
        )
        UPDATE job SET vehicle_id = made.id FROM made, vehicle
        WHERE vehicle.id = job.vehicle_id AND job.wheels <> vehicle.wheels AND job.wheels = made.wheels
            AND made.name = job.vehicle_document->>'name'
            AND made.plate = coalesce(job.vehicle_document->>'plate', '')
        """
    )
    # The one stage of four wheels that a two-wheeler took without a word had a field it does not know.
    op.execute(
        """
        UPDATE stage SET document = jsonb_build_object('note', coalesce(stage.document->'note', '""'::jsonb))
        FROM job WHERE job.id = stage.job_id AND job.wheels = 2 AND stage.name = 'align'
        """
    )


def keep_kinds() -> None:
    """From here on the keys hold a stage to its job's kind and a job to its vehicle's."""
    for table in ("vehicle", "job"):
        op.create_check_constraint(f"{table}_kind", table, "wheels IN (2, 4)")
        op.create_unique_constraint(f"{table}_of_kind", table, ["id", "wheels"])
    op.create_index(
        "vehicle_by_plate", "vehicle", ["wheels", "name", "plate"], unique=True, postgresql_where=sa.text("plate <> ''")
    )
    op.drop_constraint("job_vehicle_id_fkey", "job", type_="foreignkey")
    op.create_foreign_key("job_vehicle_of_kind", "job", "vehicle", ["vehicle_id", "wheels"], ["id", "wheels"])
    op.add_column("stage", sa.Column("wheels", sa.Integer(), nullable=False, server_default="4"))
    op.execute("UPDATE stage SET wheels = job.wheels FROM job WHERE job.id = stage.job_id")
    op.drop_constraint("stage_job_id_fkey", "stage", type_="foreignkey")
    op.create_foreign_key(
        "stage_of_kind", "stage", "job", ["job_id", "wheels"], ["id", "wheels"], ondelete="CASCADE"
    )  # fmt: skip


def columns_of_lists() -> None:
    """What lists show, from the documents; titles of axles are filled in when a vehicle is first looked through."""
    for column in (
        sa.Column("description", sa.Text(), nullable=False, server_default=""),
        sa.Column("front", sa.String(200), nullable=False, server_default=""),
        sa.Column("rear", sa.String(200), nullable=False, server_default=""),
        sa.Column("measured", sa.Integer(), nullable=False, server_default="0"),
        sa.Column("checked", sa.String(40), nullable=True),
        sa.Column("trouble", sa.Text(), nullable=True),
    ):
        op.add_column("vehicle", column)
    for column in (
        sa.Column("vehicle_name", sa.String(120), nullable=False, server_default=""),
        sa.Column("plate", sa.String(30), nullable=False, server_default=""),
        sa.Column("owner", sa.String(120), nullable=False, server_default=""),
        sa.Column("due", sa.Date(), nullable=True),
        sa.Column("front_rise", sa.Double(), nullable=True),
        sa.Column("rear_rise", sa.Double(), nullable=False, server_default="0"),
        sa.Column("signed_off", WHEN, nullable=True),
        sa.Column("begun", sa.Integer(), nullable=False, server_default="0"),
        sa.Column("saved_at", WHEN, nullable=False, server_default=sa.func.now()),
        sa.Column("outcome", postgresql.JSONB(), nullable=True),
        sa.Column("outcome_by", sa.String(40), nullable=True),
        sa.Column("checked", sa.String(40), nullable=True),
        sa.Column("trouble", sa.Text(), nullable=True),
    ):
        op.add_column("job", column)
    op.execute("UPDATE vehicle SET description = coalesce(document->>'description', '')")
    op.execute(
        """
        UPDATE job SET
            vehicle_name = left(coalesce(vehicle_document->>'name', ''), 120),
            plate = left(coalesce(vehicle_document->>'plate', ''), 30),
            owner = left(coalesce(brief.document->>'owner', ''), 120),
            due = (brief.document->>'due')::date,
            front_rise = (brief.document #>> '{front,rise,value}')::float,
            rear_rise = coalesce((brief.document #>> '{rear,rise,value}')::float,
                                 -(brief.document #>> '{rear_drop,value}')::float, 0)
        FROM stage brief WHERE brief.job_id = job.id AND brief.name = 'brief'
        """
    )
    op.execute(
        """
        UPDATE job SET signed_off = (prove.document #>> '{sign_off,at}')::timestamptz
        FROM stage prove WHERE prove.job_id = job.id AND prove.name = 'prove'
        """
    )
    op.execute(
        """
        UPDATE job SET saved_at = seen.at, begun = seen.bits FROM (
            SELECT stage.job_id, max(stage.saved_at) AS at, sum(CASE
                WHEN name = 'measure' AND (
                    EXISTS (SELECT FROM measurement m
                            WHERE m.job_id = stage.job_id AND m.stage = 'measure' AND m.kind = 'corners')
                    OR coalesce(nullif(document->'sags', 'null'), '[]') <> '[]'
                    OR coalesce(nullif(document->'tape', 'null'), '[]') <> '[]') THEN 2
                WHEN name = 'align' AND (
                    coalesce(document->'chosen', '{}') <> '{}'
                    OR (stage.wheels = 2 AND coalesce(document->>'note', '') <> '')) THEN 8
                WHEN name = 'build' AND coalesce(document->'ticks', '[]') <> '[]' THEN 16
                WHEN name = 'prove' AND (
                    EXISTS (SELECT FROM measurement m
                            WHERE m.job_id = stage.job_id AND m.stage = 'prove' AND m.kind = 'corners')
                    OR coalesce(document #> '{after,sags}', '[]') <> '[]'
                    OR document #>> '{sign_off,at}' IS NOT NULL) THEN 32
                ELSE 0 END) AS bits
            FROM stage GROUP BY stage.job_id) seen
        WHERE seen.job_id = job.id
        """
    )
    op.create_index("vehicle_listed", "vehicle", ["name", "id"])
    op.drop_index("ix_job_vehicle_id", "job")
    op.create_index("job_open", "job", ["due", "title", "id"], postgresql_where=sa.text("signed_off IS NULL"))
    op.create_index(
        "job_finished", "job", [sa.text("signed_off DESC"), "id"], postgresql_where=sa.text("signed_off IS NOT NULL")
    )
    op.create_index("job_newest", "job", ["wheels", sa.text("created_at DESC"), sa.text("id DESC")])
    op.create_index("job_of_vehicle", "job", ["vehicle_id", sa.text("created_at DESC"), sa.text("id DESC")])


def notice_other_hands() -> None:
    """A row that another program or hand changed is looked through again before it is shown as sound."""
    op.execute(
        """
        CREATE FUNCTION looked_through_again() RETURNS trigger LANGUAGE plpgsql AS $$
        BEGIN
            IF NEW.checked IS NOT DISTINCT FROM OLD.checked AND NEW.version IS NOT DISTINCT FROM OLD.version
            THEN NEW.checked := NULL; END IF;
            RETURN NEW;
        END $$
        """
    )
    op.execute(
        """
        CREATE TRIGGER vehicle_by_another_hand BEFORE UPDATE OF document ON vehicle
        FOR EACH ROW WHEN (OLD.document IS DISTINCT FROM NEW.document) EXECUTE FUNCTION looked_through_again()
        """
    )
    op.execute(
        """
        CREATE FUNCTION job_looked_through_again() RETURNS trigger LANGUAGE plpgsql AS $$
        BEGIN
            UPDATE job SET checked = NULL WHERE id = NEW.job_id AND checked IS NOT NULL;
            RETURN NULL;
        END $$
        """
    )
    for table, when in (
        ("stage", "WHEN (OLD.version = NEW.version)"), ("measurement", ""), ("torque_record", ""), ("event", ""),
    ):  # fmt: skip
        op.execute(
            f"""
            CREATE TRIGGER {table}_by_another_hand AFTER UPDATE ON {table}
            FOR EACH ROW {when} EXECUTE FUNCTION job_looked_through_again()
            """
        )
    op.execute(
        """
        CREATE FUNCTION job_itself_looked_through_again() RETURNS trigger LANGUAGE plpgsql AS $$
        BEGIN
            NEW.checked := NULL;
            RETURN NEW;
        END $$
        """
    )
    op.execute(
        """
        CREATE TRIGGER job_by_another_hand BEFORE UPDATE OF vehicle_document, wheels ON job
        FOR EACH ROW WHEN (OLD.vehicle_document IS DISTINCT FROM NEW.vehicle_document)
        EXECUTE FUNCTION job_itself_looked_through_again()
        """
    )
