"""Jobs in the database as a whole: listed, read, put in, copied out. Their stages are saved in :mod:`stages`."""

import json
from dataclasses import dataclass
from datetime import UTC, date, datetime
from typing import Any, Literal

from pydantic import ValidationError
from sqlalchemy import Select, func, insert, or_, select, text, update
from sqlalchemy.dialects.postgresql import insert as upsert
from sqlalchemy.orm import Session

from inclinum.core.bike.job import BikeJob
from inclinum.core.car.job import Job
from inclinum.core.document import Document
from inclinum.core.document.names import STAGES, StageName
from inclinum.core.machines import KINDS, kind_of, kind_on
from inclinum.core.plan import Outcome
from inclinum.jobfile import (
    LARGEST_BYTES,
    LARGEST_SECTION,
    LONGEST_LINE,
    VERSION,
    AnyJobFile,
    HistoryEntry,
    complaints,
    file_of,
    write,
)
from inclinum.store import documents, vehicles
from inclinum.store.errors import Missing, Refused, Taken, Unreadable
from inclinum.store.listing import Page, searched
from inclinum.store.models import Event, JobRow, Measurement, StageRow, TorqueRow, VehicleRow
from inclinum.store.owners import owner_named
from inclinum.store.silhouette import Silhouette, read_silhouette, silhouette_of
from inclinum.store.wording import shortened

LINES_SHOWN = 200
"""Lines of history that come with a job; older ones are asked for."""
OUTCOMES_SHOWN = 40


StoredKind = Job | BikeJob


@dataclass(frozen=True)
class StoredJob:
    """A job with the version of each stage and the newest lines of its history, oldest first."""

    job: StoredKind
    versions: dict[StageName, int]
    history: list[HistoryEntry]
    lines: int
    """Of the whole history."""


class JobSummary(Document):
    """A job on the list."""

    id: str
    title: str
    kind: str
    vehicle: str
    plate: str
    owner: str
    due: date | None
    stage: StageName
    """The stage to go on with."""
    signed_off: datetime | None
    front_rise: float | None
    """Aimed at, mm; of a two-wheeler the front follows the rear."""
    rear_rise: float | None
    saved_at: datetime
    trouble: str | None
    """Why it cannot be opened; what is stored can be downloaded all the same."""
    silhouette: Silhouette | None


State = Literal["all", "open", "overdue", "finished"]
Order = Literal["due", "title", "saved"]


class HistoryLine(Document):
    """One line of a job's history, with everything that changed in full."""

    id: int
    at: datetime
    by: str
    what: str
    detail: list[dict[str, Any]] | None


_LISTED = (
    JobRow.id, JobRow.title, JobRow.wheels, JobRow.vehicle_name, JobRow.plate, JobRow.owner, JobRow.due, JobRow.begun,
    JobRow.signed_off, JobRow.front_rise, JobRow.rear_rise, JobRow.saved_at, JobRow.trouble, JobRow.checked,
    silhouette_of(JobRow.vehicle_document),
)  # fmt: skip


