"""Stage 5: the job card, its ticks and torques."""

from datetime import UTC, datetime
from typing import Annotated, Any

from fastapi import APIRouter, Path, Request, Response
from pydantic import BaseModel, Field
from starlette.exceptions import HTTPException

from inclinum import report
from inclinum.api.answers import PDF, answered, pdf
from inclinum.api.computing import PAPER_S, computer_of
from inclinum.api.database import By, Database
from inclinum.api.saving import JobId, Saved, Version, act, conflicts
from inclinum.core.car.measured import refusal
from inclinum.core.card.found import FoundOnTheWay, NewFinding
from inclinum.core.card.own import KeptNote
from inclinum.core.card.record import Build, StepTick, TorqueRecord
from inclinum.core.card.settings import NewSetting, SettingRecord
from inclinum.core.card.steps import Card
from inclinum.core.document import Document
from inclinum.core.document.names import AxleName, Side
from inclinum.core.machines import card_of
from inclinum.core.quantity import EntryError, Torque
from inclinum.store import corrections, jobs

router = APIRouter(tags=["build"])


@router.get("/jobs/{job_id}/card", operation_id="card", response_model=Card)
async def job_card(request: Request, job_id: JobId, store: Database) -> Response:
    """The card of the saved plan, with what was done so far and the shop's own times."""
    stored = await store(jobs.load, job_id)
    taken = await store(jobs.step_times, job_id)
    return answered(await computer_of(request).run(request, card_of, stored.job, taken))


@router.get("/jobs/{job_id}/card.pdf", operation_id="card_pdf", response_model=None, responses=PDF)
async def card_pdf(request: Request, job_id: JobId, store: Database) -> Response:
    """The card as pages."""
    stored = await store(jobs.load, job_id)
    taken = await store(jobs.step_times, job_id)
    return pdf(await computer_of(request).run(request, report.card_pdf, stored.job, taken, longest_s=PAPER_S))


@router.get("/jobs/{job_id}/quotation.pdf", operation_id="quotation_pdf", response_model=None, responses=PDF)
async def quotation_pdf(request: Request, job_id: JobId, store: Database) -> Response:
    """Parts and hours as ranges, as pages."""
    stored = await store(jobs.load, job_id)
    taken = await store(jobs.step_times, job_id)
    return pdf(await computer_of(request).run(request, report.quotation_pdf, stored.job, taken, longest_s=PAPER_S))


@router.get("/jobs/{job_id}/labels.pdf", operation_id="labels_pdf", response_model=None, responses=PDF)
async def labels_pdf(request: Request, job_id: JobId, store: Database) -> Response:
    """A label for every part that comes off."""
    stored = await store(jobs.load, job_id)
    return pdf(await computer_of(request).run(request, report.labels_pdf, stored.job, longest_s=PAPER_S))


@router.get("/jobs/{job_id}/hand-over.pdf", operation_id="hand_over_pdf", response_model=None, responses=PDF)
async def hand_over_pdf(request: Request, job_id: JobId, store: Database) -> Response:
    """What the owner takes along, as pages."""
    stored = await store(jobs.load, job_id)
    return pdf(await computer_of(request).run(request, report.hand_over_pdf, stored.job, longest_s=PAPER_S))


class Tick(BaseModel):
    """A step done, or not done after all."""

    version: Version
    step: str = Field(min_length=1, max_length=120)
    done: bool
    held: bool = Field(default=False, description="what the step stops for is so")
    despite: str = Field(default="", max_length=400, description="why it is passed over all the same")
    minutes: float | None = Field(default=None, gt=0, le=6000, description="it took, where it was timed")


