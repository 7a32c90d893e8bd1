"""Stage 5: the job card, its ticks and torques."""

from collections.abc import Sequence
from datetime import UTC, datetime
from typing import Any

from fastapi import APIRouter, HTTPException, Response
from pydantic import BaseModel, Field

from inclinum import report
from inclinum.api.acting import Acting
from inclinum.api.database import Database
from inclinum.api.errors import ConflictBody, Refusal
from inclinum.api.saving import Saved
from inclinum.core.job import Build, StepTick, TorqueRecord
from inclinum.core.procedure import Card, card
from inclinum.core.quantity import Torque
from inclinum.core.vehicle import AxleName, Side
from inclinum.store import jobs

router = APIRouter(tags=["build"])
CONFLICT: dict[int | str, dict[str, Any]] = {409: {"model": ConflictBody[Build]}, 422: {"model": Refusal}}


@router.get("/jobs/{job_id}/card", operation_id="card", responses={422: {"model": Refusal}})
def job_card(job_id: str, session: Database) -> Card:
    """The card of the saved plan."""
    return card(jobs.four_wheels(session, job_id))


@router.get("/jobs/{job_id}/card.pdf", operation_id="card_pdf", response_class=Response)
def card_pdf(job_id: str, session: Database) -> Response:
    """The card as pages."""
    return Response(report.pdf(report.card_html(jobs.four_wheels(session, job_id))), media_type="application/pdf")


class Tick(BaseModel):
    """A step done, or not done after all."""

    version: int
    step: str = Field(max_length=120)
    done: bool


def ticked(build: Build, body: Tick, steps: set[str], stopped_by: Sequence[str], override: str, by: str) -> Build:
    """What was ticked, with one step done or not done after all.

    Raises:
        HTTPException: the step is not on the card, or the plan is stopped without a written override.
    """
    if body.step not in steps:
        raise HTTPException(422, "That step is no longer on the card: the plan was changed. Load the card again.")
    if body.done and stopped_by and not override.strip():
        raise HTTPException(
            422, f"The plan is stopped: {stopped_by[0]}. Cure it, or write why it is built all the same."
        )
    ticks = [t for t in build.ticks if t.step != body.step]
    if body.done:
        ticks.append(StepTick(step=body.step, done_at=datetime.now(UTC), by=by))
    return build.model_copy(update={"ticks": tuple(ticks)})


@router.post("/jobs/{job_id}/build/tick", operation_id="tick", responses=CONFLICT)
def tick(job_id: str, body: Tick, session: Database, by: Acting) -> Saved:
    """Tick a step with the time and the acting person. A stopped plan needs its written override first."""
    job = jobs.four_wheels(session, job_id)
    made = card(job)
    section = ticked(job.build, body, {s.id for s in made.steps}, made.stopped_by, job.plan.override, by)
    return Saved(version=jobs.save_stage(session, job_id, "build", section, body.version, by))


class Tightened(BaseModel):
    """A torque as it was read off the wrench."""

    version: int
    fastener: str = Field(max_length=120)
    axle: AxleName
    side: Side | None = None
    torque: Torque


def tightened(build: Build, body: Tightened, by: str) -> Build:
    """With a torque recorded; a later one at the same place replaces it."""
    place = (body.fastener, body.axle, body.side)
    record = TorqueRecord(
        fastener=body.fastener, axle=body.axle, side=body.side, torque=body.torque, done_at=datetime.now(UTC), by=by
    )
    others = tuple(t for t in build.torques if (t.fastener, t.axle, t.side) != place)
    return build.model_copy(update={"torques": (*others, record)})


@router.post("/jobs/{job_id}/build/torque", operation_id="record_torque", responses=CONFLICT)
def record_torque(job_id: str, body: Tightened, session: Database, by: Acting) -> Saved:
    """Record a torque with the time; a later one at the same place replaces it on the card, the history keeps both."""
    build = jobs.four_wheels(session, job_id).build
    section = tightened(build, body, by)
    return Saved(version=jobs.save_stage(session, job_id, "build", section, body.version, by))