def summaries(
    session: Session,
    limit: int = 50,
    offset: int = 0,
    words: str = "",
    state: State = "all",
    kind: str = "",
    order: Order = "due",
) -> Page[JobSummary]:
    """A page of jobs.

    Args:
        session: where.
        limit, offset: which page.
        words: that all stand in title, vehicle, plate or owner.
        state: finished is signed off; overdue is open with its date gone by.
        kind: of machine; every one where it is empty.
        order: by due date, open ones first, finished ones latest first; by title; or the last saved first.
    """
    wanted = searched(words, JobRow.title, JobRow.vehicle_name, JobRow.plate, JobRow.owner)
    if kind:
        wanted = [*wanted, JobRow.wheels == (KINDS[kind].wheels if kind in KINDS else 0)]
    is_open, finished = JobRow.signed_off.is_(None), JobRow.signed_off.is_not(None)
    if state == "overdue":
        wanted = [*wanted, JobRow.due < func.current_date()]
    open_too, finished_too = state != "finished", state in ("all", "finished")
    if order != "due":
        of_state = [] if state == "all" else [finished if state == "finished" else is_open]
        by = [JobRow.title, JobRow.id] if order == "title" else [JobRow.saved_at.desc(), JobRow.id]
        total = session.scalar(select(func.count()).select_from(JobRow).where(*of_state, *wanted)) or 0
        rows = _listed(session, select(JobRow.id).where(*of_state, *wanted).order_by(*by).limit(limit).offset(offset))
        return Page(items=[_summary(session, row) for row in rows], total=total)
    many = select(func.count().filter(is_open), func.count().filter(finished)).select_from(JobRow).where(*wanted)
    counted = session.execute(many).one()
    counts = (counted[0] if open_too else 0, counted[1] if finished_too else 0)
    rows: list[Any] = []
    if offset < counts[0]:
        rows += _listed(
            session,
            select(JobRow.id).where(is_open, *wanted)
            .order_by(JobRow.due.asc(), JobRow.title, JobRow.id).limit(limit).offset(offset),
        )  # fmt: skip
    if finished_too and len(rows) < limit:
        rows += _listed(
            session,
            select(JobRow.id).where(finished, *wanted)
            .order_by(JobRow.signed_off.desc(), JobRow.id)
            .limit(limit - len(rows)).offset(max(0, offset - counts[0])),
        )  # fmt: skip
    return Page(items=[_summary(session, row) for row in rows], total=sum(counts))


def _listed(session: Session, ids: Select[Any]) -> list[Any]:
    """Rows of a page in its order. Their ids are found first: no document is looked into that is not on the page."""
    order = {id: n for n, id in enumerate(session.scalars(ids))}
    rows = session.execute(select(*_LISTED).where(JobRow.id.in_(order))).all()
    return sorted(rows, key=lambda row: order[row.id])


def _summary(session: Session, row: Any) -> JobSummary:
    trouble = row.trouble if row.checked == documents.models_mark() else _look_through(session, row.id)
    return JobSummary(
        id=row.id,
        title=row.title,
        kind=kind_on(row.wheels).name,
        vehicle=row.vehicle_name,
        plate=row.plate,
        owner=row.owner,
        due=row.due,
        stage=documents.next_stage(row.begun),
        signed_off=row.signed_off,
        front_rise=row.front_rise,
        rear_rise=row.rear_rise,
        saved_at=row.saved_at,
        trouble=trouble,
        silhouette=read_silhouette(row.silhouette),
    )


def _look_through(session: Session, job_id: str) -> str | None:
    """Try to read a job that another program or hand wrote, and keep what came of it; why it cannot be read."""
    try:
        load(session, job_id)
        trouble = None
    except Unreadable as error:
        trouble = error.sentence
    # Whoever saves it just now marks it anyway; two lists must not wait for each other.
    if session.scalar(select(JobRow.id).where(JobRow.id == job_id).with_for_update(skip_locked=True)) is not None:
        mark = {"checked": documents.models_mark(), "trouble": trouble}
        session.execute(update(JobRow).where(JobRow.id == job_id).values(**mark))
    return trouble


def load(session: Session, job_id: str, lines: int | None = LINES_SHOWN) -> StoredJob:
    """One job.

    Args:
        session: where.
        job_id: which.
        lines: how many of its newest lines of history; None for all.

    Raises:
        Missing: there is none.
        Unreadable: what is stored is no job this program knows.
    """
    row = session.execute(_WHOLE, {"job_id": job_id}).one_or_none()
    if row is None:
        raise missing(job_id)
    events = session.execute(_LINES, {"job_id": job_id, "most": lines}).all() if lines != 0 else []
    try:
        job = kind_on(row.wheels).job.model_validate(_assembled(job_id, row))
        history = [HistoryEntry(at=e.at, by=e.by, what=e.what) for e in reversed(events)]
    except (ValidationError, KeyError, TypeError, AttributeError) as error:
        raise unreadable(row.title, job_id, error) from None
    return StoredJob(job, {s["name"]: s["version"] for s in row.stages}, history, row.lines)


