"""Stage 4: the alignment specification."""

from fastapi import APIRouter, Request, Response

from inclinum import report
from inclinum.api.answers import PDF, pdf
from inclinum.api.computing import Computed, computer_of
from inclinum.api.database import Database
from inclinum.api.saving import JobId, add_save_route
from inclinum.core.car.alignment import Alignment, align
from inclinum.core.car.job import Align, Job
from inclinum.store import jobs

router = APIRouter(tags=["align"])
computed = APIRouter(route_class=Computed)
add_save_route(router, "align", Align)


@computed.post("/align", operation_id="align")
def align_job(job: Job) -> Alignment:
    """Adjusters solved together at the planned height, and what is left over."""
    return align(job)


@router.get("/jobs/{job_id}/alignment.pdf", operation_id="alignment_pdf", response_model=None, responses=PDF)
async def alignment_pdf(request: Request, job_id: JobId, store: Database) -> Response:
    """The one-page sheet of the saved job."""
    stored = await store(jobs.four_wheels, job_id)
    return pdf(await computer_of(request).run(request, report.alignment_pdf, stored.job))


router.include_router(computed)
