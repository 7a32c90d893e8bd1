"""A wheel corner in motion: everything asked of a linkage at any travel, with body attitude included."""

from dataclasses import dataclass

import numpy as np

from inclinum.core.angles import wheel
from inclinum.core.linkage.body import NEUTRAL, Adjustment, Body, Poses
from inclinum.core.linkage.rigid import Array, dot, rotation, turn_about, unit


@dataclass(frozen=True)
class Spanned:
    """A spring or damper between a chassis point and a point carried by the body."""

    on_chassis: str
    on_body: str


@dataclass(frozen=True)
class Arm:
    """An arm pivoting on the chassis line first–second, its outer joint on the body.

    Its turn about that line is what a bush tightened at the wrong height stores.
    """

    name: str
    first: str
    second: str
    outer: str


@dataclass(frozen=True, eq=False)
class Corner:
    """A left wheel corner at baseline.

    Args:
        body: the upright and its constraints.
        tyre_radius: loaded radius, mm.
        camber, toe: static angles at travel 0, rad.
        steering_axis: names of the lower and the upper point, of whatever body; None when there is none.
        upper_on_chassis: whether the upper point of the steering axis stays with the chassis (a strut top).
        spring, damper: between which points they stand.
        arms: arms whose bushes are tightened on the vehicle.
    """

    body: Body
    tyre_radius: float
    camber: float
    toe: float
    spring: Spanned
    damper: Spanned
    steering_axis: tuple[str, str] | None = None
    upper_on_chassis: bool = False
    arms: tuple[Arm, ...] = ()

    def sweep(self, travel: Array, pitch: float = 0.0, adjusted: Adjustment = NEUTRAL) -> "Motion":
        """Pose and angles at every travel.

        Args:
            travel: (T,) mm, bump positive, or a scalar.
            pitch: body pitch against the ground, nose-down positive, rad.
            adjusted: what the alignment adjusters do.
        """
        return self.motion(self.body.poses(np.atleast_1d(travel), adjusted), pitch, adjusted)

    def motion(self, poses: Poses, pitch: float = 0.0, adjusted: Adjustment = NEUTRAL) -> "Motion":
        """Angles of poses already solved, under a body pitch; arguments as for :meth:`sweep`."""
        # Ground axes: nose-down pitch p turns body vectors by +p about y (left) when seen from the ground.
        ground = rotation(np.array([0.0, pitch, 0.0]))

        def seen(v: Array) -> Array:
            return v @ ground.T

        axis0 = wheel.spin_axis(self.camber, self.toe)
        axis_in_body = poses.direction(axis0)
        axis = seen(axis_in_body)
        axis_rate = seen(poses.direction_rate(axis_in_body))
        down, down_rate = wheel.down_in_wheel_plane(axis, axis_rate)
        contact = seen(poses.centre) + self.tyre_radius * down
        contact_rate = seen(poses.velocity) + self.tyre_radius * down_rate
        spring, spring_ratio = self._span(self.spring, poses, adjusted)
        damper, damper_ratio = self._span(self.damper, poses, adjusted)
        caster = kingpin = scrub = trail = None
        if self.steering_axis:
            lower, upper = (seen(p) for p in self._axis_points(poses, adjusted))
            caster, kingpin = wheel.caster(lower, upper), wheel.kingpin_inclination(lower, upper)
            at_ground = wheel.axis_at_ground(lower, upper, contact[..., 2])
            scrub = np.abs(contact[..., 1]) - np.abs(at_ground[..., 1])
            trail = at_ground[..., 0] - contact[..., 0]
        return Motion(
            travel=poses.centre[..., 2] - poses.centre0[2],
            reachable=poses.reachable,
            poses=poses,
            camber=wheel.camber(axis),
            toe=wheel.toe(axis),
            bump_steer=wheel.toe_rate(axis, axis_rate),
            caster=caster,
            kingpin_inclination=kingpin,
            scrub_radius=scrub,
            mechanical_trail=trail,
            contact=contact,
            roll_centre_height=wheel.roll_centre_height(contact, contact_rate),
            spring_length=spring,
            spring_ratio=spring_ratio,
            damper_length=damper,
            damper_ratio=damper_ratio,
        )

    def arm_turn(self, poses: Poses) -> dict[str, float]:
        """Angle each arm turns about its pivot from the first pose to the last, rad, unsigned."""
        turns = {}
        for arm in self.arms:
            first, second = self.body.points[arm.first], self.body.points[arm.second]
            outer = poses.point(self.body.points[arm.outer]) - first
            turns[arm.name] = float(abs(turn_about(unit(second - first), outer[0], outer[-1])))
        return turns

    def _span(self, part: Spanned, poses: Poses, adjusted: Adjustment) -> tuple[Array, Array]:
        """Length between the ends and −d(length)/d(travel)."""
        end = poses.point(self._place(part.on_body, adjusted))
        reach = end - self._place(part.on_chassis, adjusted)
        length = np.linalg.norm(reach, axis=-1)
        return length, -dot(reach, poses.point_rate(end)) / length

    def _axis_points(self, poses: Poses, adjusted: Adjustment) -> tuple[Array, Array]:
        assert self.steering_axis
        lower_name, upper_name = self.steering_axis
        lower = poses.point(self._place(lower_name, adjusted))
        if self.upper_on_chassis:
            return lower, np.broadcast_to(self._place(upper_name, adjusted), lower.shape)
        return lower, poses.point(self._place(upper_name, adjusted))

    def _place(self, name: str, adjusted: Adjustment) -> Array:
        """A point at baseline with its adjustment."""
        return adjusted.place(name, np.asarray(self.body.points[name], dtype=float))


@dataclass(frozen=True)
class Motion:
    """What a corner does over travel; arrays of the batch shape (samples before travel), mm and rad."""

    travel: Array
    """Of the wheel centre, the batch shape."""
    reachable: Array
    poses: Poses
    camber: Array
    toe: Array
    bump_steer: Array
    caster: Array | None
    kingpin_inclination: Array | None
    scrub_radius: Array | None
    mechanical_trail: Array | None
    contact: Array
    roll_centre_height: Array
    spring_length: Array
    spring_ratio: Array
    damper_length: Array
    damper_ratio: Array

    def half_track_change(self, at_baseline: Array) -> Array:
        """|Cy| minus its value at baseline, mm."""
        return np.abs(self.contact[..., 1]) - np.abs(at_baseline[..., 1])
