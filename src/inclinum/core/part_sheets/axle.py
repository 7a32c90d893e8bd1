"""One axle alone as a document, and everything it does over travel, rack and roll."""

from collections.abc import Sequence
from typing import Annotated, Any, Literal, Self

import numpy as np
from pydantic import Field, model_validator

from inclinum.core.document import Document, InOrder
from inclinum.core.document.errors import DomainError
from inclinum.core.kinematics import NEUTRAL, AnyLinkage, Corner, Motion, axle_motion, corner_of
from inclinum.core.kinematics.axles import AxleSteering
from inclinum.core.kinematics.joints import limited_range
from inclinum.core.kinematics.kinds import SteeringData
from inclinum.core.kinematics.leaf import LeafBody
from inclinum.core.kinematics.points import PointName
from inclinum.core.kinematics.rigid import Array
from inclinum.core.kinematics.steered import ackermann_error, knuckle_motion
from inclinum.core.springs.fitted import SpringData, TorsionBarData

JointAngle = Annotated[float, Field(gt=0, le=120)]
SEARCH_MM = 400.0
"""Travel looked through for the ends of a linkage's travel."""


class StaticAngles(Document):
    """Angles of one wheel at travel 0."""

    camber_deg: float = Field(default=0, ge=-15, le=15)
    toe_deg: float = Field(default=0, ge=-10, le=10)


def given_at_right(data: Any) -> bool:
    """Whether an axle, as it was written, has the points of a right wheel: what else stands there is mirrored too.

    Raises:
        KeyError, TypeError, AttributeError, IndexError: it is no axle at all.
    """
    return data.get("side") == "right" and data["linkage"]["points"]["wheel_centre"][1] < 0


class AxleSheet(Document):
    """A suspension with its tyre, its static angles and, where known, what springs it.

    Points of a right wheel (its wheel centre at negative y) are taken as the mirror image of a left one.
    """

    linkage: AnyLinkage
    side: Literal["left", "right", "both"] = Field(default="left", description="which wheel the points are given for")
    tyre_radius_mm: float = Field(gt=80, le=800, description="loaded")
    static: StaticAngles = StaticAngles()
    spring: SpringData | None = None
    spring_offset_mm: float = Field(default=0, ge=-500, le=1000)
    joint_limits_deg: Annotated[dict[PointName, JointAngle], InOrder] = Field(
        default={}, max_length=60, description="point → how far its joint may turn from the reference height"
    )
    note: str = Field(default="", max_length=4000)

    @model_validator(mode="before")
    @classmethod
    def _as_left(cls, data: Any) -> Any:
        try:
            if not given_at_right(data):
                return data
            points = data["linkage"]["points"]
            mirrored = {name: [at[0], -at[1], at[2]] for name, at in points.items() if at is not None}
            linkage = data["linkage"] | {"points": mirrored}
            if linkage.get("steering"):
                steering = SteeringData.model_validate(linkage["steering"]).as_left()
                linkage |= {"steering": steering.model_dump()}
        except (AttributeError, KeyError, TypeError, IndexError, ValueError):
            return data  # what is wrong with it is told by the fields themselves
        return data | {"linkage": linkage}

    @model_validator(mode="after")
    def _moves(self) -> Self:
        self.corner()
        return self

    def corner(self) -> Corner:
        """The left wheel at baseline."""
        camber, toe = float(np.radians(self.static.camber_deg)), float(np.radians(self.static.toe_deg))
        return corner_of(self.linkage, self.tyre_radius_mm, camber, toe)


Table = dict[str, Any]
"""Lists by quantity, every name ending in its unit; null where the position cannot be reached."""


