"""The brief, and the stack of changes: its prediction, and ways to a height. Of any kind of machine."""

from typing import Annotated

from fastapi import APIRouter, Query
from pydantic import BaseModel, Field

from inclinum.api.computing import Computed
from inclinum.api.saving import add_save_route
from inclinum.core.bike.stance import Condition
from inclinum.core.document import Document
from inclinum.core.document.names import AxleName
from inclinum.core.machines import AnyJob, AnyPlanned, AnyPrediction, AnyWay, Offer, kind_of, offers, prediction_of
from inclinum.core.shapes import By, Seen, ViewName, Whose

router = APIRouter(tags=["plan"])
computed = APIRouter(route_class=Computed)
add_save_route(router, "brief")
add_save_route(router, "plan")
Kind = Annotated[str, Field(max_length=40)]


class Asked(Document):
    """What of a prediction is wanted, where not all is."""

    conditions: tuple[Condition, ...] = Field((), max_length=4)
    """In which the planned two-wheeler is drawn; all where none is named."""
    ways: bool = True
    """Whether a height that is missed is searched for what reaches it: not while a slider is held."""


@computed.post("/predict", operation_id="predict")
def predict_job(job: AnyJob, asked: Annotated[Asked, Query()]) -> AnyPrediction:
    """Everything that follows from a job as it stands on the screen."""
    return prediction_of(job, asked.conditions, ways=asked.ways)


class HeightWanted(BaseModel):
    """An axle taken to a height."""

    job: AnyJob
    axle: AxleName
    rise: float = Field(ge=-2000, le=2000, allow_inf_nan=False)


@computed.post("/ways", operation_id="ways")
def ways_to(wanted: HeightWanted) -> list[AnyWay]:
    """What reaches that height from the present plan, best first."""
    return kind_of(wanted.job).ways(wanted.job, wanted.axle, wanted.rise)


class Look(BaseModel):
    """One end of a job's machine, and where it is looked at from."""

    job: AnyJob
    axle: AxleName
    view: ViewName = "behind"
    whose: Whose = "planned"
    by: By = "travel"


@computed.post("/seen", operation_id="seen")
def seen(look: Look) -> Seen:
    """That end over its whole travel or from lock to lock, every part to scale: one batch of pictures."""
    return kind_of(look.job).seen(look.job, look.axle, look.view, look.whose, look.by)


class Begin(BaseModel):
    """A kind of change wanted."""

    job: AnyJob
    type: Kind
    axle: AxleName | None = None


@computed.post("/changes/begin", operation_id="begin_change")
def begin_change(wanted: Begin) -> AnyPlanned:
    """A change of that kind to put on the stack and set."""
    return kind_of(wanted.job).begin(wanted.job, wanted.type, wanted.axle)


class Wanted(BaseModel):
    """A job that something is to be changed on."""

    job: AnyJob


@computed.post("/changes/offer", operation_id="offer_changes")
def offer_changes(wanted: Wanted) -> list[Offer]:
    """Every kind of change at every end of a job's machine as planned so far, and why one does not go there."""
    return offers(wanted.job)


router.include_router(computed)
