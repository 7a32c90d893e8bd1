"""Modifications, one a module. A change joins the product by being listed in :data:`AnyChange`."""

from typing import Annotated, get_args

from pydantic import Field

from inclinum.core import plan
from inclinum.core.car.changes.base import Change
from inclinum.core.car.changes.block import Block
from inclinum.core.car.changes.bump_stop import BumpStopSwap
from inclinum.core.car.changes.damper_swap import DamperSwap
from inclinum.core.car.changes.longer_studs import LongerStuds
from inclinum.core.car.changes.seat_spacer import SeatSpacer
from inclinum.core.car.changes.spring_swap import SpringSwap
from inclinum.core.car.changes.strut_top_spacer import StrutTopSpacer
from inclinum.core.car.changes.torsion_reindex import TorsionReindex
from inclinum.core.car.vehicle import Vehicle
from inclinum.core.document.names import AxleName
from inclinum.core.plan import Planned, apply_all, unused_id

AnyChange = Annotated[
    SpringSwap | SeatSpacer | StrutTopSpacer | LongerStuds | BumpStopSwap | Block | TorsionReindex | DamperSwap,
    Field(discriminator="type"),
]
CHANGE_TYPES: tuple[type[Change], ...] = get_args(get_args(AnyChange)[0])


class PlannedChange(Planned[AnyChange]):
    """A change on the stack, which can be switched off to see what it does."""


def begin(kind: str, name: AxleName, vehicle: Vehicle, stack: tuple[PlannedChange, ...]) -> PlannedChange:
    """A new change of a kind on an axle, with a free id, as it is put on the stack.

    Raises:
        ValueError: no such kind, or the axle cannot take it.
    """
    axle = apply_all(vehicle, stack).axle(name)
    return plan.begin(kind, CHANGE_TYPES, PlannedChange, stack, lambda found: found.start(name, axle))


__all__ = [
    "CHANGE_TYPES",
    "AnyChange",
    "Block",
    "BumpStopSwap",
    "Change",
    "DamperSwap",
    "LongerStuds",
    "PlannedChange",
    "SeatSpacer",
    "SpringSwap",
    "StrutTopSpacer",
    "TorsionReindex",
    "apply_all",
    "begin",
    "unused_id",
]