def sweep(axle: AxleSheet, travel: Sequence[float], rack: float = 0.0, pitch: float = 0.0) -> Table:
    """Everything asked of a wheel over travel.

    Args:
        axle: the suspension.
        travel: of the wheel centre (of a solid axle, its heave), mm, bump positive.
        rack: of the rack (along +y for either wheel), mm; of a box, turn of its arm, degrees.
        pitch: of the body, nose-down positive, degrees.

    Raises:
        ValueError: nothing steers this suspension, but the rack is moved.
    """
    corner, z = axle.corner(), np.asarray(travel, dtype=float)
    adjusted = NEUTRAL
    if rack:
        steering = corner.steering
        by = np.radians(rack) if steering and steering.kind == "box" else rack
        adjusted = corner.steered(by, opposite=axle.side == "right")
    tilt = float(np.radians(pitch))
    motion = corner.sweep(z, tilt, adjusted)
    middle = corner.sweep(0.0, tilt, adjusted)
    start = corner.place(corner.wheel, corner.body.poses(np.zeros(1)))[0][0]
    wheel, wheel_rate = corner.place(corner.wheel, motion.poses, adjusted)
    answer: dict[str, Array | None] = {
        "camber_deg": np.degrees(motion.camber),
        "toe_deg": np.degrees(motion.toe),
        "caster_deg": None if motion.caster is None else np.degrees(motion.caster),
        "kingpin_inclination_deg": None
        if motion.kingpin_inclination is None
        else np.degrees(motion.kingpin_inclination),
        "scrub_radius_mm": motion.scrub_radius,
        "mechanical_trail_mm": motion.mechanical_trail,
        "half_track_change_mm": motion.half_track_change(middle.contact),
        "bump_steer_deg_per_10mm": np.degrees(motion.bump_steer) * 10,
        "wheel_centre_fore_aft_mm": wheel[:, 0] - start[0],
    }
    if not axle.linkage.coupled:
        answer |= {
            "roll_centre_height_mm": _by_wheel_travel(motion, wheel_rate),
            "roll_centre_height_by_patch_travel_mm": motion.roll_centre_height,
        }
    answer |= _sprung(axle, motion)
    if axle.linkage.coupled:
        answer |= _axle(corner, z, np.zeros_like(z), _steered(axle))
    table: Table = {"travel_mm": z.tolist(), "rack_mm": rack}
    return table | {k: _listed(v, motion.reachable) for k, v in answer.items() if v is not None} | _range(axle, corner)


def sweep_grid(axle: AxleSheet, heave: Sequence[float], roll: Sequence[float]) -> Table:
    """A coupled axle over heave × roll.

    Args:
        axle: the suspension.
        heave: of the mid-point of the wheel centres, mm.
        roll: of the axle in the body, degrees, left wheel up positive.

    Raises:
        ValueError: the wheels of this suspension do not share an axle.
    """
    if not axle.linkage.coupled:
        raise DomainError("Roll is asked for, but the wheels of this suspension do not share an axle: leave it out.")
    rows = [(h, r) for h in heave for r in roll]
    z, angle = np.array(rows, dtype=float).T
    corner = axle.corner()
    poses = corner.body.poses(z, roll=np.radians(angle))
    answer = _axle(corner, z, angle, _steered(axle))
    return {"grid_columns": ["heave_mm", "roll_deg"], "grid": [list(r) for r in rows]} | {
        k: _listed(v, poses.reachable) for k, v in answer.items()
    }


def _steered(axle: AxleSheet) -> AxleSteering | None:
    steering = getattr(axle.linkage, "steering", None)
    return steering if isinstance(steering, AxleSteering) else None


def sweep_steering(
    axle: AxleSheet, racks: Sequence[float], travel: float = 0.0, wheelbase: float | None = None
) -> Table:
    """Angles over steering at one travel; with a wheelbase the Ackermann error as well.

    Args:
        axle: an independent, steered suspension.
        racks: of the rack along +y, mm; of a box, turn of its arm, degrees.
        travel: of the wheel, mm.
        wheelbase: mm.

    Raises:
        ValueError: nothing steers this suspension.
    """
    corner, by = axle.corner(), np.asarray(racks, dtype=float)
    turned = np.radians(by) if corner.steering and corner.steering.kind == "box" else by
    is_right = axle.side == "right"
    ours, other = (corner.steered(turned, opposite=side) for side in (is_right, not is_right))
    motion = corner.sweep(travel, adjusted=ours)
    mirror = corner.sweep(travel, adjusted=other)
    still = float(corner.sweep(travel).toe[0])
    left_toe, right_toe = (m.toe[:, 0] - still for m in ((mirror, motion) if is_right else (motion, mirror)))
    ok = motion.reachable[:, 0]
    answer: dict[str, Array | None] = {
        "camber_deg": np.degrees(motion.camber[:, 0]),
        "toe_deg": np.degrees(motion.toe[:, 0]),
        "caster_deg": None if motion.caster is None else np.degrees(motion.caster[:, 0]),
        "scrub_radius_mm": None if motion.scrub_radius is None else motion.scrub_radius[:, 0],
        "mechanical_trail_mm": None if motion.mechanical_trail is None else motion.mechanical_trail[:, 0],
        # To the left positive: a left wheel that toes in points to the right.
        "steer_left_deg": np.degrees(-left_toe),
        "steer_right_deg": np.degrees(right_toe),
    }
    if wheelbase is not None:
        left, right = np.abs(left_toe), np.abs(right_toe)
        inner, outer = np.maximum(left, right), np.minimum(left, right)
        track = sum(float(np.abs(m.contact[..., 1]).mean()) for m in (motion, mirror))
        answer["ackermann_error_deg"] = np.degrees(ackermann_error(inner, outer, track, wheelbase))
    return {"rack_mm": list(racks), "travel_mm": travel} | {
        k: _listed(v, ok) for k, v in answer.items() if v is not None
    }


