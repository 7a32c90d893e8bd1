"""Two wheels: machines from archetypes, their jobs stage by stage, prediction, card and proof."""

import re
from datetime import UTC, datetime
from typing import Any

import numpy as np
from fastapi import APIRouter, HTTPException, Response
from pydantic import BaseModel, Field

from inclinum import report
from inclinum.api.acting import Acting
from inclinum.api.answers import answered
from inclinum.api.build import Tick, Tightened, ticked, tightened
from inclinum.api.database import Database
from inclinum.api.errors import ConflictBody, Refusal
from inclinum.api.jobs import Created
from inclinum.api.prove import Sign
from inclinum.api.saving import Saved, add_save_route
from inclinum.core.bike.archetypes import BIKES
from inclinum.core.bike.bench import BikeBenchView, bike_bench
from inclinum.core.bike.bike import Bike, End, Use
from inclinum.core.bike.card import BikeCard, bike_card
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
from inclinum.core.bike.prediction import BikePrediction, assess, predict_bike
from inclinum.core.bike.proof import BikeProof, prove_bike
from inclinum.core.bike.setting import set_sag
from inclinum.core.bike.windows import OURS
from inclinum.core.job import Build, SignOff, StageName
from inclinum.core.quantity import Length
from inclinum.jobfile import BikeFile, HistoryEntry
from inclinum.jobfile.points_csv import read_rear_points, write_rear_points
from inclinum.store import jobs, vehicles

router = APIRouter(tags=["two wheels"])
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


@router.post("/bikes", operation_id="new_bike", responses={409: {"model": Refusal}, 422: {"model": Refusal}})
def new_bike(body: NewBike, session: Database, by: Acting) -> NewBikeId:
    """Set a machine up from an archetype; it works at once."""
    if body.archetype not in BIKES:
        raise HTTPException(422, f"There is no archetype “{body.archetype}”; there are {', '.join(BIKES)}.")
    bike = BIKES[body.archetype].bike(body.name, body.plate)
    return NewBikeId(id=vehicles.create(session, bike, body.owner, by))


class BikeView(BaseModel):
    """A machine with its version."""

    bike: Bike
    owner: str
    version: int


@router.get("/bikes/{bike_id}", operation_id="get_bike", responses={404: {"model": Refusal}})
def get_bike(bike_id: int, session: Database) -> BikeView:
    """One machine."""
    stored = vehicles.load_bike(session, bike_id)
    return BikeView(bike=stored.vehicle, owner=stored.owner, version=stored.version)


class SaveBike(BaseModel):
    """A machine as its writer wants it, on top of the version that was read."""

    version: int
    bike: Bike


@router.put(
    "/bikes/{bike_id}",
    operation_id="save_bike",
    responses={409: {"model": ConflictBody[Bike]}, 422: {"model": Refusal}},
)
def save_bike(bike_id: int, body: SaveBike, session: Database, by: Acting) -> Saved:
    """Save it, or 409 with both values."""
    return Saved(version=vehicles.save(session, bike_id, body.bike, body.version, by))


@router.post(
    "/bench/bike", operation_id="bike_bench", response_model=BikeBenchView, responses={422: {"model": Refusal}}
)
def bench(bike: Bike) -> Response:
    """A machine fitted to its readings, with everything the bench draws."""
    return answered(bike_bench(bike))


class PastedRear(BaseModel):
    """A table of points for a machine's rear end."""

    bike: Bike
    text: str = Field(max_length=100_000)


@router.post("/points/read-bike", operation_id="read_bike_points", responses={422: {"model": Refusal}})
def points_read(body: PastedRear) -> Bike:
    """The machine with the points of the table; tape readings then no longer say where they are."""
    given = {n: np.array(at) for n, at in read_rear_points(body.text, body.bike.rear).items()}
    kept = tuple(t for t in body.bike.tape if t.key == STROKE)
    return body.bike.model_copy(update={"rear": body.bike.rear.with_points(given), "tape": kept})


@router.post("/points/write-bike", operation_id="write_bike_points", response_class=Response)
def points_write(bike: Bike) -> Response:
    """The points of a machine's rear end, fitted to its readings, as CSV."""
    return Response(write_rear_points(fitted(bike, BikeMeasurements()).bike.rear), media_type="text/csv")


class NewBikeJob(BaseModel):
    """A new job on a machine the shop has set up."""

    title: str = Field(min_length=1, max_length=120)
    vehicle_id: int


@router.post(f"/{WHERE}", operation_id="new_bike_job", responses={404: {"model": Refusal}})
def new_bike_job(body: NewBikeJob, session: Database, by: Acting) -> Created:
    """Open a job: the machine, the shop's shelf and windows come along; nothing is to change yet."""
    stored = vehicles.load_bike(session, body.vehicle_id)
    bike, owner = stored.vehicle, stored.owner
    shelf, windows = vehicles.last_shelf(session)
    stem = re.sub(r"[^a-z0-9]+", "-", body.title.lower()).strip("-")[:40] or "job"
    taken = {s.id for s in jobs.summaries(session)}
    job_id = next(i for n in range(1, 10_000) if (i := stem if n == 1 else f"{stem}-{n}") not in taken)
    brief = BikeBrief(
        owner=owner, rear_drop=Length.model_validate("0"), use=bike.use, shelf=shelf, windows=windows,
    )  # fmt: skip
    job = BikeJob(id=job_id, title=body.title, vehicle=bike, brief=brief)
    jobs.create(session, BikeFile(job=job), by, note=f"opened the job “{body.title}”")
    return Created(id=job_id, wheels=2)


