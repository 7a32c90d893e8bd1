"""Vehicles the shop has set up, with or without a job."""

from dataclasses import dataclass
from typing import Generic, TypeVar

from sqlalchemy import func, select
from sqlalchemy.orm import Session, selectinload

from inclinum.core.archetypes import ARCHETYPES
from inclinum.core.bike.bike import Bike
from inclinum.core.bike.job import BikeBrief, SagWindow, ShelfSpring
from inclinum.core.document import Document
from inclinum.core.job import Brief, LocalLimit
from inclinum.core.vehicle import Axle, Vehicle
from inclinum.jobfile import VERSION
from inclinum.store.jobs import Conflict, Missing, Taken, owner_named
from inclinum.store.models import Event, JobRow, StageRow, VehicleRow

V = TypeVar("V", Vehicle, Bike)


class VehicleSummary(Document):
    """A vehicle on the list."""

    id: int
    name: str
    wheels: int
    plate: str
    owner: str
    description: str
    front: str
    rear: str
    jobs: int
    measured: int
    """Tape readings taken on both axles, or on a two-wheeler's rear end."""


@dataclass(frozen=True)
class Stored(Generic[V]):
    """A vehicle with its version."""

    vehicle: V
    owner: str
    version: int


def summaries(session: Session) -> list[VehicleSummary]:
    """All vehicles, by name."""
    by_vehicle = session.execute(select(JobRow.vehicle_id, func.count().label("jobs")).group_by(JobRow.vehicle_id))
    counts = {row.vehicle_id: row.jobs for row in by_vehicle}
    rows = session.scalars(select(VehicleRow).options(selectinload(VehicleRow.owner)).order_by(VehicleRow.name))
    found = []
    for row in rows:
        vehicle = _of(row)
        bike = isinstance(vehicle, Bike)
        found.append(
            VehicleSummary(
                id=row.id,
                name=row.name,
                wheels=row.wheels,
                plate=row.plate,
                owner=row.owner.name,
                description=vehicle.description,
                front=_fork_title(vehicle) if bike else _title(vehicle.front),
                rear=vehicle.rear.title if bike else _title(vehicle.rear),
                jobs=counts.get(row.id, 0),
                measured=len(vehicle.tape) if bike else len(vehicle.front.tape) + len(vehicle.rear.tape),
            )
        )
    return found


def _title(axle: Axle) -> str:
    known = ARCHETYPES.get(axle.archetype)
    return known.title if known else axle.linkage.title


def _fork_title(bike: Bike) -> str:
    return f"Fork, {bike.fork.springs.title.lower()}, {bike.fork.stroke_mm:g} mm"


def _of(row: VehicleRow) -> Vehicle | Bike:
    return (Bike if row.wheels == 2 else Vehicle).model_validate(row.document)


def load(session: Session, vehicle_id: int) -> Stored[Vehicle]:
    """One vehicle on four wheels. Raises Missing."""
    row = _row(session, vehicle_id)
    if row.wheels != 4:
        raise Missing("That one has two wheels; the list of vehicles leads to its own bench.")
    return Stored(Vehicle.model_validate(row.document), row.owner.name, row.version)


def load_bike(session: Session, vehicle_id: int) -> Stored[Bike]:
    """One two-wheeler. Raises Missing."""
    row = _row(session, vehicle_id)
    if row.wheels != 2:
        raise Missing("That one has four wheels; the list of vehicles leads to its own bench.")
    return Stored(Bike.model_validate(row.document), row.owner.name, row.version)


def create(session: Session, vehicle: Vehicle | Bike, owner: str, by: str) -> int:
    """Put a new vehicle into the database and give its id.

    Raises:
        Taken: a vehicle of that name and plate is there.
    """
    same = select(VehicleRow.id).where(VehicleRow.name == vehicle.name, VehicleRow.plate == vehicle.plate)
    if session.scalar(same):
        raise Taken(f"There is already a vehicle “{vehicle.name}” {vehicle.plate}; give it another name or plate.")
    row = VehicleRow(
        name=vehicle.name,
        plate=vehicle.plate,
        wheels=2 if isinstance(vehicle, Bike) else 4,
        owner=owner_named(session, owner),
        document=vehicle.model_dump(mode="json"),
        version=1,
        schema_version=VERSION,
        saved_by=by,
    )
    session.add(row)
    session.add(Event(job_id=None, by=by, what=f"set up the vehicle “{vehicle.name}” {vehicle.plate}".rstrip()))
    session.flush()
    return row.id


def save(session: Session, vehicle_id: int, vehicle: Vehicle | Bike, version: int, by: str) -> int:
    """Save a vehicle on top of the version the writer saw, and give the new version.

    Raises:
        Missing: no such vehicle.
        Conflict: somebody else saved it since; nothing is written.
    """
    row = _row(session, vehicle_id, lock=True)
    theirs = _of(row)
    if type(theirs) is not type(vehicle):
        raise Missing("That one has another number of wheels; the list of vehicles leads to its own bench.")
    if theirs == vehicle:
        return row.version
    if row.version != version:
        raise Conflict(theirs, row.version, row.saved_by, row.saved_at)
    row.document = vehicle.model_dump(mode="json")
    row.name, row.plate = vehicle.name, vehicle.plate
    row.version, row.schema_version, row.saved_by, row.saved_at = version + 1, VERSION, by, func.now()
    session.add(Event(job_id=None, by=by, what=f"changed the vehicle “{vehicle.name}” {vehicle.plate}".rstrip()))
    session.flush()
    return row.version


def last_limits(session: Session) -> tuple[LocalLimit, ...]:
    """The shop's local limits as the newest job on four wheels has them."""
    newest = _newest_brief(session, 4)
    return Brief.model_validate(newest.document).local_limits if newest else ()


def last_shelf(session: Session) -> tuple[tuple[ShelfSpring, ...], tuple[SagWindow, ...]]:
    """The shop's shelf of rear springs and its own sag windows, as the newest job on two wheels has them."""
    newest = _newest_brief(session, 2)
    if newest is None:
        return (), ()
    brief = BikeBrief.model_validate(newest.document)
    return brief.shelf, brief.windows


def _newest_brief(session: Session, wheels: int) -> StageRow | None:
    return session.scalars(
        select(StageRow)
        .join(JobRow)
        .where(StageRow.name == "brief", JobRow.wheels == wheels)
        .order_by(JobRow.created_at.desc(), JobRow.id.desc())
    ).first()


def _row(session: Session, vehicle_id: int, *, lock: bool = False) -> VehicleRow:
    query = select(VehicleRow).where(VehicleRow.id == vehicle_id).options(selectinload(VehicleRow.owner))
    row = session.scalars(query.with_for_update() if lock else query).one_or_none()
    if row is None:
        raise Missing("There is no such vehicle; the list shows what is there.")
    return row
