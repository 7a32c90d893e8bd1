"""Stage 3: the stack of changes, its prediction, and ways to a height."""

from typing import Annotated, Any

from fastapi import APIRouter
from pydantic import BaseModel, Field

from inclinum.api.computing import Computed
from inclinum.api.saving import add_save_route
from inclinum.core.car.changes import CHANGE_TYPES, PlannedChange, begin
from inclinum.core.car.job import Job, Plan
from inclinum.core.car.limits import Case
from inclinum.core.car.prediction import Prediction, assess, predict
from inclinum.core.car.ways import Way, ways
from inclinum.core.document.names import AxleName

router = APIRouter(tags=["plan"])
computed = APIRouter(route_class=Computed)
add_save_route(router, "plan", Plan)
Kind = Annotated[str, Field(max_length=40)]


@computed.post("/predict", operation_id="predict")
def predict_job(job: Job) -> Prediction:
    """Everything that follows from a job as it stands on the screen."""
    return predict(job)


class Reach(BaseModel):
    """An axle taken to a height."""

    job: Job
    axle: AxleName
    rise: float = Field(ge=-2000, le=2000, allow_inf_nan=False)


@computed.post("/ways", operation_id="ways")
def ways_to(reach: Reach) -> list[Way]:
    """What reaches that height from the present plan, best first."""
    assessed = assess(reach.job)
    return ways(Case(reach.job, assessed.before, assessed.after), reach.axle, reach.rise)


class Begin(BaseModel):
    """A kind of change wanted on an axle."""

    job: Job
    type: Kind
    axle: AxleName


@computed.post("/changes/begin", operation_id="begin_change")
def begin_change(wanted: Begin) -> PlannedChange:
    """A change of that kind to put on the stack and set."""
    return begin(wanted.type, wanted.axle, wanted.job.vehicle, wanted.job.plan.changes)


class ChangeKind(BaseModel):
    """A kind of change, with the schema of its parameters for the form."""

    type: str
    title: str
    reversible: bool
    parameters: dict[str, Any]


@router.get("/change-kinds", operation_id="change_kinds")
def change_kinds() -> list[ChangeKind]:
    """All kinds of change, in the order they are offered."""
    return [
        ChangeKind(
            type=kind.model_fields["type"].default,
            title=kind.title,
            reversible=kind.reversible,
            parameters=kind.model_json_schema(),
        )
        for kind in CHANGE_TYPES
    ]


router.include_router(computed)
