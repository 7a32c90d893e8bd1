"""Machines of every kind: the list, setting one up, its bench, and its points as a table."""

import json
from typing import Annotated

from fastapi import APIRouter, Request, Response
from pydantic import BaseModel, Discriminator, Field, Tag
from sqlalchemy.orm import Session

from inclinum.api.answers import CSV, answered
from inclinum.api.computing import Computed, computer_of
from inclinum.api.database import By, Database
from inclinum.api.jobs import Limit, Offset, Words, download
from inclinum.api.saving import Chosen, RowId, Saved, Version, conflicts
from inclinum.core.bike.bench import BikeBenchView, bike_bench
from inclinum.core.bike.machine import Bike
from inclinum.core.car.archetypes.respring import respring
from inclinum.core.car.bench import AxleBench, BenchDrawn, axle_bench, bench_drawn
from inclinum.core.car.vehicle import Axle
from inclinum.core.document.errors import DomainError
from inclinum.core.machines import KINDS, AnyMachine, kind_of
from inclinum.jobfile import read_vehicle, write
from inclinum.jobfile.points_csv import table_of, with_table
from inclinum.store import bin, vehicles
from inclinum.store.listing import Page
from inclinum.store.vehicles import VehicleSummary

router = APIRouter(tags=["vehicles"])
computed = APIRouter(route_class=Computed)
MACHINES = tuple(kind.machine for kind in KINDS.values())
Key = Annotated[str, Field(max_length=40)]


@router.get("/vehicles", operation_id="list_vehicles", response_model=Page[VehicleSummary])
async def list_vehicles(store: Database, limit: Limit = 100, offset: Offset = 0, words: Words = "") -> Response:
    """A page of vehicles, by name."""
    return answered(await store(vehicles.summaries, limit, offset, words))


@router.get("/vehicles/{vehicle_id}/raw", operation_id="raw_vehicle", response_class=Response)
async def raw_vehicle(vehicle_id: RowId, store: Database) -> Response:
    """What is stored of a vehicle, also when this program cannot read it."""
    found = await store(vehicles.raw, vehicle_id)
    return download(json.dumps(found, ensure_ascii=False, indent=1), f"vehicle-{vehicle_id}.raw.json")


class NewVehicle(BaseModel):
    """A vehicle to set up."""

    kind: Key
    name: str = Field(min_length=1, max_length=120)
    plate: str = Field(default="", max_length=30)
    owner: str = Field(min_length=1, max_length=120)
    chosen: dict[Key, Key] = Field(max_length=10, description="the answer to each choice of its kind")


class NewVehicleId(BaseModel):
    """Where it is."""

    id: int


@router.post("/vehicles", operation_id="new_vehicle")
async def new_vehicle(body: NewVehicle, store: Database, by: By) -> NewVehicleId:
    """Set a vehicle up from archetypes; it works at once."""
    return NewVehicleId(id=await store(_set_up, body, by=by))


def _set_up(session: Session, body: NewVehicle, by: str) -> int:
    kind = KINDS.get(body.kind)
    if kind is None:
        raise DomainError(f"There is no kind of machine “{body.kind}”; there are {', '.join(KINDS)}.")
    return vehicles.create(session, kind.made(body.chosen, body.name, body.plate), body.owner, by)


class VehicleView(BaseModel):
    """A vehicle with its version."""

    kind: str
    vehicle: AnyMachine
    owner: str
    version: int


@router.get("/vehicles/{vehicle_id}", operation_id="get_vehicle", response_model=VehicleView)
async def get_vehicle(vehicle_id: RowId, store: Database) -> Response:
    """One vehicle."""
    stored = await store(vehicles.load, vehicle_id)
    kind = kind_of(stored.vehicle).name
    return answered(
        VehicleView.model_construct(kind=kind, vehicle=stored.vehicle, owner=stored.owner, version=stored.version)
    )


