"""Stages of a job saved: each save is one transaction, one version; two hands on one stage are merged entry by entry.

Locks are taken in one order, owner, vehicle, job, and everything a save compares or answers is read under them.
"""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any
from uuid import UUID

from pydantic import ValidationError
from sqlalchemy import bindparam, insert, select, text, update
from sqlalchemy import delete as sql_delete
from sqlalchemy.dialects.postgresql import JSONB
from sqlalchemy.orm import Session

from inclinum.core.bike.job import BikeBrief, BikeMeasurements, BikeProve
from inclinum.core.car.job import Brief, Prove
from inclinum.core.card.acts import Act
from inclinum.core.card.record import Build
from inclinum.core.document import Document
from inclinum.core.document.errors import DomainError
from inclinum.core.document.merge import Whose
from inclinum.core.document.names import StageName
from inclinum.core.machines import kind_on
from inclinum.jobfile import LARGEST_SECTION, LONGEST_LINE, VERSION
from inclinum.store import documents, vehicles
from inclinum.store.errors import Conflict, Missing, Moved, Refused
from inclinum.store.hands import both
from inclinum.store.jobs import insert_rows, line_of, load, missing, open_on, unreadable
from inclinum.store.models import BuildAct, Event, JobRow, Measurement, StageRow, TorqueRow, VehicleRow
from inclinum.store.owners import owner_named
from inclinum.store.wording import describe, shortened


@dataclass(frozen=True)
class Written:
    """A stage as it now is.

    Args:
        version: it now has.
        section: what it holds, where that is not what was sent: somebody else's entries came in.
    """

    version: int
    section: Document | None = None


def save_stage(
    session: Session,
    job_id: str,
    stage: StageName,
    section: Document,
    version: int,
    by: str,
    *,
    base: Document | None = None,
    chosen: Mapping[str, Whose] | None = None,
    worked_out_from: Mapping[StageName, int] | None = None,
    signing: str | None = None,
) -> Written:
    """Save one stage on top of what the writer saw.

    Args:
        session: where.
        job_id: which job.
        stage: which stage.
        section: what it is to hold.
        version: of the stage, as the writer saw it.
        by: who saves.
        base: the stage as the writer saw it. With it, what somebody else changed since at other entries is kept;
            without it any save since is a conflict.
        chosen: of entries that both changed, whose holds, by the paths a conflict named.
        worked_out_from: versions of the stages the section was worked out from.
        signing: what the history says of a signature set or withdrawn; without it a signed job stays as it is.

    Raises:
        Missing: no such job, or none of that kind.
        Conflict: somebody else changed the same entries since; nothing is written.
        Moved: the job is no longer as ``worked_out_from`` has it.
        Refused: it would set, take or change what was signed for; or the stage is too large to be kept.
        Unreadable: what is stored cannot be compared.
    """
    _small_enough(section)
    machine = section.machine if isinstance(section, BikeMeasurements) else None
    owner = owner_named(session, section.owner) if isinstance(section, Brief | BikeBrief) else None
    if owner is not None or machine is not None:
        session.execute(_LOCK_VEHICLE, {"job_id": job_id})
    held = session.execute(_HELD, {"job_id": job_id, "stage": stage}).one_or_none()
    if held is None:
        raise missing(job_id)
    if not isinstance(section, kind_on(held.wheels).stages[stage]):
        raise _other_kind(session, job_id, held.wheels)
    theirs = _stored_stage(session, job_id, held.wheels, stage, held.document)
    if theirs == section and worked_out_from is None:
        # Also a save whose answer was lost on the way: the writer tries again and finds it done.
        return Written(held.version)
    if signing is None:
        _signature_stays(session, job_id, held.signed_off, section)
    sent = section
    if worked_out_from is not None and held.version != version:
        raise Conflict(theirs, held.version, held.saved_by, held.saved_at)
    if theirs != base if base is not None else held.version != version:
        section = both(base, section, theirs, chosen or {}, (held.version, held.saved_by, held.saved_at))
        _small_enough(section)
        machine = section.machine if isinstance(section, BikeMeasurements) else None
    if worked_out_from is not None and _versions(session, job_id) != dict(worked_out_from):
        raise Moved
    if theirs == section:
        return Written(held.version, section)
    what, detail = describe(stage, theirs, section)
    if owner is not None and isinstance(section, Brief | BikeBrief):
        owner = owner_named(session, section.owner)
        session.execute(update(VehicleRow).where(VehicleRow.id == held.vehicle_id).values(owner_id=owner))
    if machine is not None:
        as_known = theirs.machine or _as_it_came(session, job_id)  # type: ignore[attr-defined]
        if not vehicles.found_otherwise(session, held.vehicle_id, as_known, machine, by):
            what = shortened(what, LONGEST_LINE - 80) + "; on its bench it was changed since and stays as it is there"
    written = _write(session, job_id, stage, section, held, by, [(signing or what, detail)])
    return Written(written, None if section == sent else section)


