"""Stage 5: the job card, its ticks and torques."""

from collections.abc import Mapping, Sequence
from datetime import UTC, datetime
from typing import Any

from fastapi import APIRouter, Request, Response
from pydantic import BaseModel, Field
from starlette.exceptions import HTTPException

from inclinum import report
from inclinum.api.answers import PDF, answered, pdf
from inclinum.api.computing import PAPER_S, computer_of
from inclinum.api.database import By, Database
from inclinum.api.saving import JobId, Saved, Version, act, conflicts
from inclinum.core.card.record import Build, StepTick, TorqueRecord
from inclinum.core.card.steps import Card
from inclinum.core.document import Document
from inclinum.core.document.names import AxleName, Side
from inclinum.core.machines import card_of
from inclinum.core.quantity import Torque
from inclinum.store import jobs

router = APIRouter(tags=["build"])


@router.get("/jobs/{job_id}/card", operation_id="card", response_model=Card)
async def job_card(request: Request, job_id: JobId, store: Database) -> Response:
    """The card of the saved plan."""
    stored = await store(jobs.load, job_id)
    return answered(await computer_of(request).run(request, card_of, stored.job))


@router.get("/jobs/{job_id}/card.pdf", operation_id="card_pdf", response_model=None, responses=PDF)
async def card_pdf(request: Request, job_id: JobId, store: Database) -> Response:
    """The card as pages."""
    stored = await store(jobs.load, job_id)
    return pdf(await computer_of(request).run(request, report.card_pdf, stored.job, longest_s=PAPER_S))


class Tick(BaseModel):
    """A step done, or not done after all."""

    version: Version
    step: str = Field(min_length=1, max_length=120)
    done: bool
    held: bool = Field(default=False, description="what the step stops for is so")
    despite: str = Field(default="", max_length=400, description="why it is passed over all the same")


def ticked(
    build: Build, body: Tick, steps: Mapping[str, str | None], stopped_by: Sequence[str], override: str, by: str
) -> Build:
    """What was ticked, with one step done or not done after all.

    Args:
        build: so far.
        body: what is ticked.
        steps: those of the card, each with what it stops for.
        stopped_by, override: of the plan.
        by: who ticks.

    Raises:
        HTTPException: the step is not on the card, stops for something that nobody says is so, or the plan is stopped
            without a written override.
    """
    if body.step not in steps:
        raise HTTPException(422, "That step is no longer on the card: the plan was changed. Load the card again.")
    if body.done and stopped_by and not override.strip():
        raise HTTPException(
            422, f"The plan is stopped: {stopped_by[0]}. Cure it, or write why it is built all the same."
        )
    hold, despite = steps[body.step], body.despite.strip()
    if body.done and hold and not (body.held or despite):
        raise HTTPException(422, f"Work stops at this step: {hold} Say that it is so, or write why it is passed over.")
    ticks = [t for t in build.ticks if t.step != body.step]
    if body.done:
        passed = despite if hold and not body.held else ""
        ticks.append(StepTick(step=body.step, done_at=datetime.now(UTC), by=by, despite=passed))
    return build.model_copy(update={"ticks": tuple(ticks)})


@router.post("/jobs/{job_id}/build/tick", operation_id="tick", responses=conflicts(Build))
async def tick(request: Request, job_id: JobId, body: Tick, store: Database, by: By) -> Saved:
    """Tick a step with the time and the acting person. A stopped plan needs its written override first."""

    async def work(job: Any) -> tuple[Document, None]:
        made = await computer_of(request).run(request, card_of, job)
        return ticked(
            job.build, body, {s.id: s.hold for s in made.steps}, made.stopped_by, made.override, by.name
        ), None

    return await act(store, job_id, "build", body.version, by, work)


class Tightened(BaseModel):
    """A torque as it was read off the wrench."""

    version: Version
    fastener: str = Field(min_length=1, max_length=120)
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


@router.post("/jobs/{job_id}/build/torque", operation_id="record_torque", responses=conflicts(Build))
async def record_torque(job_id: JobId, body: Tightened, store: Database, by: By) -> Saved:
    """Record a torque with the time; a later one at the same place replaces it on the card, the history keeps both."""

    async def work(job: Any) -> tuple[Document, None]:
        return tightened(job.build, body, by.name), None

    return await act(store, job_id, "build", body.version, by, work)
