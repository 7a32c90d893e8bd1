"""Named hardpoints as documents: x forward from the wheel centre, y left from the centre line, z up from the ground."""

from typing import Annotated, ClassVar

import numpy as np
from pydantic import Field, model_validator

from inclinum.core.document import Document
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import SIDES
from inclinum.core.kinematics.rigid import Array

FARTHEST_MM = 3000
"""No part of a suspension is further than this from its wheel centre in any direction."""
Coordinate = Annotated[float, Field(ge=-FARTHEST_MM, le=FARTHEST_MM)]
Point = Annotated[
    tuple[Coordinate, Coordinate, Coordinate],
    Field(description="x forward from the wheel centre, y left from the centre line, z up from the ground, mm"),
]
PointName = Annotated[str, Field(max_length=60)]


class Points(Document):
    """Named points of one left corner, or of an axle with both its sides, at travel 0."""

    coaxial: ClassVar[frozenset[str]] = frozenset({"spring_body", "damper_body", "spring_arm", "damper_arm"})
    """Points that may lie on each other: a damper inside its spring."""

    @model_validator(mode="after")
    def _left_and_distinct(self) -> "Points":
        named = self.given()
        centre = named.get("wheel_centre") or named.get("wheel_centre_left")
        if centre is not None and centre[1] <= 0:
            raise DomainError("wheel_centre is on the wrong side: give the left wheel, y positive")
        if (right := named.get("wheel_centre_right")) is not None and right[1] >= 0:
            raise DomainError("wheel_centre_right is on the wrong side: y must be negative")
        seen: dict[tuple[float, float, float], str] = {}
        for name, at in named.items():
            twin = seen.get(at)
            if twin and not ({name, twin} <= self.coaxial):
                raise DomainError(f"{name} and {twin} are the same point")
            seen[at] = name
        return self

    def given(self) -> dict[str, tuple[float, float, float]]:
        """Name → coordinates of every point that is there."""
        return {n: at for n in type(self).model_fields if (at := getattr(self, n)) is not None}

    def arrays(self) -> dict[str, Array]:
        """Name → (3,) array, mm."""
        return {name: np.array(at, dtype=float) for name, at in self.given().items()}


POINT_NAMES: dict[str, str] = {
    "wheel_centre": "wheel centre",
    "wheel_centre_left": "left wheel centre",
    "wheel_centre_right": "right wheel centre",
    "lower_front": "lower arm, front pivot",
    "lower_rear": "lower arm, rear pivot",
    "lower_outer": "lower ball joint",
    "upper_front": "upper arm, front pivot",
    "upper_rear": "upper arm, rear pivot",
    "upper_outer": "upper ball joint",
    "strut_top": "strut top mount",
    "strut_lower": "strut foot",
    "tie_inner": "tie rod, inner joint",
    "tie_outer": "tie rod, outer joint",
    "pivot_inner": "arm pivot, inner",
    "pivot_outer": "arm pivot, outer",
    "pivot_front": "arm pivot, front",
    "pivot_rear": "arm pivot, rear",
    "spring_body": "spring seat on the body",
    "spring_arm": "spring seat on the arm",
    "spring_seat": "spring seat on the link",
    "damper_body": "damper top",
    "damper_arm": "damper foot",
    "damper_upright": "damper foot",
    "fixed_eye": "fixed spring eye",
    "shackle_eye": "spring eye at the shackle",
    "shackle_body": "shackle pivot on the frame",
    "seat": "spring seat on the axle",
    "upper_body": "upper link, frame end",
    "upper_axle": "upper link, axle end",
    "lower_body": "lower link, frame end",
    "lower_axle": "lower link, axle end",
    "lateral_rod_body": "lateral rod, frame end",
    "lateral_rod_axle": "lateral rod, axle end",
}
"""What a person calls each point; the others are put together from their words."""

_WORDS = {"body": "frame end", "axle": "axle end", "inner": "inner joint", "outer": "outer joint"}


def pair_name(name: str) -> str:
    """What a person calls a point that is there left and right, where both are meant."""
    return point_name("_".join(word for word in name.split("_") if word not in SIDES))


def link_name(chassis_end: str) -> str:
    """What a person calls a link by the point where it is held on the chassis, whichever side it is on.

    >>> link_name("lateral_rod_body"), link_name("camber_inner")
    ('lateral rod', 'camber link')
    """
    name = point_name(chassis_end).partition(",")[0]
    return name if name.split()[-1] in ("link", "arm", "rod") else f"{name} link"


def point_name(name: str) -> str:
    """What a person calls a point."""
    if name in POINT_NAMES:
        return POINT_NAMES[name]
    side = next((word for word in name.split("_") if word in SIDES), None)
    if side and name != side:
        return f"{pair_name(name)}, {side}"
    head, _, tail = name.rpartition("_")
    return f"{head.replace('_', ' ')}, {_WORDS[tail]}" if head and tail in _WORDS else name.replace("_", " ")
