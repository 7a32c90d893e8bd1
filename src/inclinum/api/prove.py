"""Stage 6: readings after, against the prediction, and the sign-off."""

from datetime import UTC, datetime

from fastapi import APIRouter, HTTPException, Response
from pydantic import BaseModel, Field

from inclinum.api.acting import Acting
from inclinum.api.answers import answered
from inclinum.api.database import Database
from inclinum.api.errors import ConflictBody, Refusal
from inclinum.api.saving import Saved, add_save_route
from inclinum.core.job import Job, Prove, SignOff
from inclinum.core.proof import Outcome, Proof, outcome, prove
from inclinum.store import jobs

router = APIRouter(tags=["prove"])
add_save_route(router, "prove", Prove)


@router.post("/prove", operation_id="prove", response_model=Proof, responses={422: {"model": Refusal}})
def prove_job(job: Job) -> Response:
    """Readings after against the prediction, and side against side."""
    return answered(prove(job))


@router.get("/jobs/{job_id}/outcomes", operation_id="outcomes", responses={404: {"model": Refusal}})
def outcomes(job_id: str, session: Database) -> list[Outcome]:
    """This job and the others of its vehicle: what was predicted and what came out."""
    return [outcome(job) for job in jobs.of_same_vehicle(session, job_id)]


class Sign(BaseModel):
    """The last word on a job."""

    version: int
    note: str = Field(default="", max_length=4000)


@router.post(
    "/jobs/{job_id}/sign-off",
    operation_id="sign_off",
    responses={409: {"model": ConflictBody[Prove]}, 422: {"model": Refusal}},
)
def sign_off(job_id: str, body: Sign, session: Database, by: Acting) -> Saved:
    """Sign the job off with the time and the acting person. Heights after come first."""
    job = jobs.four_wheels(session, job_id)
    if prove(job).verdict == "nothing measured":
        raise HTTPException(422, "Nothing was measured after the job: enter the heights before signing off.")
    section = job.prove.model_copy(update={"sign_off": SignOff(by=by, at=datetime.now(UTC), note=body.note)})
    return Saved(version=jobs.save_stage(session, job_id, "prove", section, body.version, by))