def ticked(build: Build, body: Tick, made: Card, by: str) -> Build:
    """What was ticked, with one step done or not done after all.

    Args:
        build: so far.
        body: what is ticked.
        made: the card.
        by: who ticks.

    Raises:
        HTTPException: the step is not on the card, stops for something that nobody says is so, or the plan is stopped
            without a written override.
    """
    step = next((s for s in made.steps if s.id == body.step), None)
    if step is None:
        raise HTTPException(422, "That step is no longer on the card: the plan was changed. Load the card again.")
    if body.done and made.stopped_by and not made.override.strip():
        raise HTTPException(
            422, f"The plan is stopped: {made.stopped_by[0]}. Cure it, or write why it is built all the same."
        )
    hold, despite = step.hold, body.despite.strip()
    if body.done and hold and not (body.held or despite):
        raise HTTPException(422, f"Work stops at this step: {hold} Say that it is so, or write why it is passed over.")
    ticks = [t for t in build.ticks if t.step != body.step]
    if body.done:
        passed = despite if hold and not body.held else ""
        ticks.append(
            StepTick(
                step=body.step, done_at=datetime.now(UTC), by=by, despite=passed, minutes=body.minutes, work=step.work
            )
        )
    return build.model_copy(update={"ticks": tuple(ticks)})


@router.post("/jobs/{job_id}/build/tick", operation_id="tick", responses=conflicts(Build))
async def tick(request: Request, job_id: JobId, body: Tick, store: Database, by: By) -> Saved:
    """Tick a step with the time and the acting person. A stopped plan needs its written override first."""

    async def work(job: Any) -> tuple[Document, None]:
        made = await computer_of(request).run(request, card_of, job)
        return ticked(job.build, body, made, by.name), None

    return await act(store, job_id, "build", body.version, by, work)


class Tightened(BaseModel):
    """A torque as it was read off the wrench."""

    version: Version
    fastener: str = Field(min_length=1, max_length=120)
    axle: AxleName
    side: Side | None = None
    torque: Torque | None = None
    angle_deg: float | None = Field(default=None, ge=0, le=3600, description="turned, where a wrench told it")
    by_feel: bool = Field(default=False, description="tightened to no figure")


def tightened(build: Build, body: Tightened, by: str) -> Build:
    """With a torque recorded; a later one at the same place replaces it."""
    if body.torque and (sentence := refusal("torque", body.torque.value, body.torque.tolerance)):
        raise EntryError(sentence)
    place = (body.fastener, body.axle, body.side)
    record = TorqueRecord(
        fastener=body.fastener, axle=body.axle, side=body.side, torque=body.torque, by_feel=body.by_feel,
        angle_deg=body.angle_deg,
        done_at=datetime.now(UTC), by=by,
    )  # fmt: skip
    others = tuple(t for t in build.torques if (t.fastener, t.axle, t.side) != place)
    return build.model_copy(update={"torques": (*others, record)})


@router.post("/jobs/{job_id}/build/torque", operation_id="record_torque", responses=conflicts(Build))
async def record_torque(job_id: JobId, body: Tightened, store: Database, by: By) -> Saved:
    """Record a torque with the time; a later one at the same place replaces it on the card, the history keeps both."""

    async def work(job: Any) -> tuple[Document, None]:
        return tightened(job.build, body, by.name), None

    return await act(store, job_id, "build", body.version, by, work)


class TellFound(BaseModel):
    """Something found on the way, or one that was told before, told anew."""

    version: Version
    id: str = Field(default="", max_length=40, description="of what was told before; empty where it is new")
    found: NewFinding


def found_too(build: Build, body: TellFound, by: str) -> Build:
    """With something found on the way; one that was told before is told anew, where it stood.

    Raises:
        HTTPException: what was told before is gone.
    """
    before = {f.id: f for f in build.found}
    if body.id and body.id not in before:
        raise HTTPException(422, "What was found there was taken back by somebody; tell it as new.")
    key = body.id or next(f"f{n}" for n in range(1, len(before) + 2) if f"f{n}" not in before)
    opened = before[key].follow_up if key in before else ""
    told = FoundOnTheWay(**dict(body.found), id=key, at=datetime.now(UTC), by=by, follow_up=opened)
    return build.model_copy(update={"found": tuple((before | {key: told}).values())})


