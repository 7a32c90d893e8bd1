"""The part bench: parts worked out on their own, and put into a job as a change."""

from fastapi import APIRouter
from pydantic import BaseModel

from inclinum.api.computing import Computed
from inclinum.core.document.names import AxleName
from inclinum.core.machines import AnyJob, AnyPlanned
from inclinum.core.machines.part_bench import BenchAnswer, BenchPart, parts, planned, worked_out
from inclinum.core.part_sheets import AnySheet

router = APIRouter(tags=["part bench"])
computed = APIRouter(route_class=Computed)


@router.get("/part-bench", operation_id="get_part_bench")
async def get_part_bench() -> list[BenchPart]:
    """Every kind of part, with what it is told by and one to begin with."""
    return parts()


class OnPartBench(BaseModel):
    """A part as it stands on the screen."""

    sheet: AnySheet


@computed.post("/part-bench/answer", operation_id="work_part_out")
def work_part_out(given: OnPartBench) -> BenchAnswer:
    """Everything that follows from it."""
    return worked_out(given.sheet)


class IntoJob(BaseModel):
    """A part that goes into a job."""

    sheet: AnySheet
    job: AnyJob
    axle: AxleName | None = None


@computed.post("/part-bench/planned", operation_id="plan_part")
def plan_part(given: IntoJob) -> AnyPlanned:
    """The part as a change, to put on that job's stack."""
    return planned(given.sheet, given.job, given.axle)


router.include_router(computed)
