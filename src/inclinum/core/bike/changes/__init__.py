"""Changes of two-wheelers, one a module. A change joins the product by being listed here."""

from typing import Annotated, get_args

from pydantic import Field

from inclinum.core.bike.bike import Bike
from inclinum.core.bike.changes.base import BikeChange
from inclinum.core.bike.changes.clevis import ClevisOut
from inclinum.core.bike.changes.fork_oil import ForkOil
from inclinum.core.bike.changes.fork_raise import ForkRaise
from inclinum.core.bike.changes.fork_spacer import ForkSpacer
from inclinum.core.bike.changes.fork_springs import ForkSprings
from inclinum.core.bike.changes.fork_travel import ForkTravel
from inclinum.core.bike.changes.rear_damper import RearDamperSwap
from inclinum.core.bike.changes.rear_link import RearLink
from inclinum.core.bike.changes.rear_preload import RearPreload
from inclinum.core.bike.changes.rear_spring import RearSpringSwap
from inclinum.core.bike.changes.seat_foam import SeatFoam
from inclinum.core.bike.changes.side_stand import StandLeg
from inclinum.core.bike.changes.tyres import Tyres
from inclinum.core.document import Document

AnyBikeChange = Annotated[
    RearLink
    | RearSpringSwap
    | RearPreload
    | RearDamperSwap
    | ClevisOut
    | ForkRaise
    | ForkSprings
    | ForkSpacer
    | ForkOil
    | ForkTravel
    | Tyres
    | StandLeg
    | SeatFoam,
    Field(discriminator="type"),
]
BIKE_CHANGES: tuple[type[BikeChange], ...] = get_args(get_args(AnyBikeChange)[0])


class PlannedBikeChange(Document):
    """A change on the stack, which can be switched off to see what it does."""

    id: str = Field(min_length=1, max_length=40)
    on: bool = True
    change: AnyBikeChange


def apply_all(bike: Bike, changes: tuple[PlannedBikeChange, ...]) -> Bike:
    """The machine with every change that is on, in order. Raises ValueError where one cannot be made."""
    for planned in changes:
        if planned.on:
            bike = planned.change.apply(bike)
    return bike


def at_their_place(bike: Bike, changes: tuple[PlannedBikeChange, ...]) -> tuple[tuple[PlannedBikeChange, Bike], ...]:
    """Every change that is on with the machine it meets: as those before it left it. Raises as ``apply_all``."""
    found = []
    for planned in changes:
        if planned.on:
            found.append((planned, bike))
            bike = planned.change.apply(bike)
    return tuple(found)


def begin(kind: str, bike: Bike, stack: tuple[PlannedBikeChange, ...]) -> PlannedBikeChange:
    """A new change of a kind, with a free id, as it is put on the stack.

    Raises:
        ValueError: no such kind, or the machine cannot take it.
    """
    found = next((k for k in BIKE_CHANGES if k.model_fields["type"].default == kind), None)
    if found is None:
        raise ValueError(f"There is no change “{kind}”.")
    return PlannedBikeChange.model_validate({"id": unused_id(stack), "change": found.start(apply_all(bike, stack))})


def unused_id(stack: tuple[PlannedBikeChange, ...]) -> str:
    """An id no change of the stack has."""
    taken = {p.id for p in stack}
    return next(f"c{n}" for n in range(1, len(stack) + 2) if f"c{n}" not in taken)


__all__ = [
    "BIKE_CHANGES",
    "AnyBikeChange",
    "BikeChange",
    "ClevisOut",
    "ForkOil",
    "ForkRaise",
    "ForkSpacer",
    "ForkSprings",
    "ForkTravel",
    "PlannedBikeChange",
    "RearDamperSwap",
    "RearLink",
    "RearPreload",
    "RearSpringSwap",
    "SeatFoam",
    "StandLeg",
    "Tyres",
    "apply_all",
    "at_their_place",
    "begin",
    "unused_id",
]