# A job whole in one question: what belongs to it comes along as JSON, numbers and times exactly as they are stored.
_WHOLE = text(
    """
    SELECT title, wheels, vehicle_document,
        (SELECT jsonb_agg(jsonb_build_object('name', name, 'version', version, 'document', document))
         FROM stage WHERE job_id = job.id) AS stages,
        (SELECT coalesce(jsonb_agg(to_jsonb(m)), '[]') FROM measurement m WHERE job_id = job.id) AS readings,
        (SELECT coalesce(jsonb_agg(to_jsonb(t)), '[]') FROM torque_record t WHERE job_id = job.id) AS torques,
        (SELECT count(*) FROM event WHERE job_id = job.id) AS lines
    FROM job WHERE id = :job_id
    """
)
_LINES = text('SELECT at, "by", what FROM event WHERE job_id = :job_id ORDER BY id DESC LIMIT :most')


def _assembled(job_id: str, row: Any) -> dict[str, Any]:
    """A job's document from its rows, not looked at."""
    stages = {s["name"]: s["document"] for s in row.stages or ()}
    whole = {n: documents.raw(row.wheels, n, d, row.readings, row.torques) for n, d in stages.items()}
    return {"id": job_id, "title": row.title, "vehicle": row.vehicle_document} | {
        name: whole[name] for name in STAGES if name in whole
    }


def raw(session: Session, job_id: str) -> dict[str, Any]:
    """A job as it is stored, not looked at. Raises Missing."""
    row = session.execute(_WHOLE, {"job_id": job_id}).one_or_none()
    if row is None:
        raise missing(job_id)
    lines = session.execute(_LINES, {"job_id": job_id, "most": None}).all()
    entries = [{"at": e.at.isoformat(), "by": e.by, "what": e.what} for e in reversed(lines)]
    return {"job": _assembled(job_id, row), "history": entries}


def unreadable(title: str, job_id: str, error: Exception) -> Unreadable:
    """What is told of a job that this program cannot read."""
    found = complaints(error.errors()) if isinstance(error, ValidationError) else []
    why = f"{found[0].path}: {found[0].sentence}" if found else "a part of it is not there."
    return Unreadable(
        f"The job “{title}” cannot be read. {why} What is stored can be downloaded.", f"/api/jobs/{job_id}/raw", found
    )


def create(session: Session, file: AnyJobFile, by: str, note: str | None = None, vehicle_id: int | None = None) -> None:
    """Put a job with its history into the database.

    Args:
        session: where.
        file: the job.
        by: who does it.
        note: told in the job's own history; without it only the shop's history tells, so that an exported
            job comes back exactly as it was.
        vehicle_id: the vehicle it is on, where that is known; else it is found by what the file says of it.

    Raises:
        Taken: its id is in use.
        Refused: a stage of it is larger than the application can keep.
    """
    job = file.job
    for name in ("vehicle", *STAGES):
        if len(getattr(job, name).model_dump_json()) > LARGEST_SECTION:
            raise Refused(f"{name}: that is more than can be kept; shorten its notes or take entries out.")
    wheels = kind_of(job.vehicle).wheels
    owner = owner_named(session, job.brief.owner)
    if vehicle_id is None:
        vehicle_id = vehicles.matching(session, job.vehicle, owner, file.vehicle_id, by)
    columns: dict[str, Any] = {}
    for name in STAGES:
        columns |= documents.listed(getattr(job, name))
    # On any unique key: an id in use also clashes as the id of its kind, and which is met first is chance.
    made = session.execute(
        upsert(JobRow)
        .values(
            id=job.id,
            title=job.title,
            wheels=wheels,
            vehicle_id=vehicle_id,
            vehicle_document=job.vehicle.model_dump(mode="json"),
            schema_version=VERSION,
            created_at=file.created_at or func.now(),
            vehicle_name=job.vehicle.name,
            plate=job.vehicle.plate,
            begun=sum(documents.bit(n) for n in STAGES if documents.begun(getattr(job, n))),
            checked=documents.models_mark(),
            **columns,
        )
        .on_conflict_do_nothing()
        .returning(JobRow.id)
    ).scalar_one_or_none()
    if made is None:
        raise Taken(f"There is already a job “{job.id}”; delete it first, or change the id in the file.")
    for name in STAGES:
        document, readings, torques = documents.put(wheels, name, getattr(job, name))
        session.execute(
            insert(StageRow).values(
                job_id=job.id, name=name, wheels=wheels, version=1, document=document, schema_version=VERSION,
                saved_by=by,
            )
        )  # fmt: skip
        insert_rows(session, Measurement, job.id, readings)
        insert_rows(session, TorqueRow, job.id, torques)
    if file.history:
        session.execute(
            insert(Event), [{"job_id": job.id, "at": h.at, "by": h.by, "what": h.what} for h in file.history]
        )
    if note:
        _event(session, job.id, by, note)
    else:
        _event(session, None, by, f"imported job “{job.title}” ({job.id})")


