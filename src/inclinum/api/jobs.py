"""Jobs as a whole: the list, one of them, new, copied out, brought in, removed."""

import re

from fastapi import APIRouter, HTTPException, Request, Response
from pydantic import BaseModel, Field

from inclinum.api.acting import Acting
from inclinum.api.database import Database
from inclinum.api.errors import Refusal
from inclinum.core.job import AxleAim, Brief, Job, StageName
from inclinum.core.quantity import Length
from inclinum.jobfile import BikeFile, HistoryEntry, JobFile, read_job, write
from inclinum.store import jobs, vehicles
from inclinum.store.jobs import JobSummary

router = APIRouter(tags=["jobs"])


class JobView(BaseModel):
    """A job with the version of each stage and its history."""

    job: Job
    versions: dict[StageName, int]
    history: list[HistoryEntry]


@router.get("/jobs", operation_id="list_jobs")
def list_jobs(session: Database) -> list[JobSummary]:
    """All jobs, open ones first."""
    return jobs.summaries(session)


@router.get("/jobs/{job_id}", operation_id="get_job", responses={404: {"model": Refusal}})
def get_job(job_id: str, session: Database) -> JobView:
    """One job."""
    stored, job = jobs.load(session, job_id), jobs.four_wheels(session, job_id)
    return JobView(job=job, versions=stored.versions, history=stored.history)


class NewJob(BaseModel):
    """A new job on a vehicle the shop has set up."""

    title: str = Field(min_length=1, max_length=120)
    vehicle_id: int


class Created(BaseModel):
    """Where it is."""

    id: str
    wheels: int = 4


@router.post("/jobs", operation_id="new_job", responses={404: {"model": Refusal}})
def new_job(body: NewJob, session: Database, by: Acting) -> Created:
    """Open a job: the vehicle and the shop's limits come along, the brief starts at no change."""
    known = vehicles.load(session, body.vehicle_id)
    stem = re.sub(r"[^a-z0-9]+", "-", body.title.lower()).strip("-")[:40] or "job"
    taken = {s.id for s in jobs.summaries(session)}
    job_id = next(i for n in range(1, 10_000) if (i := stem if n == 1 else f"{stem}-{n}") not in taken)
    level = AxleAim(rise=Length.model_validate("0"))
    brief = Brief(owner=known.owner, front=level, rear=level, local_limits=vehicles.last_limits(session))
    job = Job(id=job_id, title=body.title, vehicle=known.vehicle, brief=brief)
    jobs.create(session, JobFile(job=job), by, note=f"opened the job “{body.title}”")
    return Created(id=job_id)


@router.delete("/jobs/{job_id}", operation_id="delete_job", status_code=204, responses={404: {"model": Refusal}})
def delete_job(job_id: str, session: Database, by: Acting) -> None:
    """Remove a job. The shop's history keeps that it was there."""
    jobs.delete(session, job_id, by)


@router.get("/jobs/{job_id}/file", operation_id="export_job", response_class=Response)
def export_job(job_id: str, session: Database) -> Response:
    """The job as a file."""
    text = write(jobs.export(session, job_id))
    name = f'attachment; filename="{job_id}.inclinum.json"'
    return Response(text, media_type="application/json", headers={"Content-Disposition": name})


LARGEST_UPLOAD = 8_000_000


@router.post(
    "/jobs/import",
    operation_id="import_job",
    responses={409: {"model": Refusal}, 413: {"model": Refusal}, 422: {"model": Refusal}},
    openapi_extra={"requestBody": {"content": {"application/json": {"schema": {"type": "string"}}}, "required": True}},
)
async def import_job(request: Request, session: Database, by: Acting) -> Created:
    """Bring a job file in, exactly as it was written. Nothing is kept of a bad one."""
    data = b""
    async for chunk in request.stream():
        data += chunk
        if len(data) > LARGEST_UPLOAD:
            raise HTTPException(413, "The file is larger than any job file; nothing of it was kept.")
    file = read_job(data)
    jobs.create(session, file, by)
    return Created(id=file.job.id, wheels=2 if isinstance(file, BikeFile) else 4)
