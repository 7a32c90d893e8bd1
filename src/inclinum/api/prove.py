"""Stage 6: readings after, against the prediction, and the sign-off."""

from datetime import UTC, datetime
from typing import Annotated, Any

from fastapi import APIRouter, Request
from pydantic import BaseModel, Field, StringConstraints
from starlette.exceptions import HTTPException

from inclinum.api import outlines
from inclinum.api.computing import Computed, computer_of
from inclinum.api.database import By, Database
from inclinum.api.errors import NotSigned
from inclinum.api.saving import JobId, Saved, Version, act, add_save_route, conflicts
from inclinum.core.car.job import Job
from inclinum.core.card.acts import Outline
from inclinum.core.card.record import SignOff
from inclinum.core.document import Document
from inclinum.core.document.names import readable
from inclinum.core.machines import KINDS, AnyJob, AnyProof, kind_of, proof_of
from inclinum.core.machines.seal import seal_of
from inclinum.core.plan import Outcome
from inclinum.jobfile import BIKE_VERSION, VERSION
from inclinum.store import jobs

router = APIRouter(tags=["prove"])
PROOF_S = 8.0
"""Of a processor, for a proof that looks for what would explain a miss."""
PROVES = tuple(kind.stages["prove"] for kind in KINDS.values())
computed = APIRouter(route_class=Computed)
add_save_route(router, "prove")


@computed.post("/prove", operation_id="prove")
def prove_job(job: AnyJob) -> AnyProof:
    """Readings after against the prediction."""
    return proof_of(job)


def outcomes_of(wanted: list[AnyJob]) -> list[Outcome | None]:
    """What each job predicted and gave; None for one that cannot be predicted."""
    return [_outcome(job) for job in wanted]


def _outcome(job: AnyJob) -> Outcome | None:
    try:
        return kind_of(job).outcome(job)
    except ValueError:
        return None


@router.get("/jobs/{job_id}/outcomes", operation_id="outcomes")
async def outcomes(request: Request, job_id: JobId, store: Database) -> list[Outcome]:
    """This job and the newest others of its vehicle, oldest first: what was predicted and what came out.

    An outcome is worked out when it is first asked for, and kept until the job is saved again.
    """
    known, wanted = await store(jobs.outcomes, job_id)
    for n in range(0, len(wanted), TOGETHER):
        some = wanted[n : n + TOGETHER]
        found = await computer_of(request).run(request, outcomes_of, some)
        pairs = [(o, job) for o, job in zip(found, some, strict=True) if o is not None]
        await store(jobs.keep_outcomes, [o for o, _ in pairs], [job for _, job in pairs])
        known += [o for o, _ in pairs]
    return await store(jobs.in_order_of_time, known)


TOGETHER = 8
"""Outcomes worked out in one go."""


class Sign(BaseModel):
    """The last word on a job."""

    version: Version
    note: str = Field(default="", max_length=4000)
    despite: str = Field(default="", max_length=4000, description="why it is signed although something is missing")


class Withdraw(BaseModel):
    """Why a signature no longer holds."""

    version: Version
    reason: Annotated[str, StringConstraints(strip_whitespace=True, min_length=3, max_length=1000)]


def missing(job: Any, outline: Outline, proof: AnyProof) -> list[str]:
    """What a job lacks before it is done, each in words: the plan, the card, the tape."""
    found = []
    if outline.stopped_by:
        found.append(f"the plan is stopped: {outline.stopped_by}")
    ticked = {t.step for t in job.build.ticks}
    left = [step for step in outline.steps if step not in ticked]
    if left:
        found.append(f"{len(left)} of {len(outline.steps)} steps of the card are not ticked")
    if proof.unread:
        found.append(f"not read after: {'; '.join(proof.unread)}")
    return found


class BeforeSigning(BaseModel):
    """What a job lacks before it is signed off, each in words."""

    missing: list[str]


@router.get("/jobs/{job_id}/sign-off", operation_id="before_signing")
async def before_signing(request: Request, job_id: JobId, store: Database) -> BeforeSigning:
    """What is missing before a job can be signed off without a reason."""
    job = (await store(jobs.load, job_id, 0)).job
    outline = await outlines.of(request, job)
    proof = await computer_of(request).run(request, proof_of, job, longest_s=PROOF_S)
    return BeforeSigning(missing=missing(job, outline, proof))


@router.post("/jobs/{job_id}/sign-off", operation_id="sign_off", responses=conflicts(*PROVES))
async def sign_off(request: Request, job_id: JobId, body: Sign, store: Database, by: By) -> Saved:
    """Sign a job off for what stands in it at that moment. Readings come first; what else is missing needs a reason."""

    async def work(job: Any) -> tuple[Document, str]:
        if job.prove.sign_off is not None:
            raise HTTPException(422, f"The job is signed off already, by {job.prove.sign_off.by}.")
        outline = await outlines.of(request, job)
        proof = await computer_of(request).run(request, proof_of, job, longest_s=PROOF_S)
        if proof.verdict == "nothing measured":
            what = kind_of(job).proven_by
            raise HTTPException(422, f"Nothing was measured after the job: enter the {what} before signing off.")
        lacks, despite = missing(job, outline, proof), readable(body.despite).strip()
        if lacks and not despite:
            raise NotSigned(lacks)
        version = VERSION if isinstance(job, Job) else BIKE_VERSION
        signature = SignOff(
            by=by.name, at=datetime.now(UTC), note=body.note, missing=tuple(lacks), despite=despite if lacks else "",
            covers=seal_of(job), sealed_as=version,
        )  # fmt: skip
        said = (
            "within the prediction where it was read"
            if proof.verdict == "in part"
            else f"{proof.verdict} the prediction"
        )
        event = f"signed off: {said}" + (f"; {body.note}" if body.note else "")
        if lacks:
            event += f"; although {'; '.join(lacks)}: {despite}"
        return job.prove.model_copy(update={"sign_off": signature}), event

    return await act(store, job_id, "prove", body.version, by, work)


@router.post("/jobs/{job_id}/sign-off/withdraw", operation_id="withdraw_sign_off", responses=conflicts(*PROVES))
async def withdraw_sign_off(job_id: JobId, body: Withdraw, store: Database, by: By) -> Saved:
    """Withdraw the signature; who and why stand in the history."""

    async def work(job: Any) -> tuple[Document, str]:
        if job.prove.sign_off is None:
            raise HTTPException(422, "The job is not signed off: there is nothing to withdraw.")
        event = f"withdrew the sign-off of {job.prove.sign_off.by}: {body.reason}"
        return job.prove.model_copy(update={"sign_off": None}), event

    return await act(store, job_id, "prove", body.version, by, work)


router.include_router(computed)