def open_on(session: Session, title: str, vehicle_id: int, by: str, note: str, purpose: str = "") -> StoredKind:
    """Open a job: the vehicle comes along, and what the shop's last brief holds of the shop; nothing is to change.

    Args:
        session: where.
        title: of the job.
        vehicle_id: on which vehicle.
        by: who opens it.
        note: for its history.
        purpose: what it is for.

    Raises:
        Missing: there is no such vehicle.
        Taken: its id was taken at the same moment.
    """
    stored = vehicles.load(session, vehicle_id)
    kind = kind_of(stored.vehicle)
    brief = kind.brief(stored.owner, stored.vehicle, vehicles.newest_brief(session, kind))
    brief = brief.model_copy(update={"purpose": purpose})
    job = kind.job.model_validate(
        {"id": new_id(session, title), "title": title, "vehicle": stored.vehicle, "brief": brief}
    )
    create(session, file_of(job), by, note, vehicle_id)
    return job


def new_id(session: Session, title: str) -> str:
    """An id for a new job of that title which nobody uses yet; two at once may still be given the same one."""
    stem = "-".join("".join(c if c.isascii() and c.isalnum() else " " for c in title.lower()).split())[:40].strip("-")
    stem = stem or "job"
    like = stem.replace("_", r"\_").replace("%", r"\%")
    taken = set(session.scalars(select(JobRow.id).where(or_(JobRow.id == stem, JobRow.id.like(f"{like}-%")))))
    return next(i for n in range(1, len(taken) + 2) if (i := stem if n == 1 else f"{stem}-{n}") not in taken)


