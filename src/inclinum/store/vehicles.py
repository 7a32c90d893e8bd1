"""Vehicles the shop has set up, with or without a job."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any
from uuid import UUID

from pydantic import ValidationError
from sqlalchemy import func, insert, select, update
from sqlalchemy.dialects.postgresql import insert as upsert
from sqlalchemy.orm import Session

from inclinum.core.bike.machine import Bike
from inclinum.core.car.vehicle import Vehicle
from inclinum.core.document import Document
from inclinum.core.document.merge import Whose
from inclinum.core.machines import kind_of, kind_on
from inclinum.core.machines.kind import MachineKind
from inclinum.jobfile import LARGEST_SECTION, VERSION, VehicleFile, complaints
from inclinum.store import documents
from inclinum.store.errors import Missing, Refused, Taken, Unreadable
from inclinum.store.hands import both
from inclinum.store.listing import Page, searched
from inclinum.store.models import Event, JobRow, Owner, StageRow, VehicleRow
from inclinum.store.owners import owner_named
from inclinum.store.silhouette import Silhouette, read_silhouette, silhouette_of
from inclinum.store.wording import shortened

AnyVehicle = Vehicle | Bike


class VehicleSummary(Document):
    """A vehicle on the list."""

    id: int
    name: str
    kind: str
    plate: str
    owner: str
    description: str
    front: str
    rear: str
    jobs: int
    measured: int
    """Tape readings taken on both axles, or on a two-wheeler's rear end."""
    trouble: str | None
    """Why it cannot be opened; what is stored can be downloaded all the same."""
    silhouette: Silhouette | None


@dataclass(frozen=True)
class Stored:
    """A vehicle with its version."""

    vehicle: AnyVehicle
    owner: str
    version: int


def summaries(session: Session, limit: int = 100, offset: int = 0, words: str = "") -> Page[VehicleSummary]:
    """A page of vehicles, by name."""
    wanted = searched(words, VehicleRow.name, VehicleRow.plate, Owner.name, VehicleRow.front, VehicleRow.rear)
    total = session.scalar(select(func.count()).select_from(VehicleRow).join(Owner).where(*wanted)) or 0
    rows = session.execute(
        select(
            VehicleRow.id, VehicleRow.name, VehicleRow.wheels, VehicleRow.plate, Owner.name.label("owner"),
            VehicleRow.description, VehicleRow.front, VehicleRow.rear, VehicleRow.measured, VehicleRow.trouble,
            VehicleRow.checked, silhouette_of(VehicleRow.document),
            select(func.count()).select_from(JobRow).where(JobRow.vehicle_id == VehicleRow.id)
            .correlate(VehicleRow).scalar_subquery().label("jobs"),
        )
        .join(Owner).where(*wanted).order_by(VehicleRow.name, VehicleRow.id).limit(limit).offset(offset)
    ).all()  # fmt: skip
    found = []
    for row in rows:
        trouble = row.trouble if row.checked == documents.models_mark() else _look_through(session, row.id)
        shown = {f: getattr(row, f) for f in VehicleSummary.model_fields if f not in ("trouble", "kind", "silhouette")}
        drawn = read_silhouette(row.silhouette)
        found.append(VehicleSummary(**shown, kind=kind_on(row.wheels).name, trouble=trouble, silhouette=drawn))
    return Page(items=found, total=total)


def _look_through(session: Session, vehicle_id: int) -> str | None:
    """Try to read a vehicle that another program or hand wrote, and keep what came of it; why it cannot be read."""
    row = _row(session, vehicle_id)
    columns: dict[str, Any] = {}
    try:
        columns, trouble = _listed(_of(row)), None
    except Unreadable as error:
        trouble = error.sentence
    here = select(VehicleRow.id).where(VehicleRow.id == vehicle_id)
    if session.scalar(here.with_for_update(skip_locked=True)) is not None:
        mark = {"checked": documents.models_mark(), "trouble": trouble}
        session.execute(update(VehicleRow).where(VehicleRow.id == vehicle_id).values(**columns, **mark))
    return trouble


def _listed(vehicle: AnyVehicle) -> dict[str, Any]:
    """Columns that tell what a vehicle is."""
    front, rear, measured = kind_of(vehicle).listed(vehicle)
    return {
        "name": vehicle.name,
        "plate": vehicle.plate,
        "description": vehicle.description,
        "front": front,
        "rear": rear,
        "measured": measured,
    }


def _of(row: VehicleRow) -> AnyVehicle:
    try:
        return kind_on(row.wheels).machine.model_validate(row.document)
    except ValidationError as error:
        found = complaints(error.errors())
        sentence = f"The vehicle “{row.name}” cannot be read. {found[0].path}: {found[0].sentence}"
        raise Unreadable(
            f"{sentence} What is stored can be downloaded.", f"/api/vehicles/{row.id}/raw", found
        ) from None


