"""A joint at the end of its angle ends the travel before damper and stop do: in metal."""

import math

import numpy as np
from scipy.spatial.transform import Rotation

from inclinum.core.car.limits.case import Case, both_axles
from inclinum.core.car.limits.finding import Finding
from inclinum.core.car.stance import Stance
from inclinum.core.car.vehicle import Axle
from inclinum.core.document.names import SIDES, AxleName, Side
from inclinum.core.kinematics.body import TravelRange
from inclinum.core.kinematics.joints import Neutral, joint_angles, limited_range
from inclinum.core.kinematics.points import point_name


def check(case: Case) -> list[Finding]:
    """One finding per axle and end of travel that a joint with a known angle ends; the worse side where they differ."""
    found = []
    for name, axle, stance in both_axles(case):
        if not axle.joint_limits_deg:
            continue
        joints = joint_angles(stance.corner, stance.corner.body.poses(np.zeros(1)))
        limits = {point: math.radians(most) for point, most in axle.joint_limits_deg.items() if point in joints}
        found += [_nowhere(name, point) for point in axle.joint_limits_deg if point not in joints]
        if not limits:
            continue
        found += _at_ends(name, axle, stance, limits)
    return found


def _at_ends(name: AxleName, axle: Axle, stance: Stance, limits: dict[str, float]) -> list[Finding]:
    sides: tuple[Side | None, ...] = SIDES if axle.right is not None else (None,)
    ends: list[tuple[TravelRange, Side | None]] = [
        (_ends(stance.of_side(side or "left"), limits), side) for side in sides
    ]
    found = []
    for droop in (True, False):
        findings = [_finding(name, stance, within, side, droop=droop) for within, side in ends]
        found += sorted((f for f in findings if f is not None), key=lambda f: f.margin)[:1]
    return found


def _nowhere(name: AxleName, point: str) -> Finding:
    return Finding(
        id=f"joint.{name}.{point}",
        axle=name,
        severity="know",
        what=f"The angle given for {point_name(point)} limits nothing",
        value=0.0,
        limit=0.0,
        margin=0.0,
        unit="deg",
        why="No link of this suspension ends there: give it at the joint it was measured on.",
        source="the vehicle's data",
    )


def _ends(stance: Stance, limits: dict[str, float]) -> TravelRange:
    """Travel that the joints allow, within what damper and stop use."""
    low, high = (min(stance.full_droop, stance.travel), max(stance.bump_end, stance.travel))
    return limited_range(stance.corner, TravelRange(low - 1.0, high + 1.0), limits, neutral_of(stance.axle))


def neutral_of(axle: Axle) -> Neutral | None:
    """Where the joints were made to stand: on the linkage as it came."""
    if axle.came is None:
        return None
    points = axle.came.corner(axle.tyre_radius_mm, 0.0, 0.0).body.points
    return Neutral(points, Rotation.from_rotvec(axle.turned_rad).as_matrix())


def _finding(name: AxleName, stance: Stance, within: TravelRange, side: Side | None, *, droop: bool) -> Finding | None:
    reason = within.low_reason if droop else within.high_reason
    if not reason.startswith("joint limit"):
        return None
    left = within.low - stance.full_droop if droop else stance.bump_end - within.high
    at_ride = stance.travel - within.low if droop else within.high - stance.travel
    if left <= 0:
        return None
    joint = point_name(reason.partition(": ")[2])
    where = f" on the {side}" if side else ""
    end = "droop" if droop else "bump"
    return Finding(
        id=f"joint.{name}.{end}",
        axle=name,
        severity="stops" if at_ride < 0 else "fix",
        what=f"{name.capitalize()} {joint}{where} is at its angle "
        + ("at ride height" if at_ride < 0 else f"before full {end}"),
        value=at_ride,
        limit=at_ride + left,
        margin=-left,
        unit="mm",
        why=f"The joint ends the {end} {left:.0f} mm before "
        + ("the damper is out" if droop else "the bump stop is solid")
        + ": ball and socket lever each other apart.",
        source=f"angle of the {joint}, as measured",
    )
