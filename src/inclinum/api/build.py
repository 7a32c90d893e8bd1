"""Stage 5: the job card, its ticks and torques."""

from datetime import UTC, datetime
from functools import partial
from typing import Annotated
from uuid import UUID, uuid4

from fastapi import APIRouter, Path, Request, Response
from pydantic import BaseModel, Field, TypeAdapter
from starlette.exceptions import HTTPException

from inclinum import report
from inclinum.api import outlines
from inclinum.api.answers import PDF, answered, pdf
from inclinum.api.computing import PAPER_S, computer_of
from inclinum.api.database import Acting, By, Database, Store
from inclinum.api.saving import TRIES, JobId, Saved, Version, conflicts
from inclinum.core.car.measured import refusal
from inclinum.core.card.acts import Act, Outline, Tighten, acted, outline_of
from inclinum.core.card.found import NewFinding
from inclinum.core.card.own import KeptNote
from inclinum.core.card.record import Build
from inclinum.core.card.settings import NewSetting
from inclinum.core.card.steps import Card
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import AxleName, Side
from inclinum.core.machines import card_of
from inclinum.core.quantity import EntryError, Torque
from inclinum.store import corrections, jobs, stages
from inclinum.store.errors import Moved, Taken

router = APIRouter(tags=["build"])


@router.get("/jobs/{job_id}/card", operation_id="card", response_model=Card)
async def job_card(request: Request, job_id: JobId, store: Database) -> Response:
    """The card of the saved plan, with what was done so far and the shop's own times."""
    stored = await store(jobs.load, job_id)
    taken = await store(jobs.step_times, job_id)
    made = await computer_of(request).run(request, card_of, stored.job, taken)
    # Whoever looks at a card is about to tick it.
    outlines.remember(stored.job, outline_of(made))
    return answered(made)


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


class Acts(BaseModel):
    """What was done at the machine, in the order it was done."""

    acts: list[Act] = Field(min_length=1, max_length=200)


class Refused(BaseModel):
    """An act that was not done, and why."""

    id: UUID
    sentence: str


class Acted(Saved):
    """What was done by now, and what was not done of what was sent."""

    build: Build
    refused: list[Refused]


@router.post("/jobs/{job_id}/build/acts", operation_id="act")
async def act(request: Request, job_id: JobId, body: Acts, store: Database, by: By) -> Acted:
    """Do acts at the machine: ticks, torques, what was found, settings. Each is done once, however often it is sent."""
    return await _acted(request, store, job_id, body.acts, by)


async def _acted(
    request: Request, store: Store, job_id: str, acts: list[Act], by: Acting, version: int | None = None
) -> Acted:
    for turn in range(TRIES):
        stored = await store(jobs.load, job_id, 0)
        outline = await outlines.of(request, stored.job)
        now = datetime.now(UTC)
        one = partial(_one, outline=outline, by=by.name, now=now)
        others = {stage: at for stage, at in stored.versions.items() if stage not in ("build", "prove")}
        try:
            done = await store(stages.save_acts, job_id, acts, one, others, by=by, version=version)
        except Moved:
            if turn == TRIES - 1:
                raise
            continue
        refused = [Refused(id=r.id, sentence=r.sentence) for r in done.refused]
        return Acted(version=done.version, build=done.build, refused=refused)
    raise AssertionError("the loop returns or raises")


def _one(build: Build, act: Act, *, outline: Outline, by: str, now: datetime) -> Build:
    if isinstance(act, Tighten) and act.torque:
        sentence = refusal("torque", act.torque.value, act.torque.tolerance)
        if sentence:
            raise EntryError(sentence)
    return acted(build, act, outline, by, now)


async def _alone(request: Request, store: Store, job_id: str, version: int, made: dict[str, object], by: By) -> Saved:
    """One act of somebody who sends them one by one, each on the version that was seen."""
    act = TypeAdapter[Act](Act).validate_python({"id": uuid4()} | made)
    done = await _acted(request, store, job_id, [act], by, version)
    if done.refused:
        raise DomainError(done.refused[0].sentence)
    return Saved(version=done.version)