def _small_enough(section: Document) -> None:
    if len(section.model_dump_json()) > LARGEST_SECTION:
        raise Refused("That is more than a stage can hold; shorten its notes or take entries out.")


def _write(
    session: Session, job_id: str, stage: StageName, section: Document, held: Any, by: str,
    lines: Sequence[tuple[str, Any]],
) -> int:  # fmt: skip
    """A stage's rows anew with its lines of history; the version it now has. The caller holds job and stage."""
    document, readings, torques = documents.put(held.wheels, stage, section)
    if stage in ("measure", "prove") and held.wheels == 4:
        session.execute(sql_delete(Measurement).where(Measurement.job_id == job_id, Measurement.stage == stage))
        insert_rows(session, Measurement, job_id, readings)
    if stage == "build":
        session.execute(sql_delete(TorqueRow).where(TorqueRow.job_id == job_id))
        insert_rows(session, TorqueRow, job_id, torques)
    if listed := documents.listed(section):
        session.execute(
            update(JobRow).where(JobRow.id == job_id).values(**listed).execution_options(synchronize_session=False)
        )
    told = [(line_of(by, what), detail) for what, detail in lines]
    if told[:-1]:
        session.execute(
            insert(Event),
            [{"job_id": job_id, "at": t.at, "by": t.by, "what": t.what, "detail": detail} for t, detail in told[:-1]],
        )
    line, detail = told[-1]
    written = session.scalar(
        _WRITE,
        {
            "job_id": job_id, "stage": stage, "version": held.version, "document": document, "schema": VERSION,
            "by": line.by, "at": line.at, "what": line.what, "detail": detail, "mark": documents.models_mark(),
            "others": ~documents.bit(stage), "bit": documents.bit(stage) if documents.begun(section) else 0,
        },
    )  # fmt: skip
    assert written is not None, "the version was compared under the lock"
    return written


@dataclass(frozen=True)
class NotActed:
    """An act that was refused, and why."""

    id: UUID
    sentence: str


@dataclass(frozen=True)
class Acted:
    """What came of acts.

    Args:
        version: of the stage.
        build: what was done by now.
        refused: acts that were not done.
    """

    version: int
    build: Build
    refused: list[NotActed]


def save_acts(
    session: Session,
    job_id: str,
    acts: Sequence[Act],
    one: Callable[[Build, Act], Build],
    worked_out_from: Mapping[StageName, int],
    by: str,
    *,
    version: int | None = None,
) -> Acted:
    """Do acts at the machine, each once: one that was done before, by its id, is only told as done.

    Args:
        session: where.
        job_id: which job.
        acts: in the order they were done.
        one: does one of them; raises DomainError where it cannot be done.
        worked_out_from: versions of the stages but this one, as ``one`` knows the card.
        by: who did them.
        version: of the stage, where it must be as the asker saw it.

    Raises:
        Missing: no such job.
        Moved: the plan is no longer as ``worked_out_from`` has it.
        Conflict: the stage was saved since ``version``.
        Refused: the job is signed off, or more was done than can be kept.
    """
    held = session.execute(_HELD, {"job_id": job_id, "stage": "build"}).one_or_none()
    if held is None:
        raise missing(job_id)
    build = _stored_stage(session, job_id, held.wheels, "build", held.document)
    assert isinstance(build, Build)
    ids = [act.id for act in acts]
    known = set(session.scalars(select(BuildAct.id).where(BuildAct.id.in_(ids))))
    todo = [act for act in acts if act.id not in known]
    if not todo:
        return Acted(held.version, build, [])
    _signature_stays(session, job_id, held.signed_off, build)
    if version is not None and held.version != version:
        raise Conflict(build, held.version, held.saved_by, held.saved_at, [])
    now_at = {stage: at for stage, at in _versions(session, job_id).items() if stage in worked_out_from}
    if now_at != dict(worked_out_from):
        raise Moved
    done: list[UUID] = []
    refused: list[NotActed] = []
    lines: list[tuple[str, Any]] = []
    for act in todo:
        try:
            after = one(build, act)
        except DomainError as error:
            refused.append(NotActed(act.id, str(error)))
            continue
        if after != build:
            lines.append(describe("build", build, after))
        build = after
        done.append(act.id)
    if done:
        session.execute(insert(BuildAct), [{"id": id, "job_id": job_id} for id in dict.fromkeys(done)])
    if not lines:
        return Acted(held.version, build, refused)
    _small_enough(build)
    return Acted(_write(session, job_id, "build", build, held, by, lines), build, refused)


