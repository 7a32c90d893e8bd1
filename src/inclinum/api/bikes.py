"""Two wheels: machines from archetypes, their jobs stage by stage, prediction, card and proof."""

from typing import Any

import numpy as np
from fastapi import APIRouter, Response
from pydantic import BaseModel, Field
from sqlalchemy.orm import Session

from inclinum.api.answers import CSV, answered
from inclinum.api.computing import Computed
from inclinum.api.database import By, Database
from inclinum.api.jobs import Created, VehicleId, with_free_id
from inclinum.api.plan import Kind
from inclinum.api.saving import JobId, RowId, Saved, Version, add_save_route, conflicts
from inclinum.core.bike.archetypes import BIKES
from inclinum.core.bike.bench import BikeBenchView, bike_bench
from inclinum.core.bike.changes import BIKE_CHANGES, PlannedBikeChange, begin
from inclinum.core.bike.fit import STROKE, fitted
from inclinum.core.bike.job import (
    BikeAlign,
    BikeBrief,
    BikeJob,
    BikeMeasurements,
    BikePlan,
    BikeProve,
    SagWindow,
)
from inclinum.core.bike.limits import BikeCure
from inclinum.core.bike.machine import Bike, End, Use
from inclinum.core.bike.prediction import BikePrediction, assess, predict_bike
from inclinum.core.bike.proof import BikeProof, prove_bike
from inclinum.core.bike.setting import set_sag
from inclinum.core.bike.windows import OURS
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import StageName
from inclinum.core.quantity import Length
from inclinum.jobfile import BikeFile, HistoryEntry
from inclinum.jobfile.points_csv import read_rear_points, write_rear_points
from inclinum.store import jobs, vehicles

router = APIRouter(tags=["two wheels"])
computed = APIRouter(route_class=Computed)
WHERE = "bike-jobs"
for _stage, _model in (
    ("brief", BikeBrief),
    ("measure", BikeMeasurements),
    ("plan", BikePlan),
    ("align", BikeAlign),
    ("prove", BikeProve),
):
    add_save_route(router, _stage, _model, WHERE)  # type: ignore[arg-type]


class BikeChoice(BaseModel):
    """A kind of machine."""

    key: str
    title: str
    use: Use


class BikeChangeKind(BaseModel):
    """A kind of change, with the schema of its parameters for the form."""

    type: str
    title: str
    end: str | None
    reversible: bool
    parameters: dict[str, Any]


class BikeChoices(BaseModel):
    """What a machine can be set up from and changed by."""

    archetypes: list[BikeChoice]
    changes: list[BikeChangeKind]
    windows: list[SagWindow]
    """Ours, until the shop writes its own."""
    vehicle: dict[str, Any]
    brief: dict[str, Any]
    """Schemas for forms."""


@router.get("/bike-archetypes", operation_id="bike_archetypes")
def bike_archetypes() -> BikeChoices:
    """Every archetype, kind of change and sag window."""
    return BikeChoices(
        archetypes=[BikeChoice(key=a.key, title=a.title, use=a.use) for a in BIKES.values()],
        changes=[
            BikeChangeKind(
                type=k.model_fields["type"].default,
                title=k.title,
                end=k.end,
                reversible=k.reversible,
                parameters=k.model_json_schema(),
            )
            for k in BIKE_CHANGES
        ],
        windows=list(OURS.values()),
        vehicle=Bike.model_json_schema(),
        brief=BikeBrief.model_json_schema(),
    )


class NewBike(BaseModel):
    """A machine to set up."""

    name: str = Field(min_length=1, max_length=120)
    plate: str = Field(default="", max_length=30)
    owner: str = Field(min_length=1, max_length=120)
    archetype: str = Field(max_length=40)


class NewBikeId(BaseModel):
    """Where it is."""

    id: int


@router.post("/bikes", operation_id="new_bike")
async def new_bike(body: NewBike, store: Database, by: By) -> NewBikeId:
    """Set a machine up from an archetype; it works at once."""
    return NewBikeId(id=await store(_set_up, body, by=by))


def _set_up(session: Session, body: NewBike, by: str) -> int:
    if body.archetype not in BIKES:
        raise DomainError(f"There is no archetype “{body.archetype}”; there are {', '.join(BIKES)}.")
    return vehicles.create(session, BIKES[body.archetype].bike(body.name, body.plate), body.owner, by)


class BikeView(BaseModel):
    """A machine with its version."""

    bike: Bike
    owner: str
    version: int


@router.get("/bikes/{bike_id}", operation_id="get_bike", response_model=BikeView)
async def get_bike(bike_id: RowId, store: Database) -> Response:
    """One machine."""
    stored = await store(vehicles.load_bike, bike_id)
    return answered(BikeView(bike=stored.vehicle, owner=stored.owner, version=stored.version))