@router.post("/jobs/{job_id}/build/found", operation_id="tell_found", responses=conflicts(Build))
async def tell_found(job_id: JobId, body: TellFound, store: Database, by: By) -> Saved:
    """Tell what was found on the way; what is done now stands on the card from then on."""

    async def work(job: Any) -> tuple[Document, None]:
        return found_too(job.build, body, by.name), None

    return await act(store, job_id, "build", body.version, by, work)


FindingId = Annotated[str, Path(max_length=40, description="of something found on the way")]


class OnFinding(BaseModel):
    """Something that is done with what was found."""

    version: Version


@router.post(
    "/jobs/{job_id}/build/found/{finding_id}/withdraw", operation_id="withdraw_found", responses=conflicts(Build)
)
async def withdraw_found(job_id: JobId, finding_id: FindingId, body: OnFinding, store: Database, by: By) -> Saved:
    """Take back what was told of something found; the history keeps it."""

    async def work(job: Any) -> tuple[Document, None]:
        left = tuple(f for f in job.build.found if f.id != finding_id)
        return job.build.model_copy(update={"found": left}), None

    return await act(store, job_id, "build", body.version, by, work)


class FollowUp(BaseModel):
    """A job that was opened for what was found."""

    id: str
    version: int


@router.post("/jobs/{job_id}/build/found/{finding_id}/follow-up", operation_id="follow_up", responses=conflicts(Build))
async def follow_up(job_id: JobId, finding_id: FindingId, body: OnFinding, store: Database, by: By) -> FollowUp:
    """Open a job on the same vehicle for what was found; of a finding that has one, that one."""
    opened, version = await store(jobs.follow_up, job_id, finding_id, body.version, by=by)
    return FollowUp(id=opened, version=version)


class KeptWithVehicle(BaseModel):
    """Whether something is kept from now on, and was not before."""

    kept: bool


@router.post("/jobs/{job_id}/build/found/{finding_id}/keep", operation_id="keep_found")
async def keep_found(
    request: Request, job_id: JobId, finding_id: FindingId, store: Database, by: By
) -> KeptWithVehicle:
    """Keep what was found with the vehicle, at the joint it was found at: whoever opens it next is told."""
    job = (await store(jobs.load, job_id)).job
    made = await computer_of(request).run(request, card_of, job)
    found = next((f for f in job.build.found if f.id == finding_id), None)
    step = next((s for s in made.steps if found and s.id == found.step), None)
    if found is None or step is None or not step.joint:
        raise HTTPException(
            422, "What was found there belongs to no joint that is opened: tell it at the step where one is."
        )
    told = f"{found.what.rstrip('.')}. {found.work}".strip() if found.work else found.what
    note = KeptNote(joint=step.joint, side=step.side or "both", text=told, photos=found.photos)
    return KeptWithVehicle(kept=bool(await store(corrections.keep_note, job_id, note, step.axle, by=by)))


class NoteSetting(BaseModel):
    """A setting as it was read, before, after or both."""

    version: Version
    setting: NewSetting


@router.post("/jobs/{job_id}/build/setting", operation_id="note_setting", responses=conflicts(Build))
async def note_setting(request: Request, job_id: JobId, body: NoteSetting, store: Database, by: By) -> Saved:
    """Note a setting, before or after; a later reading takes the place of an earlier one, the history keeps both."""

    async def work(job: Any) -> tuple[Document, None]:
        made = await computer_of(request).run(request, card_of, job)
        if body.setting.place not in {row.place for row in made.settings}:
            raise HTTPException(
                422, "That setting is no longer on the card: the plan was changed. Load the card again."
            )
        known = next((s for s in job.build.settings if s.place == body.setting.place), body.setting)
        read = {when: getattr(body.setting, when) for when in ("before", "after")}
        kept = {when: getattr(known, when) if value is None else value for when, value in read.items()}
        record = SettingRecord(**dict(body.setting) | kept, at=datetime.now(UTC), by=by.name)
        others = tuple(s for s in job.build.settings if s.place != record.place)
        return job.build.model_copy(update={"settings": (*others, record)}), None

    return await act(store, job_id, "build", body.version, by, work)
