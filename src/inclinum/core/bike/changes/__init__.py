"""Changes of two-wheelers, one a module. A change joins the product by being listed here."""

from typing import Annotated, get_args

from pydantic import Field

from inclinum.core import plan
from inclinum.core.bike.changes.base import BikeChange
from inclinum.core.bike.changes.clevis import ClevisOut
from inclinum.core.bike.changes.fork_oil import ForkOil
from inclinum.core.bike.changes.fork_raise import ForkRaise
from inclinum.core.bike.changes.fork_spacer import ForkSpacer
from inclinum.core.bike.changes.fork_springs import ForkSprings
from inclinum.core.bike.changes.fork_travel import ForkTravel
from inclinum.core.bike.changes.part_moved import PartMoved
from inclinum.core.bike.changes.rear_damper import RearDamperSwap
from inclinum.core.bike.changes.rear_eye import RearEye
from inclinum.core.bike.changes.rear_link import RearLink
from inclinum.core.bike.changes.rear_preload import RearPreload
from inclinum.core.bike.changes.rear_rocker import RearRocker
from inclinum.core.bike.changes.rear_spring import RearSpringSwap
from inclinum.core.bike.changes.rear_unit import RearUnit
from inclinum.core.bike.changes.seat_foam import SeatFoam
from inclinum.core.bike.changes.side_stand import StandLeg
from inclinum.core.bike.changes.stated import BikeStated
from inclinum.core.bike.changes.tyres import Tyres
from inclinum.core.bike.machine import Bike, End
from inclinum.core.plan import Planned, apply_all, at_their_place, unused_id

AnyBikeChange = Annotated[
    RearLink
    | RearRocker
    | RearSpringSwap
    | RearPreload
    | RearDamperSwap
    | RearUnit
    | ClevisOut
    | RearEye
    | ForkRaise
    | ForkSprings
    | ForkSpacer
    | ForkOil
    | ForkTravel
    | Tyres
    | StandLeg
    | SeatFoam
    | PartMoved
    | BikeStated,
    Field(discriminator="type"),
]
BIKE_CHANGES: tuple[type[BikeChange], ...] = get_args(get_args(AnyBikeChange)[0])


class PlannedBikeChange(Planned[AnyBikeChange]):
    """A change on the stack, which can be switched off to see what it does."""


def begin(kind: str, bike: Bike, stack: tuple[PlannedBikeChange, ...], end: End | None = None) -> PlannedBikeChange:
    """A new change of a kind, with a free id, as it is put on the stack; at an end, where it goes at either.

    Raises:
        ValueError: no such kind, or the machine cannot take it.
    """
    now = apply_all(bike, stack)
    return plan.begin(kind, BIKE_CHANGES, PlannedBikeChange, stack, lambda found: _at(found.start(now), end))


def _at(change: BikeChange, end: End | None) -> BikeChange:
    return change if end is None or "axle" not in type(change).model_fields else change.model_copy(update={"axle": end})


__all__ = [
    "BIKE_CHANGES",
    "AnyBikeChange",
    "BikeChange",
    "BikeStated",
    "ClevisOut",
    "ForkOil",
    "ForkRaise",
    "ForkSpacer",
    "ForkSprings",
    "ForkTravel",
    "PartMoved",
    "PlannedBikeChange",
    "RearDamperSwap",
    "RearEye",
    "RearLink",
    "RearPreload",
    "RearRocker",
    "RearSpringSwap",
    "RearUnit",
    "SeatFoam",
    "StandLeg",
    "Tyres",
    "apply_all",
    "at_their_place",
    "begin",
    "unused_id",
]
