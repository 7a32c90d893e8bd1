"""Stage 4: the alignment specification."""

from fastapi import APIRouter, Response

from inclinum import report
from inclinum.api.answers import answered
from inclinum.api.database import Database
from inclinum.api.errors import Refusal
from inclinum.api.saving import add_save_route
from inclinum.core.alignment import Alignment, align
from inclinum.core.job import Align, Job
from inclinum.store import jobs

router = APIRouter(tags=["align"])
add_save_route(router, "align", Align)


@router.post("/align", operation_id="align", response_model=Alignment, responses={422: {"model": Refusal}})
def align_job(job: Job) -> Response:
    """Adjusters solved together at the planned height, and what is left over."""
    return answered(align(job))


@router.get("/jobs/{job_id}/alignment.pdf", operation_id="alignment_pdf", response_class=Response)
def alignment_pdf(job_id: str, session: Database) -> Response:
    """The one-page sheet of the saved job."""
    job = jobs.four_wheels(session, job_id)
    return Response(report.pdf(report.alignment_html(job)), media_type="application/pdf")