def _axle(corner: Corner, heave: Array, roll: Array, steering: AxleSteering | None) -> dict[str, Array]:
    motion = axle_motion(corner, corner.body.poses(heave, roll=np.radians(roll)))
    answer = {
        "lateral_shift_mm": motion.lateral_shift,
        "fore_aft_shift_mm": motion.fore_aft_shift,
        "axle_steer_deg": np.degrees(motion.steer),
        "axle_pitch_deg": np.degrees(motion.pitch),
        "roll_centre_height_mm": motion.roll_centre_height,
    }
    if steering is not None:
        poses = corner.body.poses(heave, roll=np.radians(roll))
        knuckles = knuckle_motion(corner, steering, poses)
        answer |= {"bump_steer_left_deg": np.degrees(knuckles.left), "bump_steer_right_deg": np.degrees(knuckles.right)}
        if steering.box_arm_mm and steering.box_ratio:
            offset = knuckles.wheel_offset(steering.box_arm_mm, steering.box_ratio)
            answer["steering_wheel_offset_deg"] = np.degrees(offset)
    if isinstance(corner.body, LeafBody):
        answer["shackle_angle_deg"] = np.degrees(corner.body.shackle_angle(heave))
    return answer


def _by_wheel_travel(motion: Motion, wheel_rate: Array) -> Array:
    """The usual short cut, with the wheel centre's travel below the line; ours divides by the patch's own."""
    return motion.roll_centre_height * motion.contact_rate[:, 2] / wheel_rate[:, 2]


def _sprung(axle: AxleSheet, motion: Motion) -> dict[str, Array | None]:
    torsion = axle.linkage.kind == "trailing_arm_torsion" or isinstance(axle.spring, TorsionBarData)
    answer: dict[str, Array | None] = {
        "damper_length_mm": motion.damper_length,
        "damper_installation_ratio": motion.damper_ratio,
    }
    if motion.spring_length is None or motion.spring_ratio is None:
        return answer
    if torsion:
        answer |= {"arm_angle_deg": np.degrees(motion.spring_length), "bar_twist_rad_per_mm": motion.spring_ratio}
    else:
        answer |= {"spring_length_mm": motion.spring_length, "spring_installation_ratio": motion.spring_ratio}
    if axle.spring is not None:
        force = axle.spring.spring().force(motion.spring_length - axle.spring_offset_mm)
        answer["bar_torque_Nmm" if torsion else "spring_force_N"] = force
        answer["wheel_load_N"] = force * motion.spring_ratio
    return answer


def _listed(values: Array, reachable: Array) -> list[float | None]:
    return [float(v) if ok and np.isfinite(v) else None for v, ok in zip(values, reachable, strict=True)]


def _range(axle: AxleSheet, corner: Corner) -> Table:
    limits = {n: float(np.radians(v)) for n, v in axle.joint_limits_deg.items()}
    within = limited_range(corner, corner.body.travel_range(-SEARCH_MM, SEARCH_MM, 0.01), limits)
    return {
        "reachable_travel_mm": [within.low, within.high],
        "reach_ends_because": {k: v for k, v in (("droop", within.low_reason), ("bump", within.high_reason)) if v},
    }
