"""What changes of the linkage have in common: points elsewhere or links longer, and the angles that follow."""

import math
from collections.abc import Mapping

import numpy as np

from inclinum.core.car.vehicle import Axle
from inclinum.core.document.errors import DomainError
from inclinum.core.fitting.tape import with_followers
from inclinum.core.kinematics import point_name, refit
from inclinum.core.kinematics.axles import LeafAxle
from inclinum.core.kinematics.kinds import Linkage
from inclinum.core.kinematics.leaf import LeafBody
from inclinum.core.kinematics.rigid import Array


def titled(names: tuple[str, ...]) -> list[tuple[str, str]]:
    """Points to choose from: name and title. Of a pair the left one stands for both."""
    return [(n, point_name(n)) for n in names if "right" not in n.split("_")]


def structural(linkage: Linkage) -> set[str]:
    """Points that hold the wheel, whose place decides where it stands; springs and dampers only stand on theirs."""
    corner = linkage.corner(refit.RADIUS_MM, 0.0, 0.0)
    if isinstance(corner.body, LeafBody):
        return set()
    held = {n for c in corner.body.constraints for n in vars(c).values() if isinstance(n, str)}
    return held | set(refit.frame_points(linkage)) - _stands(linkage)


def _stands(linkage: Linkage) -> set[str]:
    corner = linkage.corner(refit.RADIUS_MM, 0.0, 0.0)
    ends = [getattr(part, end, "") for part in (corner.spring, corner.damper) for end in ("start", "end")]
    return {n for n in ends if n}


def moved(axle: Axle, shifts: Mapping[str, Array], *, both_sides: bool = True) -> dict[str, object]:
    """Fields of an axle with some hardpoints elsewhere.

    Args:
        axle: as it is.
        shifts: name of a point → displacement, (3,), mm, of the left wheel or the left half of an axle.
        both_sides: whether the right half of a coupled axle follows as a mirror image.

    Raises:
        DomainError: there is no such point, or the wheel does not reach its reference height so.
    """
    points = axle.linkage.named_points()
    unknown = [n for n in shifts if n not in points]
    if unknown:
        known = ", ".join(points)
        raise DomainError(f"This suspension has no point {unknown[0]}; there are {known}.")
    every = with_followers(dict(shifts), points) if both_sides else dict(shifts)
    if isinstance(axle.linkage, LeafAxle):
        return _anew(axle, axle.linkage.with_points({n: points[n] + s for n, s in every.items()}))
    holds = structural(axle.linkage)
    linkage: Linkage = axle.linkage
    camber = toe = nose_up = 0.0
    if any(n in holds for n in every):
        found = refit.refitted(linkage, {n: s for n, s in every.items() if n in holds}, {})
        linkage, camber, toe, nose_up = found.linkage, found.camber, found.toe, found.nose_up
    loose = {n: s for n, s in every.items() if n not in holds}
    if loose:
        at = linkage.named_points()
        linkage = linkage.with_points({n: at[n] + s for n, s in loose.items()})
    return _anew(axle, linkage, camber, toe, nose_up)


def longer(axle: Axle, outer: str, by: float, *, both_sides: bool = True) -> dict[str, object]:
    """Fields of an axle with a link or arm longer, mm. Raises as :func:`moved`.

    Args:
        axle: as it is.
        outer: name of its outer point.
        by: mm.
        both_sides: whether the right link of a coupled axle follows.
    """
    found = refit.lengthened(axle.linkage, outer, by)
    camber, toe, nose_up, linkage = found.camber, found.toe, found.nose_up, found.linkage
    other = outer.replace("left", "right")
    if both_sides and other != outer and other in refit.links(linkage):
        second = refit.lengthened(linkage, other, by)
        camber, toe, linkage = camber + second.camber, toe + second.toe, second.linkage
        nose_up += second.nose_up
    return _anew(axle, linkage, camber, toe, nose_up)


def _anew(
    axle: Axle, linkage: Linkage, camber: float = 0.0, toe: float = 0.0, nose_up: float = 0.0
) -> dict[str, object]:
    """Fields with another linkage; what was known of the old points' places is known of the new ones.

    A right wheel that differed from the left one has its own points: it takes a change of its own.
    """
    if axle.right is not None:
        raise DomainError(
            "The right wheel's points were measured apart from the left one's, and a change of brackets or arms is "
            "worked out for alike sides only. Make both sides alike on the vehicle's bench first."
        )
    return {
        "linkage": linkage,
        "camber_deg": axle.camber_deg + math.degrees(camber),
        "toe_deg": axle.toe_deg + math.degrees(toe),
        "nose_up_deg": axle.nose_up_deg + (math.degrees(nose_up) if linkage.coupled else 0.0),
    }


def shift(forward: float, out: float, up: float) -> Array:
    """A displacement of a left point, mm."""
    return np.array([forward, out, up])
