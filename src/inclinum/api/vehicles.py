"""Vehicles: the list, setting one up from archetypes, its bench, and its hardpoints as a table."""

from typing import Any

from fastapi import APIRouter, Response
from pydantic import BaseModel, Field

from inclinum.api.acting import Acting
from inclinum.api.answers import answered
from inclinum.api.database import Database
from inclinum.api.errors import ConflictBody, Refusal
from inclinum.api.saving import Saved
from inclinum.core.archetypes import ARCHETYPES, SIZES, vehicle_of
from inclinum.core.archetypes.respring import respring
from inclinum.core.bench import AxleBench, axle_bench
from inclinum.core.fitted import SPRINGS
from inclinum.core.vehicle import Axle, AxleName, Vehicle
from inclinum.jobfile.points_csv import read_points, write_points
from inclinum.store import vehicles
from inclinum.store.vehicles import VehicleSummary

router = APIRouter(tags=["vehicles"])


class ArchetypeChoice(BaseModel):
    """A suspension that can be chosen."""

    key: str
    title: str
    where: list[AxleName]
    not_for: list[str]


class SizeChoice(BaseModel):
    """A class of vehicle."""

    key: str
    title: str


class SpringKind(BaseModel):
    """A kind of spring, with the schema of its fields for the form."""

    type: str
    title: str
    parameters: dict[str, Any]


class Choices(BaseModel):
    """What a vehicle can be set up from."""

    archetypes: list[ArchetypeChoice]
    sizes: list[SizeChoice]
    springs: list[SpringKind]
    vehicle: dict[str, Any]
    """Schema of a vehicle, for forms: titles, units and limits stand there only."""


@router.get("/archetypes", operation_id="archetypes")
def archetypes() -> Choices:
    """Every archetype, size and kind of spring."""
    return Choices(
        archetypes=[
            ArchetypeChoice(key=a.key, title=a.title, where=list(a.where), not_for=list(a.not_for))
            for a in ARCHETYPES.values()
        ],
        sizes=[SizeChoice(key=s.name, title=s.title) for s in SIZES.values()],
        springs=[SpringKind(type=t, title=k.title, parameters=k.model_json_schema()) for t, k in SPRINGS.items()],
        vehicle=Vehicle.model_json_schema(),
    )


@router.get("/vehicles", operation_id="list_vehicles")
def list_vehicles(session: Database) -> list[VehicleSummary]:
    """All vehicles, by name."""
    return vehicles.summaries(session)


class NewVehicle(BaseModel):
    """A vehicle to set up."""

    name: str = Field(min_length=1, max_length=120)
    plate: str = Field(default="", max_length=30)
    owner: str = Field(min_length=1, max_length=120)
    size: str = Field(max_length=40)
    front: str = Field(max_length=40)
    rear: str = Field(max_length=40)


class NewVehicleId(BaseModel):
    """Where it is."""

    id: int


@router.post("/vehicles", operation_id="new_vehicle", responses={409: {"model": Refusal}, 422: {"model": Refusal}})
def new_vehicle(body: NewVehicle, session: Database, by: Acting) -> NewVehicleId:
    """Set a vehicle up from two archetypes; it works at once."""
    vehicle = vehicle_of(body.front, body.rear, body.size, body.name, body.plate)
    return NewVehicleId(id=vehicles.create(session, vehicle, body.owner, by))


class VehicleView(BaseModel):
    """A vehicle with its version."""

    vehicle: Vehicle
    owner: str
    version: int


@router.get("/vehicles/{vehicle_id}", operation_id="get_vehicle", responses={404: {"model": Refusal}})
def get_vehicle(vehicle_id: int, session: Database) -> VehicleView:
    """One vehicle."""
    stored = vehicles.load(session, vehicle_id)
    return VehicleView(vehicle=stored.vehicle, owner=stored.owner, version=stored.version)


class SaveVehicle(BaseModel):
    """A vehicle as its writer wants it, on top of the version that was read."""

    version: int
    vehicle: Vehicle


@router.put(
    "/vehicles/{vehicle_id}",
    operation_id="save_vehicle",
    responses={409: {"model": ConflictBody[Vehicle]}, 422: {"model": Refusal}},
)
def save_vehicle(vehicle_id: int, body: SaveVehicle, session: Database, by: Acting) -> Saved:
    """Save it, or 409 with both values."""
    return Saved(version=vehicles.save(session, vehicle_id, body.vehicle, body.version, by))


@router.post("/bench", operation_id="bench", response_model=AxleBench, responses={422: {"model": Refusal}})
def bench(axle: Axle) -> Response:
    """An axle fitted to its readings, with everything the bench draws."""
    return answered(axle_bench(axle))


class OtherSpring(BaseModel):
    """A kind of spring wanted on an axle."""

    axle: Axle
    type: str = Field(max_length=40)


@router.post("/bench/spring", operation_id="other_spring", responses={422: {"model": Refusal}})
def other_spring(body: OtherSpring) -> Axle:
    """The axle on a spring of that kind, carrying the same load at the same height."""
    return respring(body.axle, body.type)


class Pasted(BaseModel):
    """A table of hardpoints for an axle."""

    axle: Axle
    text: str = Field(max_length=100_000)


@router.post("/points/read", operation_id="read_points", responses={422: {"model": Refusal}})
def points_read(body: Pasted) -> Axle:
    """The axle with the points of the table; tape readings then no longer say where they are."""
    given = read_points(body.text, body.axle.linkage)
    linkage = body.axle.linkage.model_validate(
        body.axle.linkage.model_dump() | {"points": body.axle.linkage.model_dump()["points"] | given}
    )
    return Axle.model_validate(body.axle.model_dump() | {"linkage": linkage.model_dump(), "prior": None, "tape": ()})


@router.post("/points/write", operation_id="write_points", response_class=Response)
def points_write(axle: Axle) -> Response:
    """The hardpoints of an axle as CSV."""
    return Response(write_points(axle.linkage), media_type="text/csv")
