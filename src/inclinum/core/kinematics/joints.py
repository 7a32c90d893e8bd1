"""Angles in the joints of links and arms, and the travel they allow."""

from collections.abc import Mapping
from dataclasses import dataclass, replace

import numpy as np

from inclinum.core.document.errors import DomainError
from inclinum.core.kinematics.body import Body, Poses, TravelRange
from inclinum.core.kinematics.constraints import Link
from inclinum.core.kinematics.corner import Corner
from inclinum.core.kinematics.rigid import Array, dot, unit

POSITIONS = 161


@dataclass(frozen=True)
class Neutral:
    """Where joints have not turned yet: the linkage as it was made, and how its upright has turned since.

    Args:
        points: every hardpoint then, mm.
        turn: of the upright from there to where the hardpoints hold now, (3, 3).
    """

    points: Mapping[str, Array]
    turn: Array


def joint_angles(corner: Corner, poses: Poses, neutral: Neutral | None = None) -> dict[str, Array]:
    """How far every joint of a link has turned from the reference height, by the point it sits at, rad.

    An outer joint is told against the body that carries it, an inner one against the chassis. Where several links meet
    in one joint, the one that has turned most.

    Args:
        corner: the suspension.
        poses: of its body.
        neutral: where its joints have not turned, if that is not where its hardpoints hold.
    """
    if not isinstance(corner.body, Body):
        return {}
    points, turned = corner.body.points, {}
    came, turn = (points, np.eye(3)) if neutral is None else (neutral.points, neutral.turn)
    for link in (c for c in corner.body.constraints if isinstance(c, Link)):
        was = unit(came[link.on_body] - came[link.on_chassis])
        now = unit(poses.point(points[link.on_body]) - points[link.on_chassis])
        carried = poses.direction(turn @ was)
        for name, against in ((link.on_chassis, was), (link.on_body, carried)):
            angle = np.arccos(np.clip(dot(now, np.broadcast_to(against, now.shape)), -1.0, 1.0))
            turned[name] = np.maximum(turned.get(name, 0.0), angle)
    return turned


def limited_range(
    corner: Corner, within: TravelRange, limits: Mapping[str, float], neutral: Neutral | None = None
) -> TravelRange:
    """The reach, ended where a joint is at its limit.

    Args:
        corner: the suspension.
        within: what the linkage alone allows, mm.
        limits: greatest turn of a joint from the reference height by the point it sits at, rad.
        neutral: as of :func:`joint_angles`.

    Raises:
        ValueError: a limit is given for a point that is no joint of a link.
    """
    if not limits:
        return within
    travel = np.linspace(within.low, within.high, POSITIONS)
    angles = joint_angles(corner, corner.body.poses(travel), neutral)
    for name in limits:
        if name not in angles:
            raise DomainError(f"the joint limit at {name} is at no joint of a link of this suspension")
    middle = int(np.argmin(np.abs(travel)))
    for side, order in (("low", range(middle, -1, -1)), ("high", range(middle, POSITIONS))):
        for i in order:
            over = [n for n, most in limits.items() if angles[n][i] > most]
            if over:
                # Between the last good position and this one the angle runs all but straight.
                last = i + 1 if side == "low" else i - 1
                a, b = angles[over[0]][last], angles[over[0]][i]
                at = travel[last] + (travel[i] - travel[last]) * (limits[over[0]] - a) / (b - a)
                within = replace(within, **{side: float(at), f"{side}_reason": f"joint limit: {over[0]}"})
                break
    return within
