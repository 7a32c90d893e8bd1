"""Bodies and joints → pose over travel, for every suspension kind, batched."""

from functools import lru_cache
from typing import get_args

from inclinum.core.kinematics.axles import AnyLinkage, LeafAxle
from inclinum.core.kinematics.body import Body, Poses, TravelRange
from inclinum.core.kinematics.constraints import NEUTRAL, Adjustment, Link, PlaneOnBody, PlaneOnChassis
from inclinum.core.kinematics.corner import (
    ArmAngle,
    AxleMotion,
    Corner,
    Motion,
    PointDistance,
    PointHeight,
    axle_motion,
)
from inclinum.core.kinematics.kinds import Linkage, SemiTrailingLinkage, StrutLinkage
from inclinum.core.kinematics.points import pair_name, point_name

LINKAGES: dict[str, type[Linkage]] = {k.model_fields["kind"].default: k for k in get_args(get_args(AnyLinkage)[0])}
"""Every suspension kind by its name in a job file."""


@lru_cache(maxsize=256)
def _remembered(linkage: Linkage, tyre_radius: float, camber: float, toe: float) -> Corner:
    return linkage.corner(tyre_radius, camber, toe)


def corner_of(linkage: Linkage, tyre_radius: float, camber: float, toe: float) -> Corner:
    """Corner of a linkage document, remembered: documents are immutable and hashable."""
    return _remembered(linkage, tyre_radius, camber, toe)  # pyright: ignore[reportArgumentType] (hashable)


__all__ = [
    "LINKAGES",
    "NEUTRAL",
    "Adjustment",
    "AnyLinkage",
    "ArmAngle",
    "AxleMotion",
    "Body",
    "Corner",
    "LeafAxle",
    "Link",
    "Linkage",
    "Motion",
    "PlaneOnBody",
    "PlaneOnChassis",
    "PointDistance",
    "PointHeight",
    "Poses",
    "SemiTrailingLinkage",
    "StrutLinkage",
    "TravelRange",
    "axle_motion",
    "corner_of",
    "pair_name",
    "point_name",
]
