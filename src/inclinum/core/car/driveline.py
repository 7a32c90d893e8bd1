"""The propeller shaft of a solid axle: what its joints bend by, and how long it has to be; and what its links carry."""

import math
from dataclasses import dataclass

import numpy as np
from scipy.spatial.transform import Rotation

from inclinum.core.car.carried import carried_at
from inclinum.core.car.stance import Stance
from inclinum.core.kinematics import Poses
from inclinum.core.kinematics.axles import AxleSteering
from inclinum.core.kinematics.corner import axle_motion
from inclinum.core.kinematics.rigid import Array, dot, unit
from inclinum.core.kinematics.steered import straight_drag_link


@dataclass(frozen=True)
class AxleTurned:
    """A solid axle as a whole, planned against as it came: mm and degrees."""

    shift_left: float
    """Of the axle under the body."""
    nose_up: float
    """Turn of the axle, its front upwards: of the pinion, and of the kingpins' caster."""
    steer_left: float
    """Turn seen from above."""
    drag_link_short: float | None
    """By how much the drag link is too short to leave the steering wheel where it was; None without one."""
    steering_wheel: float | None
    """Turn of the steering wheel off its straight ahead, until that is set; None where the box is not known."""


def axle_turned(before: Stance, after: Stance, poses: tuple[Poses, Poses] | None = None) -> AxleTurned:
    """What a plan does to a solid axle.

    Args:
        before, after: of the axle.
        poses: of each where it stands, first pose, where they are known already.

    Source: derived here: differences of the solved axle; a drag link that stays as it is turns the wheel off centre by
    what it is too short, over the box's arm, times its ratio.
    """
    was, now = poses or tuple(carried_at(s, np.array([s.travel])).poses for s in (before, after))
    turns = [math.asin(p.direction(np.array([1.0, 0.0, 0.0]))[0, 2]) for p in (was, now)]
    steers = [float(axle_motion(s.corner, p).steer[0]) for s, p in ((before, was), (after, now))]
    short = wheel = None
    steering = getattr(after.axle.linkage, "steering", None)
    if isinstance(steering, AxleSteering):
        came, is_now = (
            straight_drag_link(s.axle.linkage.steering, p)  # type: ignore[union-attr]
            for s, p in ((before, was), (after, now))
        )
        short = float(is_now[0] - came[0])
        if steering.box_arm_mm and steering.box_ratio:
            wheel = math.degrees(short / steering.box_arm_mm * steering.box_ratio)
    return AxleTurned(
        shift_left=float(now.centre[0, 1] - was.centre[0, 1]),
        nose_up=math.degrees(turns[1] - turns[0]) + after.axle.nose_up_deg - before.axle.nose_up_deg,
        steer_left=math.degrees(steers[1] - steers[0]), drag_link_short=short, steering_wheel=wheel,
    )  # fmt: skip


@dataclass(frozen=True)
class ShaftBends:
    """A propeller shaft at travels, each (N,)."""

    gearbox: Array
    """Angle of the joint at the gearbox, degrees."""
    pinion: Array
    """Angle of the joint at the pinion, degrees."""
    longer: Array
    """Distance of the joints less that at the reference height with everything as it came, mm."""

    @property
    def mismatch(self) -> Array:
        """Of both joints: what does not cancel, degrees."""
        return np.abs(self.gearbox - self.pinion)


def shaft_bends(stance: Stance, came: Stance, travels: Array) -> ShaftBends:
    """Angles of both joints of a propeller shaft, and its length.

    Args:
        stance: of its axle, which has one.
        came: the same axle as it came, whose shaft fitted.
        travels: linkage travel, (N,), mm.

    Source: derived here: the shaft's line against the gearbox's output and against the pinion, which turns with the
    axle; two universal joints in one plane cancel where both bend alike (textbooks of machine elements).
    """
    shaft, as_came = stance.axle.prop_shaft, came.axle.prop_shaft
    assert shaft is not None, "an axle without a propeller shaft has no angles of it"
    assert as_came is not None, "a shaft is part of a vehicle's figures"
    axle, start = carried_at(stance, travels), np.array(shaft.gearbox_joint)
    end = axle.place(np.array(shaft.pinion_joint))
    # From gearbox to axle: backwards to a rear one, forwards to a front one.
    way = float(np.sign(shaft.pinion_joint[0] - shaft.gearbox_joint[0])) or -1.0
    out, into = (math.radians(a) for a in (shaft.gearbox_down_deg, shaft.pinion_up_deg))
    output = np.array([way * math.cos(out), 0.0, -math.sin(out)])
    pinion = np.array([way * math.cos(into), 0.0, -math.sin(into)])
    # Other parts may have turned the axle at the reference height.
    turned = axle.poses.direction(Rotation.from_rotvec(stance.axle.turned_rad).apply(pinion))
    line = end - start

    def between(one: Array) -> Array:
        return np.degrees(np.arccos(np.clip(dot(unit(line), one), -1.0, 1.0)))

    fitted = float(np.linalg.norm(np.array(as_came.pinion_joint) - np.array(as_came.gearbox_joint)))
    return ShaftBends(between(output), between(turned), np.linalg.norm(line, axis=-1) - fitted)


SMALL_MM, SMALL_DEG = 1.0, 1.0


def anti_squat_percent(stance: Stance, wheelbase: float, cg_height: float) -> float:
    """Part of the squat of a driven solid axle that its links carry, %; of a front axle, of its lift.

    Args:
        stance: of its axle.
        wheelbase: mm.
        cg_height: of the centre of gravity above ground, mm.

    Source: textbooks of vehicle dynamics: tan θ · wheelbase / height of the centre of gravity, θ the slope of the line
    from the tyre's contact to the instant centre seen from the side; the contact moves square to that line, with the
    wheel held by the axle.
    """
    low, high = stance.travel - SMALL_MM, stance.travel + SMALL_MM
    poses = carried_at(stance, np.array([low, stance.travel, high])).poses
    below = np.array([0.0, 0.0, -stance.axle.tyre_radius_mm])
    # The same place of the axle a little lower and a little higher.
    on_axle = poses.turn[1].T @ below
    ends = [poses.centre[i] + poses.turn[i] @ on_axle for i in (0, 2)]
    moved = ends[1] - ends[0]
    backwards = -float(moved[0] / moved[2])
    return 100 * backwards * wheelbase / cg_height


def roll_steer(stance: Stance) -> float:
    """Steer of a solid axle into a bend per degree that the body leans out of it, at ride height, degrees.

    Source: derived here: difference of the solved axle at half a degree of roll each way. In a right-hand bend the body
    leans to the left, which is the left wheel up in it: roll of the axle positive; into the bend is clockwise.
    """
    half = math.radians(SMALL_DEG / 2)
    poses = stance.corner.body.poses(np.full(2, stance.travel), roll=np.array([half, -half]))
    steer = np.degrees(axle_motion(stance.corner, poses).steer)
    return -float(steer[0] - steer[1]) / SMALL_DEG
