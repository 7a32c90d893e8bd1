"""The bin: what is deleted lies in it whole, each table's rows as they stood, and can be put back for thirty days."""

from datetime import datetime, timedelta
from typing import Any

from psycopg.errors import ForeignKeyViolation
from sqlalchemy import bindparam, func, insert, select, text
from sqlalchemy import delete as sql_delete
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.exc import IntegrityError
from sqlalchemy.orm import Session

from inclinum.core.document import Document
from inclinum.store.errors import Missing, Refused, Taken
from inclinum.store.jobs import missing
from inclinum.store.listing import Page
from inclinum.store.models import Binned, Event, JobRow, VehicleRow

DAYS = 30
JOB_TABLES = ("job", "stage", "measurement", "torque_record", "event", "build_act")
"""What belongs to a job, what is referred to first."""


class BinnedSummary(Document):
    """Something in the bin."""

    id: int
    what: str
    title: str
    deleted_at: datetime
    deleted_by: str
    gone_on: datetime
    """When it goes for good."""


def delete_job(session: Session, job_id: str, by: str) -> None:
    """Put a job into the bin; the shop's history tells it. Raises Missing."""
    title = session.scalar(select(JobRow.title).where(JobRow.id == job_id).with_for_update())
    if title is None:
        raise missing(job_id)
    _put(session, "job", job_id, title, {t: _rows(session, t, job_id) for t in JOB_TABLES}, by)
    session.execute(sql_delete(JobRow).where(JobRow.id == job_id).execution_options(synchronize_session=False))
    _tell(session, by, f"deleted job “{title}” ({job_id}); it lies in the bin for {DAYS} days")


def delete_vehicle(session: Session, vehicle_id: int, by: str) -> None:
    """Put a vehicle that no job is on into the bin.

    Raises:
        Missing: there is none.
        Refused: jobs are on it.
    """
    row = session.scalar(select(VehicleRow).where(VehicleRow.id == vehicle_id).with_for_update())
    if row is None:
        raise Missing("There is no such vehicle; the list shows what is there.")
    many = session.scalar(select(func.count()).select_from(JobRow).where(JobRow.vehicle_id == vehicle_id)) or 0
    if many:
        said = "1 job is" if many == 1 else f"{many} jobs are"
        raise Refused(f"{said} on “{row.name}”, and would have no vehicle: delete the jobs first, or keep it.")
    found = session.scalar(text("SELECT to_jsonb(v) FROM vehicle v WHERE id = :id"), {"id": vehicle_id})
    title = f"{row.name} {row.plate}".strip()
    _put(session, "vehicle", str(vehicle_id), title, {"vehicle": [found]}, by)
    session.execute(sql_delete(VehicleRow).where(VehicleRow.id == vehicle_id))
    _tell(session, by, f"deleted the vehicle “{title}”; it lies in the bin for {DAYS} days")


def _rows(session: Session, table: str, job_id: str) -> list[dict[str, Any]]:
    column, order = ("id", "id") if table == "job" else ("job_id", "name" if table == "stage" else "id")
    query = f"SELECT to_jsonb(t) FROM {table} t WHERE {column} = :id ORDER BY {order}"
    return list(session.scalars(text(query), {"id": job_id}))


def _put(session: Session, what: str, key: str, title: str, rows: dict[str, Any], by: str) -> None:
    empty(session)
    session.execute(insert(Binned).values(what=what, key=key, title=title, rows=rows, deleted_by=by))


def summaries(session: Session, limit: int, offset: int) -> Page[BinnedSummary]:
    """A page of what is in the bin, last deleted first."""
    empty(session)
    total = session.scalar(select(func.count()).select_from(Binned)) or 0
    rows = session.execute(
        select(Binned.id, Binned.what, Binned.title, Binned.deleted_at, Binned.deleted_by)
        .order_by(Binned.deleted_at.desc(), Binned.id.desc()).limit(limit).offset(offset)
    ).all()  # fmt: skip
    items = [
        BinnedSummary(**row._mapping, gone_on=row.deleted_at + timedelta(days=DAYS))  # type: ignore[arg-type]
        for row in rows
    ]
    return Page(items=items, total=total)


def put_back(session: Session, binned_id: int, by: str) -> tuple[str, str]:
    """Put something back as it was, with its history and its versions; what it is, and its id.

    Raises:
        Missing: it is not in the bin any more.
        Taken: its id, or its name and plate, is in use by now.
        Refused: a job whose vehicle is not there.
    """
    row = session.scalar(select(Binned).where(Binned.id == binned_id).with_for_update())
    if row is None:
        raise Missing(f"It is not in the bin any more: it was put back, or its {DAYS} days are over.")
    try:
        with session.begin_nested():
            for table in JOB_TABLES if row.what == "job" else ("vehicle",):
                for each in row.rows.get(table, ()):
                    _insert(session, table, each)
    except IntegrityError as error:
        if isinstance(error.orig, ForeignKeyViolation):
            raise Refused(f"The vehicle of “{row.title}” is not there: put the vehicle back first.") from None
        raise Taken(
            f"Something else has the name of “{row.title}” by now: rename or delete that first, then put this back."
        ) from None
    what, key, title = row.what, row.key, row.title
    session.delete(row)
    _tell(session, by, f"put the {what} “{title}” back from the bin")
    return what, key


_COLUMNS = text(
    "SELECT column_name FROM information_schema.columns WHERE table_schema = 'public' AND table_name = :table"
)


def _insert(session: Session, table: str, row: dict[str, Any]) -> None:
    """A row as it stood; columns that came since then have what a new row has."""
    known = set(session.scalars(_COLUMNS, {"table": table}))
    names = ", ".join(f'"{name}"' for name in row if name in known)
    query = f"INSERT INTO {table} ({names}) SELECT {names} FROM jsonb_populate_record(NULL::{table}, :row)"
    session.execute(text(query).bindparams(bindparam("row", type_=JSONB)), {"row": row})


def empty(session: Session) -> None:
    """Let go of what has lain there for its days."""
    over = func.now() - timedelta(days=DAYS)
    session.execute(sql_delete(Binned).where(Binned.deleted_at < over))


def _tell(session: Session, by: str, what: str) -> None:
    session.execute(insert(Event).values(job_id=None, by=by, what=what[:2000]))