def load(session: Session, vehicle_id: int) -> Stored:
    """One vehicle. Raises Missing, Unreadable."""
    row = _row(session, vehicle_id)
    return Stored(_of(row), row.owner.name, row.version)


def load_locked(session: Session, vehicle_id: int) -> Stored:
    """The same, held until the transaction ends."""
    row = _row(session, vehicle_id, lock=True)
    return Stored(_of(row), row.owner.name, row.version)


def raw(session: Session, vehicle_id: int) -> dict[str, Any]:
    """A vehicle as it is stored, not looked at. Raises Missing."""
    return _row(session, vehicle_id).document


def create(session: Session, vehicle: AnyVehicle, owner: str, by: str) -> int:
    """Put a new vehicle into the database and give its id.

    Raises:
        Taken: one of that kind, name and plate is there.
        Refused: it is larger than can be kept.
    """
    owner_id = owner_named(session, owner)
    _unlike_others(session, vehicle, None)
    vehicle_id = _insert(session, vehicle, owner_id, None, by)
    if vehicle_id is None:
        raise _taken(vehicle)
    _tell(session, by, f"set up the vehicle “{vehicle.name}” {vehicle.plate}")
    return vehicle_id


def export(session: Session, vehicle_id: int) -> VehicleFile:
    """A vehicle as a file. Raises as :func:`load`."""
    row = _row(session, vehicle_id)
    return VehicleFile(vehicle=_of(row), owner=row.owner.name, vehicle_id=row.uid)


def bring_in(session: Session, file: VehicleFile, by: str) -> int:
    """Put a vehicle of a file into the database and give its id.

    Raises:
        Taken: it is there already, or another of its kind has that name and plate.
        Refused: it is larger than can be kept.
    """
    owner_id = owner_named(session, file.owner)
    _unlike_others(session, file.vehicle, None)
    made = _insert(session, file.vehicle, owner_id, file.vehicle_id, by)
    if made is None:
        raise _taken(file.vehicle)
    _tell(session, by, f"brought in the vehicle “{file.vehicle.name}” {file.vehicle.plate}")
    return made


def _insert(session: Session, vehicle: AnyVehicle, owner_id: int, uid: UUID | None, by: str) -> int | None:
    """A new row; None where somebody else made that very vehicle at the same moment."""
    _small_enough(vehicle)
    return session.execute(
        upsert(VehicleRow)
        .values(
            **_listed(vehicle), wheels=kind_of(vehicle).wheels, owner_id=owner_id, version=1, schema_version=VERSION,
            document=vehicle.model_dump(mode="json"), saved_by=by, checked=documents.models_mark(),
            **({"uid": uid} if uid else {}),
        )
        .on_conflict_do_nothing()
        .returning(VehicleRow.id)
    ).scalar_one_or_none()  # fmt: skip


def matching(session: Session, vehicle: AnyVehicle, owner_id: int, uid: UUID | None, by: str) -> int:
    """Id of the vehicle a job file is on: told by its id, by kind, name and plate, or, where it has no plate,
    by being the same in everything; a new one where there is none. A name alone tells nothing."""
    wheels, document = kind_of(vehicle).wheels, vehicle.model_dump(mode="json")
    mine = select(VehicleRow.id).where(VehicleRow.wheels == wheels)
    if uid is not None and (found := session.scalar(mine.where(VehicleRow.uid == uid))) is not None:
        return found
    named = mine.where(VehicleRow.name == vehicle.name, VehicleRow.plate == vehicle.plate).order_by(VehicleRow.id)
    if not vehicle.plate:
        named = named.where(VehicleRow.document == document)
    if (found := session.scalar(named)) is not None:
        return found
    if uid is not None and session.scalar(select(VehicleRow.id).where(VehicleRow.uid == uid)) is not None:
        uid = None  # a vehicle of another kind has it
    if (made := _insert(session, vehicle, owner_id, uid, by)) is not None:
        return made
    # Somebody else brought it at the same moment; the insert has waited for them.
    return session.scalars(named).first() or session.scalars(mine.where(VehicleRow.uid == uid)).one()


@dataclass(frozen=True)
class Written:
    """A vehicle as it now is.

    Args:
        version: it now has.
        vehicle: as it is, where that is not what was sent: somebody else's entries came in.
    """

    version: int
    vehicle: AnyVehicle | None = None


