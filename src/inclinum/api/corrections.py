"""Figures corrected on a vehicle, offered to its open jobs."""

from typing import Annotated

from fastapi import APIRouter
from pydantic import BaseModel, Field

from inclinum.api.database import By, Database
from inclinum.api.saving import JobId
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
