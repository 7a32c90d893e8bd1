"""Jobs in the database: each save is one transaction, one version, one event."""

from dataclasses import dataclass
from datetime import date, datetime

from sqlalchemy import func, select
from sqlalchemy.orm import Session, selectinload

from inclinum.core.bike.bike import Bike
from inclinum.core.bike.job import BikeJob, BikeMeasurements
from inclinum.core.document import Document
from inclinum.core.job import STAGES, Job, StageName
from inclinum.core.vehicle import Vehicle
from inclinum.jobfile import VERSION, AnyJobFile, HistoryEntry, file_of
from inclinum.store import documents
from inclinum.store.models import Event, JobRow, Owner, Person, Shop, StageRow, VehicleRow
from inclinum.store.wording import describe


class Missing(LookupError):  # noqa: N818 (told to people as a sentence)
    """No job of that id."""


class Taken(ValueError):  # noqa: N818
    """A job of that id is already there."""


@dataclass
class Conflict(Exception):  # noqa: N818
    """Somebody saved the stage first. Nothing was written."""

    theirs: Document
    version: int
    by: str
    at: datetime


@dataclass(frozen=True)
class StoredJob:
    """A job with the version of each stage and its history."""

    job: Job | BikeJob
    versions: dict[StageName, int]
    history: list[HistoryEntry]


class JobSummary(Document):
    """A job on the list."""

    id: str
    title: str
    wheels: int
    vehicle: str
    plate: str
    owner: str
    due: date | None
    stage: StageName
    """The stage to go on with."""
    signed_off: datetime | None
    front_rise: float | None
    """Aimed at, mm; of a two-wheeler the front follows the rear."""
    rear_rise: float
    saved_at: datetime


def summaries(session: Session) -> list[JobSummary]:
    """All jobs, open ones first by due date, then finished ones, latest first."""
    rows = session.scalars(select(JobRow).options(*_WHOLE)).all()
    found = [_summary(row) for row in rows]
    finished = sorted((s for s in found if s.signed_off), key=lambda s: str(s.signed_off), reverse=True)
    return sorted((s for s in found if not s.signed_off), key=lambda s: (s.due or date.max, s.title)) + finished


_WHOLE = (
    selectinload(JobRow.stages),
    selectinload(JobRow.measurements),
    selectinload(JobRow.torques),
    selectinload(JobRow.vehicle).selectinload(VehicleRow.owner),
)


def _summary(row: JobRow) -> JobSummary:
    job = documents.assemble(row)
    return JobSummary(
        id=row.id,
        title=row.title,
        wheels=row.wheels,
        vehicle=job.vehicle.name,
        plate=job.vehicle.plate,
        owner=job.brief.owner,
        due=job.brief.due,
        stage=_next_stage(job),
        signed_off=job.prove.sign_off.at if job.prove.sign_off else None,
        front_rise=None if isinstance(job, BikeJob) else job.brief.front.rise.value,
        rear_rise=-job.brief.rear_drop.value if isinstance(job, BikeJob) else job.brief.rear.rise.value,
        saved_at=max(stage.saved_at for stage in row.stages),
    )


def _next_stage(job: Job | BikeJob) -> StageName:
    """Where work goes on: the first stage with nothing in it."""
    if isinstance(job, BikeJob):
        after, read, set_up = job.prove.after.sags, job.measure.sags or job.measure.tape, bool(job.align.note)
    else:
        after, read, set_up = job.prove.after.corners, job.measure.corners, bool(job.align.chosen)
    if job.prove.sign_off or after:
        return "prove"
    if job.build.ticks:
        return "build"
    if set_up:
        return "align"
    if read:
        return "plan"
    return "measure"


def load(session: Session, job_id: str) -> StoredJob:
    """One job. Raises Missing."""
    row = _row(session, job_id)
    return StoredJob(
        job=documents.assemble(row),
        versions={s.name: s.version for s in row.stages},  # type: ignore[misc]
        history=[HistoryEntry(at=e.at, by=e.by, what=e.what) for e in row.events],
    )


def save_stage(session: Session, job_id: str, stage: StageName, section: Document, version: int, by: str) -> int:
    """Save one stage on top of the version the writer saw, and give the new version.

    Raises:
        Missing: no such job.
        Conflict: somebody else saved it since; nothing is written.
    """
    row = _row(session, job_id)
    held = session.scalars(
        select(StageRow).where(StageRow.job_id == job_id, StageRow.name == stage).with_for_update()
        .execution_options(populate_existing=True)
    ).one()  # fmt: skip
    theirs = documents.take(row, held)
    if theirs == section:
        # Also a save whose answer was lost on the way: the writer tries again and finds it done.
        return held.version
    if held.version != version:
        raise Conflict(theirs, held.version, held.saved_by, held.saved_at)
    held.document = documents.put(row, stage, section)
    held.version = version + 1
    held.schema_version = VERSION
    held.saved_by = by
    held.saved_at = func.now()
    if isinstance(section, BikeMeasurements) and stage == "measure" and section.machine is not None:
        # The next job on it starts from the machine as it was found; whoever has it on the bench is told.
        found = section.machine.model_dump(mode="json")
        if row.vehicle.document != found:
            row.vehicle.document, row.vehicle.version = found, row.vehicle.version + 1
            row.vehicle.saved_by, row.vehicle.saved_at = by, func.now()
    if stage == "brief":
        row.vehicle.owner = owner_named(session, section.model_dump()["owner"])
    session.add(Event(job_id=job_id, by=by, what=describe(stage, theirs, section)))
    session.flush()
    return version + 1


