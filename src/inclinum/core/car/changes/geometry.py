"""What changes of the linkage have in common: points elsewhere or links longer, and the angles that follow."""

import math
from collections.abc import Callable, Mapping

import numpy as np
from scipy.spatial.transform import Rotation

from inclinum.core.car.vehicle import Axle, RightCame
from inclinum.core.document.errors import DomainError
from inclinum.core.fitting.tape import with_followers
from inclinum.core.kinematics import pair_name, refit
from inclinum.core.kinematics.axles import LeafAxle, SolidAxleLinkage
from inclinum.core.kinematics.kinds import Linkage
from inclinum.core.kinematics.leaf import LeafBody
from inclinum.core.kinematics.mounts import stand_together
from inclinum.core.kinematics.rigid import Array

Done = tuple[Linkage, list[refit.Refit]]
"""A linkage as it is then, and what was done to it, one after the other."""


def titled(names: tuple[str, ...]) -> list[tuple[str, str]]:
    """Points to choose from: name and title. Of a pair the left one stands for both."""
    return [(n, pair_name(n)) for n in names if "right" not in n.split("_")]


def only_one(linkage: Linkage, name: str) -> bool:
    """Whether a point is one by itself, of a rod across a solid axle or a link in its middle: nothing mirrors it."""
    return isinstance(linkage, SolidAxleLinkage) and {"left", "right"}.isdisjoint(name.split("_"))


def parted(linkage: Linkage, outer: str) -> frozenset[str]:
    """What has to be open to take out an arm or a link whole: its own ends, and the foot of what stands on it.

    Args:
        outer: name of its outer point.
    """
    corner = linkage.corner(refit.RADIUS_MM, 0.0, 0.0)
    spring, damper = ({getattr(part, end, "") for end in ("start", "end")} for part in (corner.spring, corner.damper))
    words = {f"point:{name}" for name in refit.held_at(linkage, outer)}
    for name in refit.carried(linkage, outer):
        if name in damper:
            words.add("damper foot")
        elif name not in spring:
            words.add(f"point:{name}")
        elif not stand_together(linkage):
            # The coil of a unit comes away with its foot; one that stands by itself has to be out.
            words.add("spring")
    return frozenset(words)


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
    return _anew(axle, lambda linkage: _moved(linkage, shifts, both_sides=both_sides))


def _moved(linkage: Linkage, shifts: Mapping[str, Array], *, both_sides: bool) -> Done:
    points = linkage.named_points()
    unknown = [n for n in shifts if n not in points]
    if unknown:
        known = ", ".join(points)
        raise DomainError(f"This suspension has no point {unknown[0]}; there are {known}.")
    every = with_followers(dict(shifts), points) if both_sides else dict(shifts)
    if isinstance(linkage, LeafAxle):
        return linkage.with_points({n: points[n] + s for n, s in every.items()}), []
    holds = structural(linkage)
    held = {n: s for n, s in every.items() if n in holds}
    found = [refit.refitted(linkage, held, {})] if held else []
    now = found[0].linkage if found else linkage
    at = now.named_points()
    loose = {n: at[n] + s for n, s in every.items() if n not in holds}
    return now.with_points(loose) if loose else now, found


def longer(axle: Axle, outer: str, by: float, *, both_sides: bool = True) -> dict[str, object]:
    """Fields of an axle with a link or arm longer, mm. Raises as :func:`moved`.

    Args:
        axle: as it is.
        outer: name of its outer point.
        by: mm.
        both_sides: whether the right link of a coupled axle follows.
    """
    return _anew(axle, lambda linkage: _longer(linkage, outer, by, both_sides=both_sides))


def _longer(linkage: Linkage, outer: str, by: float, *, both_sides: bool) -> Done:
    done = [refit.lengthened(linkage, outer, by)]
    other = outer.replace("left", "right")
    if both_sides and other != outer and other in refit.links(linkage):
        done.append(refit.lengthened(done[0].linkage, other, by))
    return done[-1].linkage, done


def _anew(axle: Axle, work: Callable[[Linkage], Done]) -> dict[str, object]:
    """Fields with another linkage; what was known of the old points' places is known of the new ones.

    A right wheel that was measured apart has its own points: the same is done to them, and its angles follow it.

    Args:
        axle: as it was.
        work: a linkage → as it is then, and what was done to it one after the other.
    """
    linkage, done = work(axle.linkage)
    camber, toe, turned = _after(axle.camber_deg, axle.toe_deg, axle.turned_rad, done)
    nose_up = sum(step.nose_up for step in done) if linkage.coupled else 0.0
    fields: dict[str, object] = {
        "linkage": linkage, "came": axle.came or axle.linkage, "turned_rad": turned, "camber_deg": camber,
        "toe_deg": toe, "nose_up_deg": axle.nose_up_deg + math.degrees(nose_up),
    }  # fmt: skip
    if axle.right is None:
        return fields
    right, done = work(axle.right)
    was = axle.right_came
    camber, toe, turned = (
        _after(axle.camber_deg, axle.toe_deg, axle.turned_rad, done)
        if was is None
        else _after(was.camber_deg, was.toe_deg, was.turned_rad, done)
    )
    came = RightCame(came=was.came if was else axle.right, turned_rad=turned, camber_deg=camber, toe_deg=toe)
    return fields | {"right": right, "right_came": came}


def _after(
    camber: float, toe: float, turned: tuple[float, float, float], done: list[refit.Refit]
) -> tuple[float, float, tuple[float, float, float]]:
    turn = Rotation.from_rotvec(turned)
    for step in done:
        turn = Rotation.from_matrix(step.turn) * turn
    about = turn.as_rotvec()
    return (
        camber + math.degrees(sum(step.camber for step in done)),
        toe + math.degrees(sum(step.toe for step in done)),
        (float(about[0]), float(about[1]), float(about[2])),
    )


def shift(forward: float, out: float, up: float) -> Array:
    """A displacement of a left point, mm."""
    return np.array([forward, out, up])
