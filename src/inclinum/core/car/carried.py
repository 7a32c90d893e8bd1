"""Where what hangs on a wheel or an arm goes as it moves, on whatever linkage the axle has by now."""

import math
from dataclasses import dataclass
from functools import cached_property

import numpy as np
from scipy.spatial.transform import Rotation

from inclinum.core.car.stance import Stance
from inclinum.core.document.errors import DomainError
from inclinum.core.kinematics import Corner, Poses, wheel_angles
from inclinum.core.kinematics.axles import steered_axle
from inclinum.core.kinematics.carriers import OnArm
from inclinum.core.kinematics.constraints import NEUTRAL, Adjustment
from inclinum.core.kinematics.rigid import Array, about, unit
from inclinum.core.kinematics.steered import knuckle_at_locks

UPRIGHT = "upright"


@dataclass(frozen=True)
class Carried:
    """One wheel in poses that are asked for, and what it and its arms carry along.

    Args:
        stance: of the wheel's axle.
        poses: at which it is asked, shape (N,).
        adjusted: what was steered or set for them.
    """

    stance: Stance
    poses: Poses
    adjusted: Adjustment = NEUTRAL

    @cached_property
    def _corner(self) -> Corner:
        return self.stance.corner

    @cached_property
    def _came(self) -> Corner:
        """The linkage the places were taken on."""
        axle = self.stance.axle
        return self._corner if axle.came is None else axle.came.corner(axle.tyre_radius_mm, 0.0, 0.0)

    def place(self, at: Array, on: str = UPRIGHT) -> Array:
        """Where something is that the upright or an arm carries, (N, 3), mm in body axes.

        Args:
            at: its place at the reference height of the linkage as it came, (3,), mm.
            on: ``upright``, or the name of an arm.

        Raises:
            DomainError: there is no such arm; the message names those there are.
        """
        if on == UPRIGHT:
            return self.poses.point(self._neutral(at))
        arm = next((a for a in self._came.arms if a.name == on), None)
        if arm is None:
            there = ", ".join([UPRIGHT, *(a.name for a in self._came.arms)])
            raise DomainError(f"This suspension has no “{on}” for an anti-roll link to stand on; there are {there}.")
        carrier, points = OnArm(arm.first, arm.second, arm.outer), self._came.body.points
        here = {"it": np.asarray(at, dtype=float)} | {n: points[n] for n in (arm.first, arm.second, arm.outer)}
        now = carrier.place(
            "it", lambda n: self._corner.place(n, self.poses, self.adjusted), here.__getitem__, self.adjusted
        )
        return np.broadcast_to(now[0], self.poses.centre.shape)

    def spin_axis(self) -> Array:
        """Outward axis of the hub, (N, 3)."""
        return self.poses.direction(wheel_angles.spin_axis(self._corner.camber, self._corner.toe))

    def _neutral(self, at: Array) -> Array:
        """A place on the upright at the reference height of the linkage as it is now: arms may have turned it."""
        axle = self.stance.axle
        if axle.came is None:
            return np.asarray(at, dtype=float)
        was, now = (c.body.points[c.wheel] for c in (self._came, self._corner))
        return now + Rotation.from_rotvec(axle.turned_rad).apply(np.asarray(at, dtype=float) - was)


def at_ends(stance: Stance) -> dict[str, float]:
    """Linkage travel at full droop, at ride height and at full bump, mm, in that order."""
    return {"full droop": stance.full_droop, "ride height": stance.travel, "full bump": stance.bump_end}


def carried_at(stance: Stance, travels: Array) -> Carried:
    """A wheel at linkage travels, body level, straight ahead."""
    return Carried(stance, stance.corner.sweep(travels).poses)


SETTLED = 3
"""Times the travel at full lock is corrected: the wheel moves by millimetres, the rest is far below one."""


def carried_at_locks(stance: Stance, travels: Array) -> Carried:
    """A wheel at linkage travels, straight ahead first, then at both locks: poses (L, N); one row where nothing steers.

    Args:
        stance: of its axle, as one wheel sees it.
        travels: (N,), mm.

    Source: derived here: steered, the wheel rises or falls on its axis; what it hangs on is as long as straight ahead.
    """
    if stance.corner.steering is None or not stance.axle.full_lock:
        return Carried(stance, stance.corner.sweep(travels[None, :]).poses)
    return carried_steered(stance, travels, np.array([0.0, 1.0, -1.0]))


def carried_steered(stance: Stance, travels: Array, shares: Array, *, opposite: bool = False) -> Carried:
    """A wheel of its own at linkage travels, steered by shares of its lock: poses (S, N).

    Args:
        stance: of its axle, as one wheel sees it; something steers it, and its lock is known.
        travels: (N,), mm.
        shares: of full lock either way, (S,), -1 to 1.
        opposite: of the wheel on the other side, as a left one.
    """
    corner, lock = stance.corner, stance.axle.full_lock
    assert corner.steering is not None, "it is steered"
    assert lock is not None, "its lock is known"
    most = math.radians(lock) if corner.steering.kind == "box" else lock
    adjusted = corner.steered(most * shares, opposite=opposite)
    straight = corner.sweep(travels).damper_length
    assert straight is not None, "an axle has a damper"
    at = np.repeat(travels[None, :], shares.size, axis=0)
    for _ in range(SETTLED):
        motion = corner.sweep(at, adjusted=adjusted)
        assert motion.damper_length is not None, "an axle has a damper"
        at = at + (motion.damper_length - straight) / motion.damper_ratio
    return Carried(stance, corner.sweep(at, adjusted=adjusted).poses, adjusted)


def turns_to_lock(stance: Stance) -> bool:
    """Whether it is known how far these wheels are steered."""
    steers = stance.corner.steering is not None or steered_axle(stance.axle.linkage) is not None
    return steers and stance.axle.full_lock is not None


def wheel_at_locks(stance: Stance, travels: Array, *, straight: bool = False) -> tuple[Array, Array]:
    """Wheel centre and outward spin axis at linkage travels, straight ahead and, where asked, at both locks.

    Args:
        stance: of its axle, as one wheel sees it.
        travels: (N,), mm.
        straight: leave the locks out.

    Returns:
        Two arrays (L, N, 3): one row straight ahead, three with the locks, mm in body axes and unit vectors.

    Source: derived here: a wheel of its own steers on its linkage; one on a solid axle turns about its kingpin, by the
    lock of the inner wheel, or as the track rod takes it when the other wheel is the inner one.
    """
    steering, lock = steered_axle(stance.axle.linkage), stance.axle.full_lock
    corner = stance.corner
    if steering is None or lock is None or straight:
        wheel = carried_at(stance, travels) if straight else carried_at_locks(stance, travels)
        at, spin = wheel.poses.point(corner.body.points[corner.wheel]), wheel.spin_axis()
        shape = (-1, travels.size, 3)
        return at.reshape(shape), spin.reshape(shape)
    poses = corner.body.poses(travels)
    wheel = Carried(stance, poses)
    hub = poses.point(np.array(steering.kingpin_left_lower))
    axis = poses.direction(unit(np.array(steering.kingpin_left_upper) - np.array(steering.kingpin_left_lower)))
    off, spin = poses.point(corner.body.points[corner.wheel]) - hub, wheel.spin_axis()
    turns = (0.0, *knuckle_at_locks(steering, math.radians(lock)))
    angles = [np.full(travels.shape, t) for t in turns]
    return np.stack([hub + about(axis, a, off) for a in angles]), np.stack([about(axis, a, spin) for a in angles])