def create(session: Session, file: AnyJobFile, by: str, note: str | None = None) -> None:
    """Put a job with its history into the database.

    Args:
        file: the job.
        by: who does it.
        note: told in the job's own history; without it only the shop's history tells, so that an exported
            job comes back exactly as it was.

    Raises:
        Taken: its id is in use.
    """
    job = file.job
    if session.get(JobRow, job.id):
        raise Taken(f"There is already a job “{job.id}”; delete it first, or change the id in the file.")
    row = JobRow(
        id=job.id,
        title=job.title,
        wheels=_wheels(job.vehicle),
        vehicle=_vehicle(session, job),
        vehicle_document=job.vehicle.model_dump(mode="json"),
        schema_version=VERSION,
    )
    session.add(row)
    for name in STAGES:
        section = getattr(job, name)
        row.stages.append(
            StageRow(
                name=name, version=1, document=documents.put(row, name, section), schema_version=VERSION, saved_by=by
            )
        )
    row.events = [Event(at=h.at, by=h.by, what=h.what) for h in file.history]
    if note:
        row.events.append(Event(by=by, what=note))
    else:
        session.add(Event(job_id=None, by=by, what=f"imported job “{job.title}” ({job.id})"))
    session.flush()


def delete(session: Session, job_id: str, by: str) -> None:
    """Remove a job; the shop's history keeps that it was there. Raises Missing."""
    row = _row(session, job_id)
    session.add(Event(job_id=None, by=by, what=f"deleted job “{row.title}” ({job_id})"))
    session.delete(row)
    session.flush()


def export(session: Session, job_id: str) -> AnyJobFile:
    """The job as a file. Raises Missing."""
    stored = load(session, job_id)
    return file_of(stored.job, tuple(stored.history))


def four_wheels(session: Session, job_id: str) -> Job:
    """A job on four wheels. Raises Missing."""
    job = load(session, job_id).job
    if isinstance(job, BikeJob):
        raise Missing(f"The job “{job.title}” is on two wheels; it is opened as such.")
    return job


def two_wheels(session: Session, job_id: str) -> BikeJob:
    """A job on two wheels. Raises Missing."""
    job = load(session, job_id).job
    if isinstance(job, Job):
        raise Missing(f"The job “{job.title}” is on four wheels; it is opened as such.")
    return job


def of_same_vehicle(session: Session, job_id: str) -> list[Job]:
    """Every job of this job's vehicle, itself included, oldest first. Raises Missing."""
    vehicle = _row(session, job_id).vehicle_id
    rows = session.scalars(
        select(JobRow).where(JobRow.vehicle_id == vehicle).options(*_WHOLE).order_by(JobRow.created_at, JobRow.id)
    )
    return [job for row in rows if isinstance(job := documents.assemble(row), Job)]


def people(session: Session) -> list[str]:
    """Everybody in the shop, in the order they came."""
    return list(session.scalars(select(Person.name).order_by(Person.id)))


def shop_name(session: Session) -> str:
    """Name of the shop, empty before it has one."""
    return session.scalar(select(Shop.name)) or ""


def is_empty(session: Session) -> bool:
    """Whether nothing was ever put in."""
    return session.scalar(select(func.count()).select_from(Event)) == 0 and not people(session)


def found_shop(session: Session, name: str, people_names: tuple[str, ...]) -> None:
    """Name the shop and its people."""
    session.add(Shop(name=name))
    session.add_all([Person(name=n) for n in people_names])
    session.flush()


def _row(session: Session, job_id: str) -> JobRow:
    row = session.scalars(
        select(JobRow).where(JobRow.id == job_id).options(*_WHOLE, selectinload(JobRow.events))
    ).one_or_none()
    if row is None:
        raise Missing(f"There is no job “{job_id}”; it may have been deleted. The list shows what is there.")
    return row


def owner_named(session: Session, name: str) -> Owner:
    """The owner of a name, a new one where there is none."""
    found = session.scalars(select(Owner).where(Owner.name == name)).one_or_none()
    return found or Owner(name=name)


def _wheels(vehicle: Vehicle | Bike) -> int:
    return 2 if isinstance(vehicle, Bike) else 4


def _vehicle(session: Session, job: Job | BikeJob) -> VehicleRow:
    found = session.scalars(
        select(VehicleRow).where(VehicleRow.name == job.vehicle.name, VehicleRow.plate == job.vehicle.plate)
    ).one_or_none()
    return found or VehicleRow(
        name=job.vehicle.name,
        plate=job.vehicle.plate,
        wheels=_wheels(job.vehicle),
        owner=owner_named(session, job.brief.owner),
        document=job.vehicle.model_dump(mode="json"),
        version=1,
        schema_version=VERSION,
    )