_LOCK_VEHICLE = (
    select(VehicleRow.id)
    .where(VehicleRow.id == select(JobRow.vehicle_id).where(JobRow.id == bindparam("job_id")).scalar_subquery())
    .with_for_update(key_share=True)
)
# Job and stage are locked together: what is read of a row that had to be waited for is what the other one left.
_HELD = (
    select(
        JobRow.wheels, JobRow.vehicle_id, JobRow.signed_off,
        StageRow.version, StageRow.document, StageRow.saved_by, StageRow.saved_at
    )
    .join(StageRow, StageRow.job_id == JobRow.id)
    .where(JobRow.id == bindparam("job_id"), StageRow.name == bindparam("stage"))
    .with_for_update(key_share=True, of=(JobRow, StageRow))
)  # fmt: skip
# One statement for all that every save writes: the version by compare-and-set, its line of history, the job's row.
_WRITE = text(
    """
    WITH written AS (
        UPDATE stage SET document = :document, version = version + 1, schema_version = :schema, saved_by = :by,
            saved_at = now()
        WHERE job_id = :job_id AND name = :stage AND version = :version RETURNING version
    ), line AS (
        INSERT INTO event (job_id, at, by, what, detail) SELECT :job_id, :at, :by, :what, :detail FROM written
    )
    UPDATE job SET begun = (begun & :others) | :bit, saved_at = now(), outcome = NULL, outcome_by = NULL,
        checked = :mark, trouble = NULL
    FROM written WHERE job.id = :job_id RETURNING written.version
    """
).bindparams(bindparam("document", type_=JSONB), bindparam("detail", type_=JSONB))


def _signature_stays(session: Session, job_id: str, signed: datetime | None, section: Document) -> None:
    """Refuse what would change a signed job, or sign it in passing."""
    if signed is not None:
        who = session.scalar(_SIGNED_BY, {"job_id": job_id}) or "somebody"
        raise Refused(
            f"The job was signed off by {who} for what stood in it then; withdraw the signature first, with a reason."
        )
    if isinstance(section, Prove | BikeProve) and section.sign_off is not None:
        raise Refused("A signature is set by signing off, by the person who works here, and by nothing else.")


_SIGNED_BY = text("SELECT document -> 'sign_off' ->> 'by' FROM stage WHERE job_id = :job_id AND name = 'prove'")


def _stored_stage(session: Session, job_id: str, wheels: int, stage: StageName, document: Any) -> Document:
    """A stage as it stands under the lock."""
    readings = torques = ()
    if wheels == 4 and stage in ("measure", "prove"):
        where = (Measurement.job_id == job_id, Measurement.stage == stage)
        readings = session.execute(select(*Measurement.__table__.c).where(*where)).mappings().all()
    if stage == "build":
        torques = session.execute(select(*TorqueRow.__table__.c).where(TorqueRow.job_id == job_id)).mappings().all()
    try:
        return kind_on(wheels).stages[stage].model_validate(documents.raw(wheels, stage, document, readings, torques))
    except (ValidationError, KeyError, TypeError, AttributeError) as error:
        title = session.scalar(select(JobRow.title).where(JobRow.id == job_id)) or job_id
        raise unreadable(title, job_id, error) from None


def _versions(session: Session, job_id: str) -> dict[StageName, int]:
    rows = session.execute(select(StageRow.name, StageRow.version).where(StageRow.job_id == job_id))
    return {row.name: row.version for row in rows}


def _as_it_came(session: Session, job_id: str) -> dict[str, Any]:
    return session.scalars(select(JobRow.vehicle_document).where(JobRow.id == job_id)).one()


def follow_up(session: Session, job_id: str, finding_id: str, by: str) -> tuple[str, int]:
    """Open a job for something found on the way, and write into the finding which one; its id and the stage's version.

    A finding that has its job already keeps it. It is no change of what was signed.

    Raises:
        Missing: there is no such job or finding.
        Moved: somebody else saved the stage just now; no job is opened.
        Taken: its id was taken at the same moment.
    """
    stored = load(session, job_id, 0)
    found = next((f for f in stored.job.build.found if f.id == finding_id), None)
    if found is None:
        raise Missing("What was found there is not told any more; load the card again.")
    if found.follow_up and session.get(JobRow, found.follow_up):
        return found.follow_up, stored.versions["build"]
    vehicle_id = session.scalars(select(JobRow.vehicle_id).where(JobRow.id == job_id)).one()
    title, here = shortened(" ".join(found.what.split()), 120), f"the job “{stored.job.title}”"
    note, purpose = f"opened for what was found on {here}", f"Found on {here}: {found.what}"
    job = open_on(session, title, vehicle_id, by, note, purpose)
    held = session.execute(_HELD, {"job_id": job_id, "stage": "build"}).one()
    if held.version != stored.versions["build"]:
        raise Moved
    build = stored.job.build
    told = tuple(f.model_copy(update={"follow_up": job.id}) if f is found else f for f in build.found)
    after = build.model_copy(update={"found": told})
    return job.id, _write(session, job_id, "build", after, held, by, [describe("build", build, after)])


def _other_kind(session: Session, job_id: str, wheels: int) -> Missing:
    title = session.scalar(select(JobRow.title).where(JobRow.id == job_id))
    return Missing(f"The job “{title}” is on {kind_on(wheels).title.lower()}; it is saved as such.")
