"""What changes of the linkage have in common: points elsewhere or links longer, and the angles that follow."""

import math
from collections.abc import Mapping

import numpy as np
from scipy.spatial.transform import Rotation

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
    held = {n: s for n, s in every.items() if n in holds}
    found = refit.refitted(axle.linkage, held, {}) if held else None
    loose = {n: s for n, s in every.items() if n not in holds}
    if not loose:
        return _anew(axle, axle.linkage if found is None else found.linkage, *([found] if found else []))
    linkage = axle.linkage if found is None else found.linkage
    at = linkage.named_points()
    linkage = linkage.with_points({n: at[n] + s for n, s in loose.items()})
    return _anew(axle, linkage, *([found] if found else []))


def longer(axle: Axle, outer: str, by: float, *, both_sides: bool = True) -> dict[str, object]:
    """Fields of an axle with a link or arm longer, mm. Raises as :func:`moved`.

    Args:
        axle: as it is.
        outer: name of its outer point.
        by: mm.
        both_sides: whether the right link of a coupled axle follows.
    """
    done = [refit.lengthened(axle.linkage, outer, by)]
    other = outer.replace("left", "right")
    if both_sides and other != outer and other in refit.links(axle.linkage):
        done.append(refit.lengthened(done[0].linkage, other, by))
    return _anew(axle, done[-1].linkage, *done)


def _anew(axle: Axle, linkage: Linkage, *done: refit.Refit) -> dict[str, object]:
    """Fields with another linkage; what was known of the old points' places is known of the new ones.

    A right wheel that differed from the left one has its own points: it takes a change of its own.

    Args:
        axle: as it was.
        linkage: as it is.
        done: what was done to it, one after the other.
    """
    if axle.right is not None:
        raise DomainError(
            "The right wheel's points were measured apart from the left one's, and a change of brackets or arms is "
            "worked out for alike sides only. Make both sides alike on the vehicle's bench first."
        )
    turn = Rotation.from_rotvec(axle.turned_rad)
    for step in done:
        turn = Rotation.from_matrix(step.turn) * turn
    nose_up = sum(step.nose_up for step in done) if linkage.coupled else 0.0
    return {
        "linkage": linkage,
        "came": axle.came or axle.linkage,
        "turned_rad": tuple(turn.as_rotvec().tolist()),
        "camber_deg": axle.camber_deg + math.degrees(sum(step.camber for step in done)),
        "toe_deg": axle.toe_deg + math.degrees(sum(step.toe for step in done)),
        "nose_up_deg": axle.nose_up_deg + math.degrees(nose_up),
    }


def shift(forward: float, out: float, up: float) -> Array:
    """A displacement of a left point, mm."""
    return np.array([forward, out, up])
