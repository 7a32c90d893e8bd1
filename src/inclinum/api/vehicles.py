"""Vehicles: the list, setting one up from archetypes, its bench, and its hardpoints as a table."""

import json
from typing import Any

from fastapi import APIRouter, Response
from pydantic import BaseModel, Field
from sqlalchemy.orm import Session

from inclinum.api.answers import CSV, answered
from inclinum.api.computing import Computed
from inclinum.api.database import By, Database
from inclinum.api.jobs import Limit, Offset, Words, download
from inclinum.api.saving import RowId, Saved, Version, conflicts
from inclinum.core.car.archetypes import ARCHETYPES, SIZES, vehicle_of
from inclinum.core.car.archetypes.respring import respring
from inclinum.core.car.bench import AxleBench, axle_bench
from inclinum.core.car.vehicle import Axle, Vehicle
from inclinum.core.document.names import AxleName
from inclinum.core.springs.fitted import SPRINGS
from inclinum.jobfile.points_csv import read_points, write_points
from inclinum.store import vehicles
from inclinum.store.listing import Page
from inclinum.store.vehicles import VehicleSummary

router = APIRouter(tags=["vehicles"])
computed = APIRouter(route_class=Computed)


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


@router.get("/vehicles", operation_id="list_vehicles", response_model=Page[VehicleSummary])
async def list_vehicles(store: Database, limit: Limit = 100, offset: Offset = 0, words: Words = "") -> Response:
    """A page of vehicles, by name."""
    return answered(await store(vehicles.summaries, limit, offset, words))


@router.get("/vehicles/{vehicle_id}/raw", operation_id="raw_vehicle", response_class=Response)
async def raw_vehicle(vehicle_id: RowId, store: Database) -> Response:
    """What is stored of a vehicle on four wheels or two, also when this program cannot read it."""
    found = await store(vehicles.raw, vehicle_id)
    return download(json.dumps(found, ensure_ascii=False, indent=1), f"vehicle-{vehicle_id}.raw.json")


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


@router.post("/vehicles", operation_id="new_vehicle")
async def new_vehicle(body: NewVehicle, store: Database, by: By) -> NewVehicleId:
    """Set a vehicle up from two archetypes; it works at once."""
    return NewVehicleId(id=await store(_set_up, body, by=by))


def _set_up(session: Session, body: NewVehicle, by: str) -> int:
    vehicle = vehicle_of(body.front, body.rear, body.size, body.name, body.plate)
    return vehicles.create(session, vehicle, body.owner, by)


class VehicleView(BaseModel):
    """A vehicle with its version."""

    vehicle: Vehicle
    owner: str
    version: int


@router.get("/vehicles/{vehicle_id}", operation_id="get_vehicle", response_model=VehicleView)
async def get_vehicle(vehicle_id: RowId, store: Database) -> Response:
    """One vehicle."""
    stored = await store(vehicles.load, vehicle_id)
    return answered(VehicleView(vehicle=stored.vehicle, owner=stored.owner, version=stored.version))


class SaveVehicle(BaseModel):
    """A vehicle as its writer wants it, on top of the version that was read."""

    version: Version
    vehicle: Vehicle


@router.put("/vehicles/{vehicle_id}", operation_id="save_vehicle", responses=conflicts(Vehicle))
async def save_vehicle(vehicle_id: RowId, body: SaveVehicle, store: Database, by: By) -> Saved:
    """Save it, or 409 with both values."""
    return Saved(version=await store(vehicles.save, vehicle_id, body.vehicle, body.version, by=by))


@computed.post("/bench", operation_id="bench")
def bench(axle: Axle) -> AxleBench:
    """An axle fitted to its readings, with everything the bench draws."""
    return axle_bench(axle)


class OtherSpring(BaseModel):
    """A kind of spring wanted on an axle."""

    axle: Axle
    type: str = Field(max_length=40)


@computed.post("/bench/spring", operation_id="other_spring")
def other_spring(body: OtherSpring) -> Axle:
    """The axle on a spring of that kind, carrying the same load at the same height."""
    return respring(body.axle, body.type)


class Pasted(BaseModel):
    """A table of hardpoints for an axle."""

    axle: Axle
    text: str = Field(max_length=100_000)


@computed.post("/points/read", operation_id="read_points")
def points_read(body: Pasted) -> Axle:
    """The axle with the points of the table; tape readings then no longer say where they are."""
    given = read_points(body.text, body.axle.linkage)
    linkage = body.axle.linkage.model_validate(
        body.axle.linkage.model_dump() | {"points": body.axle.linkage.model_dump()["points"] | given}
    )
    return Axle.model_validate(body.axle.model_dump() | {"linkage": linkage.model_dump(), "prior": None, "tape": ()})


@computed.post("/points/write", operation_id="write_points", response_model=None, responses=CSV)
def points_write(axle: Axle) -> str:
    """The hardpoints of an axle as CSV."""
    return write_points(axle.linkage)


router.include_router(computed)
