"""Stage 4, where kinds differ: the alignment specification of four wheels, the sag of two."""

from fastapi import APIRouter, Request, Response
from pydantic import BaseModel, Field

from inclinum import report
from inclinum.api.answers import PDF, pdf
from inclinum.api.computing import PAPER_S, Computed, computer_of
from inclinum.api.database import Database
from inclinum.api.saving import JobId, add_save_route
from inclinum.core.bike.job import BikeJob
from inclinum.core.bike.limits import BikeCure
from inclinum.core.bike.machine import End
from inclinum.core.bike.prediction import assess
from inclinum.core.bike.setting import set_sag
from inclinum.core.car.alignment import Alignment, align
from inclinum.core.car.job import Job
from inclinum.core.document.errors import DomainError
from inclinum.store import jobs

router = APIRouter(tags=["align"])
computed = APIRouter(route_class=Computed)
add_save_route(router, "align")


@computed.post("/align", operation_id="align")
def align_job(job: Job) -> Alignment:
    """Adjusters solved together at the planned height, and what is left over."""
    return align(job)


@router.get("/jobs/{job_id}/alignment.pdf", operation_id="alignment_pdf", response_model=None, responses=PDF)
async def alignment_pdf(request: Request, job_id: JobId, store: Database) -> Response:
    """The one-page sheet of the saved job."""
    stored = await store(jobs.load, job_id)
    if not isinstance(stored.job, Job):
        raise DomainError(f"The job “{stored.job.title}” has no alignment sheet: its steering stands on the job card.")
    return pdf(await computer_of(request).run(request, report.alignment_pdf, stored.job, longest_s=PAPER_S))


class SagWanted(BaseModel):
    """A laden sag dragged or typed."""

    job: BikeJob
    end: End
    sag_mm: float = Field(gt=0, le=400, allow_inf_nan=False)


@computed.post("/sag", operation_id="set_sag")
def sag_wanted(wanted: SagWanted) -> BikeCure:
    """The plan with the preload, or the spacers, that give that sag."""
    return set_sag(assess(wanted.job).case(), wanted.end, wanted.sag_mm)


router.include_router(computed)
