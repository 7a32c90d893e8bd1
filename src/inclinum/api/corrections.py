"""Figures corrected on a vehicle, offered to its open jobs."""

from typing import Annotated

from fastapi import APIRouter
from pydantic import BaseModel, Field

from inclinum.api.database import By, Database
from inclinum.api.saving import JobId
from inclinum.core.machines import AnyMachine
from inclinum.store import corrections
from inclinum.store.corrections import Correction

router = APIRouter(tags=["jobs"])


class TakeOver(BaseModel):
    """Which of them."""

    keys: list[Annotated[str, Field(max_length=300)]] = Field(min_length=1, max_length=400)


class TakenOver(BaseModel):
    """How many."""

    taken: int


@router.get("/jobs/{job_id}/corrections", operation_id="corrections")
async def offered(job_id: JobId, store: Database) -> list[Correction]:
    """What stands otherwise on the vehicle of an open job of either kind: torques, targets, adjusters, figures."""
    return await store(corrections.corrections, job_id)


@router.post("/jobs/{job_id}/corrections", operation_id="take_corrections")
async def take_over(job_id: JobId, body: TakeOver, store: Database, by: By) -> TakenOver:
    """Take some of them over into the job."""
    return TakenOver(taken=await store(corrections.take_over, job_id, body.keys, by=by))


class OwnFigures(BaseModel):
    """The job's vehicle with figures that were put right in the job."""

    vehicle: AnyMachine


@router.post("/jobs/{job_id}/figures", operation_id="put_figures_right")
async def put_figures_right(job_id: JobId, body: OwnFigures, store: Database, by: By) -> TakenOver:
    """Put right what the maker or the shop says of the job's vehicle, in the job and on the shop's vehicle."""
    return TakenOver(taken=await store(corrections.put_right, job_id, body.vehicle, by=by))
