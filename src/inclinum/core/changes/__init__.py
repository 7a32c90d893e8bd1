"""Modifications, one a module. A change joins the product by being listed in :data:`AnyChange`."""

from typing import Annotated, get_args

from pydantic import Field

from inclinum.core.changes.base import Change
from inclinum.core.changes.bump_stop import BumpStopSwap
from inclinum.core.changes.longer_studs import LongerStuds
from inclinum.core.changes.seat_spacer import SeatSpacer
from inclinum.core.changes.spring_swap import SpringSwap
from inclinum.core.changes.strut_top_spacer import StrutTopSpacer
from inclinum.core.document import Document
from inclinum.core.vehicle import AxleName, Vehicle

AnyChange = Annotated[
    SpringSwap | SeatSpacer | StrutTopSpacer | LongerStuds | BumpStopSwap, Field(discriminator="type")
]
CHANGE_TYPES: tuple[type[Change], ...] = get_args(get_args(AnyChange)[0])


class PlannedChange(Document):
    """A change on the stack, which can be switched off to see what it does."""

    id: str = Field(min_length=1, max_length=40)
    on: bool = True
    change: AnyChange


def begin(kind: str, name: AxleName, vehicle: Vehicle, stack: tuple[PlannedChange, ...]) -> PlannedChange:
    """A new change of a kind on an axle, with a free id, as it is put on the stack.

    Raises:
        ValueError: no such kind, or the axle cannot take it.
    """
    found = next((k for k in CHANGE_TYPES if k.model_fields["type"].default == kind), None)
    if found is None:
        raise ValueError(f"There is no change “{kind}”.")
    change = found.start(name, apply_all(vehicle, stack).axle(name))
    return PlannedChange.model_validate({"id": unused_id(stack), "change": change})


def unused_id(stack: tuple[PlannedChange, ...]) -> str:
    """An id no change of the stack has."""
    taken = {p.id for p in stack}
    return next(f"c{n}" for n in range(1, len(stack) + 2) if f"c{n}" not in taken)


def apply_all(vehicle: Vehicle, changes: tuple[PlannedChange, ...]) -> Vehicle:
    """The vehicle with every change that is on, in order."""
    for planned in changes:
        if planned.on:
            vehicle = planned.change.apply(vehicle)
    return vehicle


__all__ = [
    "CHANGE_TYPES",
    "AnyChange",
    "BumpStopSwap",
    "Change",
    "LongerStuds",
    "PlannedChange",
    "SeatSpacer",
    "SpringSwap",
    "StrutTopSpacer",
    "apply_all",
    "begin",
    "unused_id",
]
