"""Modifications, one a module. A change joins the product by being listed in :data:`AnyChange`."""

from typing import Annotated, get_args

from pydantic import Field

from inclinum.core import plan
from inclinum.core.car.changes.adjuster_fitted import AdjusterFitted
from inclinum.core.car.changes.air_height import AirHeight
from inclinum.core.car.changes.air_springs import AirSprings
from inclinum.core.car.changes.anti_roll_links import AntiRollLinks
from inclinum.core.car.changes.arm_length import ArmLength
from inclinum.core.car.changes.base import Change
from inclinum.core.car.changes.block import Block
from inclinum.core.car.changes.bracket_moved import BracketMoved
from inclinum.core.car.changes.bump_stop import BumpStopSwap
from inclinum.core.car.changes.coil_over import CoilOver
from inclinum.core.car.changes.collar import Collar
from inclinum.core.car.changes.crossover_ring import CrossoverRing
from inclinum.core.car.changes.damper_extension import DamperExtension
from inclinum.core.car.changes.damper_holes import DamperHoles
from inclinum.core.car.changes.damper_swap import DamperSwap
from inclinum.core.car.changes.dual_rate_springs import DualRateSprings
from inclinum.core.car.changes.helper_leaf import HelperLeaf
from inclinum.core.car.changes.joint_moved import JointMoved
from inclinum.core.car.changes.leaf_packs import LeafPacks
from inclinum.core.car.changes.leaves_changed import LeavesChanged
from inclinum.core.car.changes.limit_strap import LimitStrap
from inclinum.core.car.changes.load import Load
from inclinum.core.car.changes.longer_studs import LongerStuds
from inclinum.core.car.changes.mount_spacer import MountSpacer
from inclinum.core.car.changes.over_axle import OverAxle
from inclinum.core.car.changes.progressive_spring import ProgressiveSpring
from inclinum.core.car.changes.prop_shaft import PropShaftSet
from inclinum.core.car.changes.re_arched import ReArched
from inclinum.core.car.changes.seat_spacer import SeatSpacer
from inclinum.core.car.changes.shackle import Shackle
from inclinum.core.car.changes.spring_swap import SpringSwap
from inclinum.core.car.changes.stated import Stated
from inclinum.core.car.changes.stated_springs import StatedSprings
from inclinum.core.car.changes.stop_raised import StopRaised
from inclinum.core.car.changes.stop_trimmed import StopTrimmed
from inclinum.core.car.changes.strut_top_spacer import StrutTopSpacer
from inclinum.core.car.changes.subframe import SubframeLowered
from inclinum.core.car.changes.table_springs import TableSprings
from inclinum.core.car.changes.top_plate import TopPlate
from inclinum.core.car.changes.torsion_adjuster import TorsionAdjuster
from inclinum.core.car.changes.torsion_bars import TorsionBars
from inclinum.core.car.changes.torsion_reindex import TorsionReindex
from inclinum.core.car.changes.tyres import Tyres
from inclinum.core.car.changes.wedge import Wedge
from inclinum.core.car.changes.wheel_offset import WheelOffset
from inclinum.core.car.vehicle import Vehicle
from inclinum.core.document.names import AxleName
from inclinum.core.plan import Planned, apply_all, unused_id

AnyChange = Annotated[
    SpringSwap
    | SeatSpacer
    | ProgressiveSpring
    | DualRateSprings
    | TableSprings
    | CoilOver
    | Collar
    | CrossoverRing
    | StrutTopSpacer
    | MountSpacer
    | TopPlate
    | LongerStuds
    | DamperSwap
    | DamperExtension
    | DamperHoles
    | BumpStopSwap
    | StopTrimmed
    | StopRaised
    | LimitStrap
    | LeafPacks
    | LeavesChanged
    | ReArched
    | HelperLeaf
    | Block
    | Shackle
    | OverAxle
    | Wedge
    | TorsionBars
    | TorsionReindex
    | TorsionAdjuster
    | AirSprings
    | AirHeight
    | ArmLength
    | BracketMoved
    | JointMoved
    | SubframeLowered
    | AdjusterFitted
    | AntiRollLinks
    | PropShaftSet
    | Tyres
    | WheelOffset
    | Load
    | StatedSprings
    | Stated,
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
    "AdjusterFitted",
    "AirHeight",
    "AirSprings",
    "AntiRollLinks",
    "AnyChange",
    "ArmLength",
    "Block",
    "BracketMoved",
    "BumpStopSwap",
    "Change",
    "CoilOver",
    "Collar",
    "CrossoverRing",
    "DamperExtension",
    "DamperHoles",
    "DamperSwap",
    "DualRateSprings",
    "HelperLeaf",
    "JointMoved",
    "LeafPacks",
    "LeavesChanged",
    "LimitStrap",
    "Load",
    "LongerStuds",
    "MountSpacer",
    "OverAxle",
    "PlannedChange",
    "ProgressiveSpring",
    "PropShaftSet",
    "ReArched",
    "SeatSpacer",
    "Shackle",
    "SpringSwap",
    "Stated",
    "StatedSprings",
    "StopRaised",
    "StopTrimmed",
    "StrutTopSpacer",
    "SubframeLowered",
    "TableSprings",
    "TopPlate",
    "TorsionAdjuster",
    "TorsionBars",
    "TorsionReindex",
    "Tyres",
    "Wedge",
    "WheelOffset",
    "apply_all",
    "begin",
    "unused_id",
]
