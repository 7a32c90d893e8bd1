"""Figures corrected on a vehicle after a job was opened on it: told to the open job, taken over when somebody says so.

A job keeps its vehicle as it came, so that what was planned stays what it was. A torque that was mistyped, a target or
an adjuster that was put right is another matter: it is offered, one by one, and never taken over in silence.
"""

from collections.abc import Iterator
from typing import Any, cast

from pydantic import ValidationError
from sqlalchemy import func, select, update
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Session

from inclinum.core.card.own import KeptNote
from inclinum.core.document import UNITS, Document
from inclinum.core.document.names import AxleName
from inclinum.core.machines import kind_on
from inclinum.jobfile import LONGEST_LINE
from inclinum.store.errors import Missing, Refused
from inclinum.store.models import Event, JobRow, StageRow, VehicleRow
from inclinum.store.vehicles import AnyVehicle, load_locked
from inclinum.store.vehicles import save as save_figures
from inclinum.store.wording import differences, shortened

OF_AXLE = (
    "targets", "adjusters", "fasteners", "joint_limits_deg", "strut_top", "orientation", "anti_roll_n_per_mm",
    "bush_rate_n_per_mm", "unsprung_kg", "half_shaft", "lines", "full_lock", "anti_roll_link", "tyre_gaps",
    "tyre_width_mm", "seats", "u_bolts", "prop_shaft", "own_steps", "notes",
)  # fmt: skip
ENDS = ("front", "rear")
FIGURES: dict[int, tuple[str, ...]] = {
    4: ("mass_kg", "stations", "headlamp", "driver_assist", "cg_height_mm", "front_overhang_mm",
        "rear_overhang_mm", "roof_mm", *(f"{end}.{f}" for end in ENDS for f in
    OF_AXLE)), 2: ("fasteners", "orientation", "clearances", "far_ends", "centre_stand", "own_steps", "notes"),
}  # fmt: skip
"""Wheels → what the maker or the shop says of a vehicle, as paths; not its points, springs and tape."""
SINGLY = ("targets", "fasteners", "joint_limits_deg")
"""Mappings whose entries are offered one by one."""


class Correction(Document):
    """One figure that stands otherwise on the vehicle than in the job."""

    key: str
    what: str
    """Path, what the job has, what the vehicle has."""


def corrections(session: Session, job_id: str) -> list[Correction]:
    """What was corrected on the vehicle of an open job; of one that is signed off nothing.

    Raises:
        Missing: no such job.
    """
    row = _row(session, job_id)
    if row.signed_off is not None:
        return []
    return [Correction(key=key, what=what) for key, what, _ in _found(row)]


def take_over(session: Session, job_id: str, keys: list[str], by: str) -> int:
    """Put figures of the vehicle into the job, and say so in its history; how many.

    Raises:
        Missing: no such job.
        Refused: it is signed off, one of them does not stand so any more, or the job's vehicle cannot have them.
    """
    session.execute(select(JobRow.id).where(JobRow.id == job_id).with_for_update(key_share=True))
    row = _row(session, job_id)
    if row.signed_off is not None:
        raise Refused("This job is signed off: what was built and proved stays as it is.")
    offered = {key: (what, value) for key, what, value in _found(row)}
    gone = [key for key in keys if key not in offered]
    if gone:
        raise Refused(f"“{gone[0]}” stands otherwise by now: look at the vehicle again.")
    vehicle = dict(row.mine)
    for key in keys:
        _set(vehicle, key, offered[key][1])
    try:
        whole = kind_on(row.wheels).machine.model_validate(vehicle).model_dump(mode="json")
    except ValidationError as error:
        said = str(error.errors()[0]["msg"]).removeprefix("Value error, ")
        raise Refused(f"The job's vehicle cannot have that: {said}.") from None
    session.execute(
        update(JobRow).where(JobRow.id == job_id)
        .values(vehicle_document=whole, outcome=None, outcome_by=None, saved_at=func.now())
    )  # fmt: skip
    if "machine" in kind_on(row.wheels).stages["measure"].model_fields:
        _into_the_machine(session, job_id, {key: offered[key][1] for key in keys})
    event = shortened("took over from the vehicle: " + "; ".join(offered[k][0] for k in keys), LONGEST_LINE)
    session.add(Event(job_id=job_id, by=by, what=event))
    return len(keys)