def export(session: Session, job_id: str) -> AnyJobFile:
    """The job as a file, never larger than what is taken in again. Raises as :func:`load`."""
    stored = load(session, job_id, None)
    row = session.execute(
        select(JobRow.created_at, VehicleRow.uid).join(VehicleRow, VehicleRow.id == JobRow.vehicle_id)
        .where(JobRow.id == job_id)
    ).one()  # fmt: skip
    history = stored.history
    room = LARGEST_BYTES - len(write(file_of(stored.job)).encode()) - 1000
    sizes = [len(json.dumps(h.model_dump(mode="json"), ensure_ascii=False).encode()) + 20 for h in history]
    while history and sum(sizes) > room:
        # The oldest lines stay in the database and in its backups; the file says that they are not in it.
        drop = max(1, len(history) // 8)
        history, sizes = history[drop:], sizes[drop:]
        left = stored.lines - len(history)
        entries = f"{left} older lines are not in this file: it would be larger than what can be imported"
        history[0] = history[0].model_copy(update={"what": entries})
        sizes[0] = 400
    return file_of(stored.job, tuple(history), row.created_at, row.uid)


TIMED_JOBS = 400
"""Newest jobs of a kind whose times count: what took long years ago says little of today."""


def step_times(session: Session, job_id: str) -> dict[str, list[float]]:
    """Minutes that steps took on other jobs of the same kind of machine, by kind of step, where they were timed."""
    return {row.work: row.minutes for row in session.execute(_TIMES, {"job_id": job_id, "most": TIMED_JOBS})}


_TIMES = text(
    """
    WITH newest AS (
        SELECT other.id FROM job, job other WHERE job.id = :job_id AND other.wheels = job.wheels AND other.id <> job.id
        ORDER BY other.created_at DESC, other.id DESC LIMIT :most
    )
    SELECT tick ->> 'work' AS work, array_agg((tick ->> 'minutes')::float) AS minutes
    FROM newest JOIN stage ON stage.job_id = newest.id AND stage.name = 'build',
        jsonb_array_elements(
            CASE jsonb_typeof(stage.document -> 'ticks') WHEN 'array' THEN stage.document -> 'ticks' ELSE '[]' END
        ) tick
    WHERE jsonb_typeof(tick -> 'minutes') = 'number' AND tick ->> 'work' <> ''
    GROUP BY tick ->> 'work'
    """
)


def history(session: Session, job_id: str, before: int | None, limit: int) -> list[HistoryLine]:
    """Lines of a job's history with what changed in full, newest first. Raises Missing."""
    if session.scalar(select(JobRow.id).where(JobRow.id == job_id)) is None:
        raise missing(job_id)
    older = () if before is None else (Event.id < before,)
    rows = session.scalars(
        select(Event).where(Event.job_id == job_id, *older).order_by(Event.id.desc()).limit(limit)
    )  # fmt: skip
    return [HistoryLine(id=e.id, at=e.at, by=e.by, what=e.what, detail=e.detail) for e in rows]


def outcomes(session: Session, job_id: str) -> tuple[list[Outcome], list[StoredKind]]:
    """The newest jobs of this job's vehicle, itself included: what is known of them, and whose outcome is not.

    Raises Missing.
    """
    vehicle = session.scalar(select(JobRow.vehicle_id).where(JobRow.id == job_id))
    if vehicle is None:
        raise missing(job_id)
    rows = session.execute(
        select(JobRow.id, JobRow.outcome, JobRow.outcome_by)
        .where(JobRow.vehicle_id == vehicle, or_(JobRow.trouble.is_(None), JobRow.id == job_id))
        .order_by((JobRow.id == job_id).desc(), JobRow.created_at.desc(), JobRow.id.desc())
        .limit(OUTCOMES_SHOWN)
    ).all()
    known, wanted = [], []
    for row in rows:
        if row.outcome is not None and row.outcome_by == documents.models_mark():
            known.append(Outcome.model_validate(row.outcome))
            continue
        try:
            job = load(session, row.id, 0).job
        except Unreadable:
            continue
        wanted.append(job)
    return known, wanted


def keep_outcomes(session: Session, found: list[Outcome], seen: list[StoredKind]) -> None:
    """Remember outcomes, of jobs that are still as they were seen."""
    for outcome, job in zip(found, seen, strict=True):
        mine = select(JobRow.id).where(JobRow.id == job.id).with_for_update(skip_locked=True)
        if session.scalar(mine) is None:
            continue
        try:
            unchanged = load(session, job.id, 0).job == job
        except (Missing, Unreadable):
            continue
        if unchanged:
            session.execute(
                update(JobRow).where(JobRow.id == job.id)
                .values(outcome=outcome.model_dump(mode="json"), outcome_by=documents.models_mark())
                .execution_options(synchronize_session=False)
            )  # fmt: skip


def in_order_of_time(session: Session, found: list[Outcome]) -> list[Outcome]:
    """Outcomes, oldest job first."""
    rows = session.execute(select(JobRow.id, JobRow.created_at).where(JobRow.id.in_([o.id for o in found])))
    at = {row.id: row.created_at for row in rows}
    return sorted((o for o in found if o.id in at), key=lambda o: (at[o.id], o.id))


def line_of(by: str, what: str) -> HistoryEntry:
    """A line of history, made by the model it is read with."""
    return HistoryEntry(at=datetime.now(UTC), by=by, what=shortened(what, LONGEST_LINE))


def _event(session: Session, job_id: str | None, by: str, what: str) -> None:
    line = line_of(by, what)
    session.execute(insert(Event).values(job_id=job_id, at=line.at, by=line.by, what=line.what))


def insert_rows(
    session: Session, model: type[Measurement | TorqueRow], job_id: str, rows: list[dict[str, Any]]
) -> None:
    """Readings or torques of a job."""
    if rows:
        session.execute(insert(model), [r | {"job_id": job_id} for r in rows])


def _lock(query: Select[Any]) -> Select[Any]:
    """Hold the rows against other writers; rows that only refer to them need not wait."""
    return query.with_for_update(key_share=True)


def missing(job_id: str) -> Missing:
    """What is told of a job that is not there."""
    return Missing(
        f"There is no job “{shortened(job_id, 80)}”; it may have been deleted. The list shows what is there."
    )