class OneTick(BaseModel):
    """A step done, or not done after all."""

    version: Version
    step: str = Field(min_length=1, max_length=120)
    done: bool
    held: bool = Field(default=False, description="what the step stops for is so")
    despite: str = Field(default="", max_length=400, description="why it is passed over all the same")
    minutes: float | None = Field(default=None, gt=0, le=6000, description="it took, where it was timed")


@router.post("/jobs/{job_id}/build/tick", operation_id="tick", responses=conflicts(Build))
async def tick(request: Request, job_id: JobId, body: OneTick, store: Database, by: By) -> Saved:
    """Tick a step with the time and the acting person. A stopped plan needs its written override first."""
    made = {"do": "tick", **body.model_dump(exclude={"version"})}
    return await _alone(request, store, job_id, body.version, made, by)


class OneTorque(BaseModel):
    """A torque as it was read off the wrench."""

    version: Version
    fastener: str = Field(min_length=1, max_length=120)
    axle: AxleName
    side: Side | None = None
    torque: Torque | None = None
    angle_deg: float | None = Field(default=None, ge=0, le=3600, description="turned, where a wrench told it")
    by_feel: bool = Field(default=False, description="tightened to no figure")


@router.post("/jobs/{job_id}/build/torque", operation_id="record_torque", responses=conflicts(Build))
async def record_torque(request: Request, job_id: JobId, body: OneTorque, store: Database, by: By) -> Saved:
    """Record a torque with the time; a later one at the same place replaces it on the card, the history keeps both."""
    made = {"do": "torque", **dict(body)}
    made.pop("version")
    return await _alone(request, store, job_id, body.version, made, by)


class OneFinding(BaseModel):
    """Something found on the way, or one that was told before, told anew."""

    version: Version
    id: str = Field(default="", max_length=40, description="of what was told before; empty where it is new")
    found: NewFinding


@router.post("/jobs/{job_id}/build/found", operation_id="tell_found", responses=conflicts(Build))
async def tell_found(request: Request, job_id: JobId, body: OneFinding, store: Database, by: By) -> Saved:
    """Tell what was found on the way; what is done now stands on the card from then on."""
    there = {f.id for f in (await store(jobs.load, job_id, 0)).job.build.found}
    free = next(f"f{n}" for n in range(1, len(there) + 2) if f"f{n}" not in there)
    made = {"do": "found", "key": body.id or free, "again": bool(body.id), "found": body.found}
    return await _alone(request, store, job_id, body.version, made, by)


FindingId = Annotated[str, Path(max_length=40, description="of something found on the way")]


class OnFinding(BaseModel):
    """Something that is done with what was found."""

    version: Version


@router.post(
    "/jobs/{job_id}/build/found/{finding_id}/withdraw", operation_id="withdraw_found", responses=conflicts(Build)
)
async def withdraw_found(
    request: Request, job_id: JobId, finding_id: FindingId, body: OnFinding, store: Database, by: By
) -> Saved:
    """Take back what was told of something found; the history keeps it."""
    return await _alone(request, store, job_id, body.version, {"do": "withdraw", "key": finding_id}, by)


class FollowUp(BaseModel):
    """A job that was opened for what was found."""

    id: str
    version: int


@router.post("/jobs/{job_id}/build/found/{finding_id}/follow-up", operation_id="follow_up")
async def follow_up(job_id: JobId, finding_id: FindingId, store: Database, by: By) -> FollowUp:
    """Open a job on the same vehicle for what was found; of a finding that has one, that one."""
    for _ in range(TRIES - 1):
        try:
            opened, version = await store(stages.follow_up, job_id, finding_id, by=by)
            break
        except (Moved, Taken):
            continue
    else:
        opened, version = await store(stages.follow_up, job_id, finding_id, by=by)
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


class OneSetting(BaseModel):
    """A setting as it was read, before, after or both."""

    version: Version
    setting: NewSetting


@router.post("/jobs/{job_id}/build/setting", operation_id="note_setting", responses=conflicts(Build))
async def note_setting(request: Request, job_id: JobId, body: OneSetting, store: Database, by: By) -> Saved:
    """Note a setting, before or after; a later reading takes the place of an earlier one, the history keeps both."""
    return await _alone(request, store, job_id, body.version, {"do": "setting", "setting": body.setting}, by)
