"""Jobs as a whole: the list, one of them, new, copied out, brought in, removed."""

import json
from datetime import UTC, datetime
from typing import Annotated, Any, Literal

from fastapi import APIRouter, Query, Request, Response
from pydantic import AfterValidator, BaseModel, Field
from sqlalchemy.orm import Session

from inclinum.api.answers import answered
from inclinum.api.computing import computer_of
from inclinum.api.database import Acting, By, Database, Store
from inclinum.api.saving import LARGEST_ID, JobId, RowId
from inclinum.core.document.names import StageName, one_line
from inclinum.core.machines import AnyJob, kind_of
from inclinum.core.machines.seal import seal_of
from inclinum.jobfile import AnyJobFile, HistoryEntry, file_of, read_job, write
from inclinum.store import bin, jobs
from inclinum.store.bin import BinnedSummary
from inclinum.store.errors import Taken
from inclinum.store.jobs import HistoryLine, JobSummary, Order, State
from inclinum.store.listing import Page

router = APIRouter(tags=["jobs"])
MOST_LISTED = 200
Limit = Annotated[int, Query(ge=1, le=MOST_LISTED)]
Offset = Annotated[int, Query(ge=0, le=10_000_000)]
Words = Annotated[str, Query(max_length=100, description="words that all stand in title, vehicle, plate or owner")]
VehicleId = Annotated[int, Field(ge=1, le=LARGEST_ID)]


class JobView(BaseModel):
    """A job with the version of each stage and the newest lines of its history."""

    kind: str
    job: AnyJob
    versions: dict[StageName, int]
    history: list[HistoryEntry]
    lines: int
    """Of the whole history."""
    as_signed: bool | None = None
    """Whether the job still stands as its signature covers it; None where there is none, or where nobody can tell."""


@router.get("/jobs", operation_id="list_jobs", response_model=Page[JobSummary])
async def list_jobs(
    store: Database,
    limit: Limit = 50,
    offset: Offset = 0,
    words: Words = "",
    state: State = "all",
    kind: Annotated[str, Query(max_length=40)] = "",
    order: Order = "due",
) -> Response:
    """A page of jobs, open ones first unless another order is asked for."""
    return answered(await store(jobs.summaries, limit, offset, words, state, kind, order))


@router.get("/jobs/{job_id}", operation_id="get_job", response_model=JobView)
async def get_job(job_id: JobId, store: Database) -> Response:
    """One job."""
    stored = await store(jobs.load, job_id)
    return answered(
        JobView.model_construct(
            kind=kind_of(stored.job).name, job=stored.job, versions=stored.versions, history=stored.history,
            lines=stored.lines, as_signed=_as_signed(stored.job),
        )
    )  # fmt: skip


def _as_signed(job: Any) -> bool | None:
    signed = job.prove.sign_off
    version = file_of(job).version
    return signed.covers == seal_of(job) if signed and signed.covers and signed.sealed_as == version else None


@router.get("/jobs/{job_id}/history", operation_id="job_history")
async def job_history(
    job_id: JobId,
    store: Database,
    before: Annotated[int | None, Query(ge=1, le=LARGEST_ID, description="id of the line to go on from")] = None,
    limit: Limit = 50,
) -> list[HistoryLine]:
    """Lines of a job's history with everything that changed in full, newest first; of either kind of job."""
    return await store(jobs.history, job_id, before, limit)


@router.get("/jobs/{job_id}/raw", operation_id="raw_job", response_class=Response)
async def raw_job(job_id: JobId, store: Database) -> Response:
    """What is stored of a job of either kind, also when this program cannot read it."""
    found = await store(jobs.raw, job_id)
    return download(json.dumps(found, ensure_ascii=False, indent=1), f"{job_id}.raw.json")


class NewJob(BaseModel):
    """A new job on a vehicle the shop has set up."""

    title: Annotated[str, Field(min_length=1, max_length=120, pattern=r"\S"), AfterValidator(one_line)]
    vehicle_id: VehicleId


class Created(BaseModel):
    """Where it is."""

    id: str


@router.post("/jobs", operation_id="new_job")
async def new_job(body: NewJob, store: Database, by: By) -> Created:
    """Open a job: the vehicle comes along, and what the shop's last brief holds of the shop; nothing is to change."""
    return Created(id=await _with_free_id(store, by, body))


async def _with_free_id(store: Store, by: Acting, body: BaseModel) -> str:
    """Open a job; of two with one title at the same moment, one tries again and gets the next id."""
    for _ in range(20):
        try:
            return await store(_open, body, by=by)
        except Taken:
            continue
    return await store(_open, body, by=by)


def _open(session: Session, body: NewJob, by: str) -> str:
    return jobs.open_on(session, body.title, body.vehicle_id, by, f"opened the job “{body.title}”").id


@router.delete("/jobs/{job_id}", operation_id="delete_job", status_code=204)
async def delete_job(job_id: JobId, store: Database, by: By) -> None:
    """Put a job into the bin, from which it can be put back for thirty days."""
    await store(bin.delete_job, job_id, by=by)


@router.get("/jobs/{job_id}/file", operation_id="export_job", response_class=Response)
async def export_job(job_id: JobId, store: Database) -> Response:
    """The job as a file."""
    return download(await store(_export, job_id), f"{job_id}.inclinum.json")


def _export(session: Session, job_id: str) -> str:
    return write(jobs.export(session, job_id))


def download(text: str, name: str) -> Response:
    return Response(
        text, media_type="application/json", headers={"Content-Disposition": f'attachment; filename="{name}"'}
    )


@router.post(
    "/jobs/import",
    operation_id="import_job",
    openapi_extra={"requestBody": {"content": {"application/json": {"schema": {"type": "object"}}}, "required": True}},
)
async def import_job(request: Request, store: Database, by: By) -> Created:
    """Bring a job file in, as it was written; a signature in it says by whom it was brought. Nothing of a bad one."""
    file: AnyJobFile = await computer_of(request).run(request, read_job, await request.body())
    signed = file.job.prove.sign_off
    if signed is not None:
        # Whoever signed it did not sign it here: it says who brought it.
        told = signed.model_copy(update={"brought_in_by": by.name, "brought_in_at": datetime.now(UTC)})
        prove = file.job.prove.model_copy(update={"sign_off": told})
        file = file.model_copy(update={"job": file.job.model_copy(update={"prove": prove})})
    await store(jobs.create, file, by=by)
    return Created(id=file.job.id)


class PutBack(BaseModel):
    """What was put back, and where it is."""

    what: Literal["job", "vehicle"]
    id: str


@router.get("/bin", operation_id="list_bin")
async def list_bin(store: Database, limit: Limit = 50, offset: Offset = 0) -> Page[BinnedSummary]:
    """What was deleted and can be put back, last deleted first."""
    return await store(bin.summaries, limit, offset)


@router.post("/bin/{binned_id}/put-back", operation_id="put_back")
async def put_back(binned_id: RowId, store: Database, by: By) -> PutBack:
    """Put a deleted job or vehicle back as it was."""
    what, key = await store(bin.put_back, binned_id, by=by)
    return PutBack(what="vehicle" if what == "vehicle" else "job", id=key)