class BikeJobView(BaseModel):
    """A job with the version of each stage and its history."""

    job: BikeJob
    versions: dict[StageName, int]
    history: list[HistoryEntry]


@router.get(f"/{WHERE}/{{job_id}}", operation_id="get_bike_job", responses={404: {"model": Refusal}})
def get_bike_job(job_id: str, session: Database) -> BikeJobView:
    """One job."""
    stored, job = jobs.load(session, job_id), jobs.two_wheels(session, job_id)
    return BikeJobView(job=job, versions=stored.versions, history=stored.history)


@router.post(
    "/bike/predict", operation_id="predict_bike", response_model=BikePrediction, responses={422: {"model": Refusal}}
)
def predict(job: BikeJob) -> Response:
    """Everything that follows from a job as it stands on the screen."""
    return answered(predict_bike(job))


class BeginBike(BaseModel):
    """A kind of change wanted."""

    job: BikeJob
    type: str


@router.post("/bike/changes/begin", operation_id="begin_bike_change", responses={422: {"model": Refusal}})
def begin_change(wanted: BeginBike) -> PlannedBikeChange:
    """A change of that kind to put on the stack and set: it starts from the machine as measured."""
    return begin(wanted.type, assess(wanted.job).fitted.bike, wanted.job.plan.changes)


class SagWanted(BaseModel):
    """A laden sag dragged or typed."""

    job: BikeJob
    end: End
    sag_mm: float = Field(gt=0, le=400)


@router.post("/bike/sag", operation_id="set_sag", responses={422: {"model": Refusal}})
def sag_wanted(wanted: SagWanted) -> BikeCure:
    """The plan with the preload, or the spacers, that give that sag."""
    return set_sag(assess(wanted.job).case(), wanted.end, wanted.sag_mm)


@router.post("/bike/prove", operation_id="prove_bike", response_model=BikeProof, responses={422: {"model": Refusal}})
def prove(job: BikeJob) -> Response:
    """Readings after against the prediction."""
    return answered(prove_bike(job))


@router.get(f"/{WHERE}/{{job_id}}/card", operation_id="bike_card", responses={422: {"model": Refusal}})
def card(job_id: str, session: Database) -> BikeCard:
    """The card of the saved plan."""
    return bike_card(jobs.two_wheels(session, job_id))


@router.get(f"/{WHERE}/{{job_id}}/card.pdf", operation_id="bike_card_pdf", response_class=Response)
def card_pdf(job_id: str, session: Database) -> Response:
    """The card as pages."""
    html = report.bike_card_html(jobs.two_wheels(session, job_id))
    return Response(report.pdf(html), media_type="application/pdf")


CONFLICT: dict[int | str, dict[str, Any]] = {409: {"model": ConflictBody[Build]}, 422: {"model": Refusal}}


@router.post(f"/{WHERE}/{{job_id}}/build/tick", operation_id="tick_bike", responses=CONFLICT)
def tick(job_id: str, body: Tick, session: Database, by: Acting) -> Saved:
    """Tick a step with the time and the acting person. A stopped plan needs its written override first."""
    job = jobs.two_wheels(session, job_id)
    made = bike_card(job)
    section = ticked(job.build, body, {s.id for s in made.steps}, made.stopped_by, made.override, by)
    return Saved(version=jobs.save_stage(session, job_id, "build", section, body.version, by))


@router.post(f"/{WHERE}/{{job_id}}/build/torque", operation_id="record_bike_torque", responses=CONFLICT)
def record_torque(job_id: str, body: Tightened, session: Database, by: Acting) -> Saved:
    """Record a torque with the time."""
    section = tightened(jobs.two_wheels(session, job_id).build, body, by)
    return Saved(version=jobs.save_stage(session, job_id, "build", section, body.version, by))


@router.post(
    f"/{WHERE}/{{job_id}}/sign-off",
    operation_id="sign_bike_off",
    responses={409: {"model": ConflictBody[BikeProve]}, 422: {"model": Refusal}},
)
def sign_off(job_id: str, body: Sign, session: Database, by: Acting) -> Saved:
    """Sign the job off with the time and the acting person. Sags after come first."""
    job = jobs.two_wheels(session, job_id)
    if prove_bike(job).verdict == "nothing measured":
        raise HTTPException(422, "Nothing was measured after the job: enter the sags before signing off.")
    section = job.prove.model_copy(update={"sign_off": SignOff(by=by, at=datetime.now(UTC), note=body.note)})
    return Saved(version=jobs.save_stage(session, job_id, "prove", section, body.version, by))
