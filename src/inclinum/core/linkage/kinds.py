"""Suspension kinds as data: the points a kind has, and the constraints they make.

Points are those of the LEFT wheel at travel 0: x from the wheel centre, y from the centre line, z from the
ground. A new kind is one model here, with its ``corner`` method.
"""

from collections.abc import Callable
from functools import lru_cache
from typing import Annotated, Literal

import numpy as np
from pydantic import Field, model_validator

from inclinum.core.document import Document
from inclinum.core.linkage.body import Body, Link, revolute_joint, strut_joint
from inclinum.core.linkage.corner import Arm, Corner, Spanned

Coordinate = Annotated[float, Field(ge=-6000, le=6000)]
Point = Annotated[
    tuple[Coordinate, Coordinate, Coordinate],
    Field(description="x forward from the wheel centre, y left from the centre line, z up from the ground, mm"),
]


class Points(Document):
    """Named points of one left corner."""

    wheel_centre: Point

    @model_validator(mode="after")
    def _left_and_distinct(self) -> "Points":
        if self.wheel_centre[1] <= 0:
            raise ValueError("wheel_centre is on the wrong side: give the left wheel, y positive")
        seen: dict[tuple[float, float, float], str] = {}
        for name in type(self).model_fields:
            at = getattr(self, name)
            twin = seen.get(at)
            if twin and not ({name, twin} <= _MAY_COINCIDE):
                raise ValueError(f"{name} and {twin} are the same point")
            seen[at] = name
        return self

    def arrays(self) -> dict[str, np.ndarray]:
        """Name → (3,) array, mm."""
        return {name: np.array(getattr(self, name), dtype=float) for name in type(self).model_fields}


_MAY_COINCIDE = {"spring_body", "damper_body", "spring_arm", "damper_arm"}


class StrutPoints(Points):
    """Points of a strut corner: the damper body is clamped to the upright, its rod ends in the top mount."""

    lower_front: Point
    lower_rear: Point
    lower_outer: Point
    strut_top: Point
    strut_lower: Point
    tie_inner: Point
    tie_outer: Point


class SemiTrailingPoints(Points):
    """Points of a semi-trailing arm corner: arm and hub are one body on a slanted pivot line."""

    pivot_inner: Point
    pivot_outer: Point
    spring_body: Point
    spring_arm: Point
    damper_body: Point
    damper_arm: Point


class StrutLinkage(Document):
    """Lower arm, strut and tie rod; steering axis from the lower joint to the strut top."""

    kind: Literal["macpherson"] = "macpherson"
    points: StrutPoints

    def corner(self, tyre_radius: float, camber: float, toe: float) -> Corner:
        """The corner at baseline; angles in rad."""
        p = self.points.arrays()
        constraints = [
            Link("lower_outer", "lower_front"),
            Link("lower_outer", "lower_rear"),
            *strut_joint("strut_lower", "strut_top", p["strut_top"] - p["strut_lower"]),
            Link("tie_outer", "tie_inner"),
        ]
        return Corner(
            body=Body(p, "wheel_centre", tuple(constraints)),
            tyre_radius=tyre_radius,
            camber=camber,
            toe=toe,
            spring=Spanned("strut_top", "strut_lower"),
            damper=Spanned("strut_top", "strut_lower"),
            steering_axis=("lower_outer", "strut_top"),
            upper_on_chassis=True,
            arms=(Arm("lower arm", "lower_rear", "lower_front", "lower_outer"),),
        )


class SemiTrailingLinkage(Document):
    """One arm carrying the hub, turning about a line that is neither square nor parallel to the vehicle."""

    kind: Literal["semi_trailing_arm"] = "semi_trailing_arm"
    points: SemiTrailingPoints

    def corner(self, tyre_radius: float, camber: float, toe: float) -> Corner:
        """The corner at baseline; angles in rad."""
        p = self.points.arrays()
        joint = revolute_joint("pivot_inner", "pivot_outer", p["pivot_outer"] - p["pivot_inner"])
        return Corner(
            body=Body(p, "wheel_centre", tuple(joint)),
            tyre_radius=tyre_radius,
            camber=camber,
            toe=toe,
            spring=Spanned("spring_body", "spring_arm"),
            damper=Spanned("damper_body", "damper_arm"),
            arms=(Arm("trailing arm", "pivot_inner", "pivot_outer", "wheel_centre"),),
        )


Linkage = Annotated[StrutLinkage | SemiTrailingLinkage, Field(discriminator="kind")]

POINT_NAMES: dict[str, str] = {
    "wheel_centre": "wheel centre",
    "lower_front": "lower arm, front pivot",
    "lower_rear": "lower arm, rear pivot",
    "lower_outer": "lower ball joint",
    "strut_top": "strut top mount",
    "strut_lower": "strut foot",
    "tie_inner": "tie rod, inner joint",
    "tie_outer": "tie rod, outer joint",
    "pivot_inner": "arm pivot, inner",
    "pivot_outer": "arm pivot, outer",
    "spring_body": "spring seat on the body",
    "spring_arm": "spring seat on the arm",
    "damper_body": "damper top",
    "damper_arm": "damper foot",
}
"""What a person calls each point."""


@lru_cache(maxsize=256)
def corner_of(linkage: StrutLinkage | SemiTrailingLinkage, tyre_radius: float, camber: float, toe: float) -> Corner:
    """Corner of a linkage document, remembered: documents are immutable and hashable."""
    build: Callable[[float, float, float], Corner] = linkage.corner
    return build(tyre_radius, camber, toe)
