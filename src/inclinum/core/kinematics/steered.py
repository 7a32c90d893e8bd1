"""What heave and roll do to the wheels of a steered solid axle, and the Ackermann error of a steered pair."""

from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np

from inclinum.core.document.errors import DomainError
from inclinum.core.kinematics.body import Poses
from inclinum.core.kinematics.constraints import turn_to_reach
from inclinum.core.kinematics.corner import Corner
from inclinum.core.kinematics.rigid import Array, about, unit

if TYPE_CHECKING:
    from inclinum.core.kinematics.axles import AxleSteering

_FLIP = np.array([1.0, -1.0, 1.0])


@dataclass(frozen=True)
class KnuckleMotion:
    """Turns of both knuckles on the axle with the steering box held; arrays of the batch shape, rad and mm."""

    left: Array
    """Counter-clockwise seen from above positive, from the reference height."""
    right: Array
    drag_link_short: Array
    """By how much the drag link is too short (positive) to leave the left wheel straight, mm."""

    def wheel_offset(self, box_arm: float, box_ratio: float) -> Array:
        """Turn of the steering wheel that makes up for it, rad: ΔL / box arm × box ratio, for small turns."""
        return self.drag_link_short / box_arm * box_ratio


def straight_drag_link(steering: "AxleSteering", poses: Poses) -> Array:
    """Length a drag link has to have for the left wheel to stay straight on the axle, the box held, mm, batch shape."""
    return np.linalg.norm(poses.point(np.array(steering.drag_link_knuckle)) - np.array(steering.drag_link_box), axis=-1)


def knuckle_motion(corner: Corner, steering: "AxleSteering", poses: Poses) -> KnuckleMotion:
    """Bump and roll steer of a solid axle steered by a drag link to its left knuckle and a track rod to the right one.

    Each knuckle turns about its kingpin, which the axle carries, until its rod has its length; NaN where it cannot.

    Args:
        corner: the axle.
        steering: its kingpins, drag link and track rod, as drawn.
        poses: of the axle.

    Source: derived here: |box − knuckle arm turned about the kingpin| = drag link, the same for the track rod.
    """
    lower, upper = (np.array(p, dtype=float) for p in (steering.kingpin_left_lower, steering.kingpin_left_upper))
    box, arm = (np.array(p, dtype=float) for p in (steering.drag_link_box, steering.drag_link_knuckle))
    left_end, right_end = (np.array(p, dtype=float) for p in (steering.track_rod_left, steering.track_rod_right))
    kingpin, hub = poses.direction(unit(upper - lower)), poses.point(lower)
    span, drag = poses.direction(arm - lower), float(np.linalg.norm(arm - box))
    left = turn_to_reach(kingpin, span, box - hub, np.asarray(drag))
    rod_left = hub + about(kingpin, left, poses.direction(left_end - lower))
    right_lower, right_upper = lower * _FLIP, upper * _FLIP
    right_kingpin, right_hub = poses.direction(unit(right_upper - right_lower)), poses.point(right_lower)
    track = float(np.linalg.norm(right_end - left_end))
    right = turn_to_reach(
        right_kingpin, poses.direction(right_end - right_lower), rod_left - right_hub, np.asarray(track)
    )
    return KnuckleMotion(left, right, straight_drag_link(steering, poses) - drag)


def toe_by_track_rod(steering: "AxleSteering", longer: Array) -> Array:
    """Turn inwards of each wheel of a solid axle with its track rod screwed longer, rad, the same shape.

    The steering wheel is set straight again, by the drag link, so that both wheels share what the rod does.

    Args:
        steering: its kingpins and track rod, as drawn.
        longer: mm; negative is shorter. NaN where the rod does not reach.

    Source: derived here: with the left knuckle held the right one turns about its kingpin until the rod has its length;
    half of that is each wheel's.
    """
    lower, upper = (np.array(p, dtype=float) for p in (steering.kingpin_left_lower, steering.kingpin_left_upper))
    left_end, right_end = (np.array(p, dtype=float) for p in (steering.track_rod_left, steering.track_rod_right))
    hub, kingpin = lower * _FLIP, unit((upper - lower) * _FLIP)
    length = np.linalg.norm(right_end - left_end) + np.asarray(longer)
    return turn_to_reach(kingpin, right_end - hub, left_end - hub, length) / 2


MOST_LOCK = np.radians(60.0)
"""No joint of a driven or steered wheel bends further; a figure beyond it was meant for something else."""


def knuckle_at_locks(steering: "AxleSteering", lock: float) -> tuple[float, float]:
    """Turn of the left wheel of a solid axle at both locks: as the inner wheel, and as the outer one, rad.

    Args:
        steering: its kingpins and track rod, as drawn.
        lock: turn of the inner wheel, rad.

    Source: derived here: the right knuckle, the left one's mirror image, turned to its lock; the left one until the
    track rod has its length.

    Raises:
        DomainError: no axle, or not its track rod, lets the wheels turn so far.
    """
    lower, upper = (np.array(p, dtype=float) for p in (steering.kingpin_left_lower, steering.kingpin_left_upper))
    left_end, right_end = (np.array(p, dtype=float) for p in (steering.track_rod_left, steering.track_rod_right))
    right_lower, right_axis = lower * _FLIP, unit((upper - lower) * _FLIP)
    rod_right = right_lower + about(right_axis, np.asarray(-lock), right_end - right_lower)
    track = np.asarray(float(np.linalg.norm(right_end - left_end)))
    outer = float(turn_to_reach(unit(upper - lower), left_end - lower, rod_right - lower, track))
    if lock > MOST_LOCK or not np.isfinite(outer):
        turn = f"{np.degrees(lock):.0f}°"
        raise DomainError(f"The wheels of a solid axle do not turn by {turn}: enter that of the inner wheel at lock.")
    return lock, outer


def ackermann_error(inner: Array, outer: Array, track: float, wheelbase: float) -> Array:
    """Outer wheel's angle less the one at which both turn about one point on the rear axle's line, rad.

    cot(outer) − cot(inner) = track/wheelbase, angles as magnitudes; zero where the wheels are straight.

    Args:
        inner, outer: turn of each wheel, rad.
        track: between the kingpins at the ground, mm.
        wheelbase: mm.

    Source: steering of two wheels about one point, textbooks of vehicle dynamics, chapter on low-speed turning.
    """
    with np.errstate(divide="ignore"):
        ideal = np.arctan2(1.0, 1.0 / np.tan(np.maximum(inner, 1e-9)) + track / wheelbase)
    return np.where(inner < 1e-6, 0.0, outer - ideal)