class SaveBike(BaseModel):
    """A machine as its writer wants it, on top of the version that was read."""

    version: Version
    bike: Bike


@router.put("/bikes/{bike_id}", operation_id="save_bike", responses=conflicts(Bike))
async def save_bike(bike_id: RowId, body: SaveBike, store: Database, by: By) -> Saved:
    """Save it, or 409 with both values."""
    return Saved(version=await store(vehicles.save, bike_id, body.bike, body.version, by=by))


@computed.post("/bench/bike", operation_id="bike_bench")
def bench(bike: Bike) -> BikeBenchView:
    """A machine fitted to its readings, with everything the bench draws."""
    return bike_bench(bike)


class PastedRear(BaseModel):
    """A table of points for a machine's rear end."""

    bike: Bike
    text: str = Field(max_length=100_000)


@computed.post("/points/read-bike", operation_id="read_bike_points")
def points_read(body: PastedRear) -> Bike:
    """The machine with the points of the table; tape readings then no longer say where they are."""
    given = {n: np.array(at) for n, at in read_rear_points(body.text, body.bike.rear).items()}
    kept = tuple(t for t in body.bike.tape if t.key == STROKE)
    return body.bike.model_copy(update={"rear": body.bike.rear.with_points(given), "tape": kept})


@computed.post("/points/write-bike", operation_id="write_bike_points", response_model=None, responses=CSV)
def points_write(bike: Bike) -> str:
    """The points of a machine's rear end, fitted to its readings, as CSV."""
    return write_rear_points(fitted(bike, BikeMeasurements()).bike.rear)


class NewBikeJob(BaseModel):
    """A new job on a machine the shop has set up."""

    title: str = Field(min_length=1, max_length=120, pattern=r"\S")
    vehicle_id: VehicleId


@router.post(f"/{WHERE}", operation_id="new_bike_job")
async def new_bike_job(body: NewBikeJob, store: Database, by: By) -> Created:
    """Open a job: the machine, the shop's shelf and windows come along; nothing is to change yet."""
    return Created(id=await with_free_id(store, by, _open, body), wheels=2)


def _open(session: Session, body: NewBikeJob, by: str) -> str:
    stored = vehicles.load_bike(session, body.vehicle_id)
    bike, owner = stored.vehicle, stored.owner
    shelf, windows = vehicles.last_shelf(session)
    brief = BikeBrief(
        owner=owner, rear_drop=Length.model_validate("0"), use=bike.use, shelf=shelf, windows=windows,
    )  # fmt: skip
    job = BikeJob(id=jobs.new_id(session, body.title), title=body.title, vehicle=bike, brief=brief)
    jobs.create(session, BikeFile(job=job), by, f"opened the job “{body.title}”", body.vehicle_id)
    return job.id


class BikeJobView(BaseModel):
    """A job with the version of each stage and the newest lines of its history."""

    job: BikeJob
    versions: dict[StageName, int]
    history: list[HistoryEntry]
    lines: int
    """Of the whole history."""


@router.get(f"/{WHERE}/{{job_id}}", operation_id="get_bike_job", response_model=BikeJobView)
async def get_bike_job(job_id: JobId, store: Database) -> Response:
    """One job."""
    stored = await store(jobs.two_wheels, job_id)
    assert isinstance(stored.job, BikeJob)
    return answered(BikeJobView(job=stored.job, versions=stored.versions, history=stored.history, lines=stored.lines))


@computed.post("/bike/predict", operation_id="predict_bike")
def predict(job: BikeJob) -> BikePrediction:
    """Everything that follows from a job as it stands on the screen."""
    return predict_bike(job)


class BeginBike(BaseModel):
    """A kind of change wanted."""

    job: BikeJob
    type: Kind


@computed.post("/bike/changes/begin", operation_id="begin_bike_change")
def begin_change(wanted: BeginBike) -> PlannedBikeChange:
    """A change of that kind to put on the stack and set: it starts from the machine as measured."""
    return begin(wanted.type, assess(wanted.job).fitted.bike, wanted.job.plan.changes)


class SagWanted(BaseModel):
    """A laden sag dragged or typed."""

    job: BikeJob
    end: End
    sag_mm: float = Field(gt=0, le=400, allow_inf_nan=False)


@computed.post("/bike/sag", operation_id="set_sag")
def sag_wanted(wanted: SagWanted) -> BikeCure:
    """The plan with the preload, or the spacers, that give that sag."""
    return set_sag(assess(wanted.job).case(), wanted.end, wanted.sag_mm)


@computed.post("/bike/prove", operation_id="prove_bike")
def prove(job: BikeJob) -> BikeProof:
    """Readings after against the prediction."""
    return prove_bike(job)


router.include_router(computed)