class SaveVehicle(BaseModel):
    """A vehicle as its writer wants it, on top of the version that was read."""

    version: Version
    vehicle: AnyMachine
    base: AnyMachine | None = Field(default=None, description="as it was read; others' entries since then are kept")
    chosen: Chosen = Field(default={}, description="of entries that both changed, whose holds, by path")


class SavedVehicle(Saved):
    """The version it now has, and the vehicle where others' entries came in."""

    vehicle: AnyMachine | None = None


@router.put("/vehicles/{vehicle_id}", operation_id="save_vehicle", responses=conflicts(*MACHINES))
async def save_vehicle(vehicle_id: RowId, body: SaveVehicle, store: Database, by: By) -> SavedVehicle:
    """Save it, or 409 with what both changed."""
    written = await store(
        vehicles.save, vehicle_id, body.vehicle, body.version, by=by,
        base=body.base, chosen=body.chosen,
    )  # fmt: skip
    return SavedVehicle(version=written.version, vehicle=written.vehicle)


@router.delete("/vehicles/{vehicle_id}", operation_id="delete_vehicle", status_code=204)
async def delete_vehicle(vehicle_id: RowId, store: Database, by: By) -> None:
    """Put a vehicle that no job is on into the bin, from which it can be put back for thirty days."""
    await store(bin.delete_vehicle, vehicle_id, by=by)


@router.get("/vehicles/{vehicle_id}/file", operation_id="export_vehicle", response_class=Response)
async def export_vehicle(vehicle_id: RowId, store: Database) -> Response:
    """The vehicle as a file."""
    return download(await store(_export, vehicle_id), f"vehicle-{vehicle_id}.vehicle.json")


def _export(session: Session, vehicle_id: int) -> str:
    return write(vehicles.export(session, vehicle_id))


@router.post(
    "/vehicles/import",
    operation_id="import_vehicle",
    openapi_extra={"requestBody": {"content": {"application/json": {"schema": {"type": "object"}}}, "required": True}},
)
async def import_vehicle(request: Request, store: Database, by: By) -> NewVehicleId:
    """Bring a vehicle's file in. Nothing is kept of a bad one."""
    file = await computer_of(request).run(request, read_vehicle, await request.body())
    return NewVehicleId(id=await store(vehicles.bring_in, file, by=by))


def _is_axle(part: object) -> str:
    return "an axle" if isinstance(part, Axle) or (isinstance(part, dict) and "linkage" in part) else "a machine"


OnBench = Annotated[
    Annotated[Axle, Tag("an axle")] | Annotated[Bike, Tag("a machine")], Discriminator(_is_axle)
]  # fmt: skip
"""What lies on the bench at once: one axle of four wheels, or a two-wheeler whole."""


@computed.post("/bench", operation_id="bench")
def bench(part: OnBench) -> AxleBench | BikeBenchView:
    """An axle or a two-wheeler fitted to its readings, with everything the bench draws."""
    return axle_bench(part) if isinstance(part, Axle) else bike_bench(part)


@computed.post("/bench/drawn", operation_id="bench_drawn")
def drawn_on_bench(axle: Axle) -> BenchDrawn:
    """The parts of an axle to scale, for every position the bench tells of it."""
    return bench_drawn(axle)


class OtherSpring(BaseModel):
    """A kind of spring wanted on an axle."""

    axle: Axle
    type: Key


@computed.post("/bench/spring", operation_id="other_spring")
def other_spring(body: OtherSpring) -> Axle:
    """The axle on a spring of that kind, carrying the same load at the same height."""
    return respring(body.axle, body.type)


class Pasted(BaseModel):
    """A table of points."""

    part: OnBench
    text: str = Field(max_length=100_000)


@computed.post("/points/read", operation_id="read_points")
def points_read(body: Pasted) -> Axle | Bike:
    """The same with the points of the table; tape readings then no longer say where they are."""
    return with_table(body.part, body.text)


@computed.post("/points/write", operation_id="write_points", response_model=None, responses=CSV)
def points_write(part: OnBench) -> str:
    """The points of what lies on the bench, fitted to its readings, as CSV."""
    return table_of(part)


router.include_router(computed)