def save(
    session: Session,
    vehicle_id: int,
    vehicle: AnyVehicle,
    version: int,
    by: str,
    base: AnyVehicle | None = None,
    chosen: Mapping[str, Whose] | None = None,
) -> Written:
    """Save a vehicle on top of what the writer saw: version, or with ``base`` and ``chosen`` as :mod:`stages` does.

    Raises:
        Missing: no such vehicle, or none of that kind.
        Conflict: somebody else changed the same entries since; nothing is written.
        Taken: another of its kind has that name and plate.
        Refused: it is larger than can be kept.
        Unreadable: what is stored cannot be compared.
    """
    _small_enough(vehicle)
    row = _row(session, vehicle_id, lock=True)
    if row.wheels != kind_of(vehicle).wheels:
        raise Missing("That one is another kind of machine; the list of vehicles leads to its own bench.")
    theirs = _of(row)
    if theirs == vehicle:
        return Written(row.version)
    sent = vehicle
    if theirs != base if base is not None else row.version != version:
        vehicle = both(base, vehicle, theirs, chosen or {}, (row.version, row.saved_by, row.saved_at))
        _small_enough(vehicle)
    if theirs == vehicle:
        return Written(row.version, vehicle)
    _unlike_others(session, vehicle, vehicle_id)
    written = _write(session, vehicle_id, vehicle, row.version, by)
    _tell(session, by, f"changed the vehicle “{vehicle.name}” {vehicle.plate}")
    return Written(written, None if vehicle == sent else vehicle)


def found_otherwise(session: Session, vehicle_id: int, as_known: Bike | dict[str, Any], found: Bike, by: str) -> bool:
    """Carry a machine that a job found otherwise over to its bench, so that the next job starts from it.

    The caller holds the vehicle's lock. Not done, and False, where the bench no longer holds what the job knew of it:
    somebody changed it there, and that stays.
    """
    row = _row(session, vehicle_id)
    now = _of(row)
    if now == found:
        return True
    if now != (as_known if isinstance(as_known, Bike) else Bike.model_validate(as_known)):
        return False
    _unlike_others(session, found, vehicle_id)
    _write(session, vehicle_id, found, row.version, by)
    return True


def _write(session: Session, vehicle_id: int, vehicle: AnyVehicle, version: int, by: str) -> int:
    return session.execute(
        update(VehicleRow)
        .where(VehicleRow.id == vehicle_id, VehicleRow.version == version)
        .values(
            **_listed(vehicle), document=vehicle.model_dump(mode="json"), version=VehicleRow.version + 1,
            schema_version=VERSION, saved_by=by, saved_at=func.now(), checked=documents.models_mark(), trouble=None,
        )
        .returning(VehicleRow.version)
        .execution_options(synchronize_session=False)
    ).scalar_one()  # fmt: skip


def _unlike_others(session: Session, vehicle: AnyVehicle, but: int | None) -> None:
    same = select(VehicleRow.id).where(
        VehicleRow.wheels == kind_of(vehicle).wheels, VehicleRow.name == vehicle.name, VehicleRow.plate == vehicle.plate
    )
    if but is not None:
        here = session.execute(select(VehicleRow.name, VehicleRow.plate).where(VehicleRow.id == but)).one()
        if tuple(here) == (vehicle.name, vehicle.plate):
            return
    if session.scalar(same.limit(1)) is not None:
        raise _taken(vehicle)


def _taken(vehicle: AnyVehicle) -> Taken:
    plate = f" {vehicle.plate}" if vehicle.plate else ""
    return Taken(f"There is already a vehicle “{vehicle.name}”{plate}; give it another name or plate.")


def _small_enough(vehicle: AnyVehicle) -> None:
    if len(vehicle.model_dump_json()) > LARGEST_SECTION:
        raise Refused("That is more than a vehicle can hold; shorten its notes or take entries out.")


def _tell(session: Session, by: str, what: str) -> None:
    session.execute(insert(Event).values(job_id=None, by=by, what=shortened(what.rstrip(), 400)))


def newest_brief(session: Session, kind: MachineKind) -> Any:
    """The brief of the newest job of a kind that can be read; None where there is none."""
    rows = session.scalars(
        select(StageRow.document)
        .join(JobRow, JobRow.id == StageRow.job_id)
        .where(StageRow.name == "brief", JobRow.wheels == kind.wheels)
        .order_by(JobRow.created_at.desc(), JobRow.id.desc())
        .limit(5)
    )
    for document in rows:
        try:
            return kind.stages["brief"].model_validate(document)
        except ValidationError:
            continue
    return None


def _row(session: Session, vehicle_id: int, *, lock: bool = False) -> VehicleRow:
    query = select(VehicleRow).where(VehicleRow.id == vehicle_id).execution_options(populate_existing=True)
    row = session.scalars(query.with_for_update(key_share=True, of=VehicleRow) if lock else query).one_or_none()
    if row is None:
        raise Missing("There is no such vehicle; the list shows what is there.")
    return row