def put_right(session: Session, job_id: str, vehicle: AnyVehicle, by: str) -> int:
    """Put figures that the job needed and nobody had given into its vehicle, and onto the shop's; how many.

    The shop's vehicle gets each one that stood there as the job knew it: what somebody else put right meanwhile stays.

    Raises:
        Missing: no such job, or none on such a machine.
        Refused: it is signed off, or something else than figures differs.
    """
    vehicle_id = session.scalar(select(JobRow.vehicle_id).where(JobRow.id == job_id))
    if vehicle_id is None:
        raise Missing(f"There is no job “{job_id}”.")
    stored = load_locked(session, vehicle_id)
    session.execute(select(JobRow.id).where(JobRow.id == job_id).with_for_update(key_share=True))
    row = _row(session, job_id)
    if row.signed_off is not None:
        raise Refused("This job is signed off: what was built and proved stays as it is.")
    kind = kind_on(row.wheels)
    if not isinstance(vehicle, kind.machine):
        raise Missing("That is another kind of machine than the job's.")
    mine = kind.machine.model_validate(row.mine).model_dump(mode="json")
    new, theirs = vehicle.model_dump(mode="json"), stored.vehicle.model_dump(mode="json")
    changed = [path for path in FIGURES[row.wheels] if _at(mine, path) != _at(new, path)]
    put, shop, told = dict(mine), dict(theirs), []
    for path in changed:
        value = _at(new, path)
        told.append(_plain(differences(_at(mine, path), value, path.replace(".", " "))))
        if _at(theirs, path) == _at(mine, path):
            _set(shop, path, value)
        _set(put, path, value)
    if put != new:
        raise Refused(
            "Only figures are put right here: points, springs and readings are changed where they are measured."
        )
    if not changed:
        return 0
    whole = kind.machine.model_validate(put).model_dump(mode="json")
    session.execute(
        update(JobRow).where(JobRow.id == job_id)
        .values(vehicle_document=whole, outcome=None, outcome_by=None, saved_at=func.now())
    )  # fmt: skip
    if "machine" in kind.stages["measure"].model_fields:
        _into_the_machine(session, job_id, {path: _at(new, path) for path in changed})
    if shop != theirs:
        save_figures(session, vehicle_id, kind.machine.model_validate(shop), stored.version, by)
    session.add(
        Event(job_id=job_id, by=by, what=shortened("put right on the vehicle: " + "; ".join(told), LONGEST_LINE))
    )
    return len(changed)


def keep_note(session: Session, job_id: str, note: KeptNote, axle: AxleName | None, by: str) -> int:
    """Keep with the job's vehicle what is to be minded at a joint, for this job and the next; 0 if it is there.

    Raises:
        Missing: no such job.
        Refused: it is signed off, or so much is kept there that no more goes in.
    """
    row = _row(session, job_id)
    put = dict(row.mine)
    if kind_on(row.wheels).wheels == 2 or axle is None:
        put["notes"] = there = [*put.get("notes", ())]
    else:
        there = [*put[axle].get("notes", ())]
        put[axle] = put[axle] | {"notes": there}
    new = note.model_dump(mode="json")
    if new in there:
        return 0
    there.append(new)
    try:
        vehicle = kind_on(row.wheels).machine.model_validate(put)
    except ValidationError as error:
        said = str(error.errors()[0]["msg"]).removeprefix("Value error, ")
        raise Refused(f"The job's vehicle cannot have that: {said}.") from None
    return put_right(session, job_id, cast(AnyVehicle, vehicle), by)


def _into_the_machine(session: Session, job_id: str, values: dict[str, Any]) -> None:
    """A machine that was found otherwise has its own document in the readings."""
    stage = session.scalars(
        select(StageRow).where(StageRow.job_id == job_id, StageRow.name == "measure").with_for_update()
    ).one()
    if not stage.document.get("machine"):
        return
    machine = dict(stage.document["machine"])
    for key, value in values.items():
        _set(machine, key, value)
    stage.document = stage.document | {"machine": machine}
    stage.version += 1


def _row(session: Session, job_id: str) -> Any:
    row = session.execute(
        select(
            JobRow.wheels, JobRow.signed_off, JobRow.vehicle_document.cast(JSONB).label("mine"),
            VehicleRow.document.cast(JSONB).label("theirs"),
        )
        .join(VehicleRow, VehicleRow.id == JobRow.vehicle_id)
        .where(JobRow.id == job_id)
    ).one_or_none()  # fmt: skip
    if row is None:
        raise Missing(f"There is no job “{job_id}”.")
    return row


def _found(row: Any) -> Iterator[tuple[str, str, Any]]:
    """Key, words and the vehicle's value of everything that stands otherwise; nothing where one cannot be read."""
    model = kind_on(row.wheels).machine
    try:
        mine, theirs = (model.model_validate(d).model_dump(mode="json") for d in (row.mine, row.theirs))
    except ValidationError:
        return
    for path in FIGURES[row.wheels]:
        was, now = (_at(d, path) for d in (mine, theirs))
        if path.rpartition(".")[2] in SINGLY and isinstance(was, dict) and isinstance(now, dict):
            for name in dict.fromkeys([*was, *now]):
                if was.get(name) != now.get(name):
                    words = differences(was.get(name), now.get(name), f"{path.replace('.', ' ')} {name}")
                    yield f"{path}.{name}", _plain(words), now.get(name)
        elif was != now:
            yield path, _plain(differences(was, now, path.replace(".", " "))), now


def _plain(words: str) -> str:
    """Paths as a person reads them, with their units."""
    for ending, unit in UNITS.items():
        words = words.replace(f"_{ending}:", f", {unit}:")
    return words.replace("_", " ")


def _at(document: dict[str, Any], path: str) -> Any:
    for name in path.split("."):
        document = document[name]
    return document


def _set(document: dict[str, Any], key: str, value: Any) -> None:
    """Put a value where a key points, in copies of what lies on the way; an entry that is no more is taken out."""
    # Names of entries may hold dots themselves: a mapping ends the path.
    head, _, rest = key.partition(".")
    if not rest:
        document[head] = value
        return
    inner = dict(document[head])
    document[head] = inner
    if head in SINGLY:
        if value is None:
            inner.pop(rest, None)
        else:
            inner[rest] = value
        return
    _set(inner, rest, value)
