"""A suspension in motion: everything asked of a linkage at any travel, with body attitude included."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Literal

import numpy as np

from inclinum.core.document.errors import DomainError
from inclinum.core.kinematics import wheel_angles
from inclinum.core.kinematics.body import Body, Poses
from inclinum.core.kinematics.carriers import Carrier, Moving
from inclinum.core.kinematics.constraints import NEUTRAL, Adjustment, LinkOnArm
from inclinum.core.kinematics.leaf import LeafBody
from inclinum.core.kinematics.points import link_name
from inclinum.core.kinematics.rigid import Array, about, dot, rotation, turn_about, unit


@dataclass(frozen=True)
class PointDistance:
    """A spring or damper between two points; its coordinate is its length, mm."""

    start: str
    end: str


@dataclass(frozen=True)
class ArmAngle:
    """A torsion bar on the pivot line of an arm; its coordinate is the arm's angle below horizontal, rad."""

    first: str
    second: str
    outer: str


@dataclass(frozen=True)
class PointHeight:
    """A leaf pack pressed by its seat; its coordinate is minus the rise of that point from baseline, mm."""

    point: str


Coordinate = PointDistance | ArmAngle | PointHeight


@dataclass(frozen=True)
class Arm:
    """An arm pivoting on the chassis line first–second, its outer joint on the body.

    Its turn about that line is what a bush tightened at the wrong height stores.
    """

    name: str
    first: str
    second: str
    outer: str


@dataclass(frozen=True)
class Steering:
    """What moves the inner tie-rod point: a rack along its axis, or an arm of a box (or idler) about its axis."""

    kind: Literal["rack", "box"]
    inner: str
    axis: tuple[float, float, float]
    pivot: tuple[float, float, float] | None = None

    def moved(self, at: Array, by: Array | float) -> Array:
        """Displacement of the inner point, (…, 3): ``by`` is mm along the rack, or the turn of the box arm in rad."""
        axis = unit(np.array(self.axis))
        by = np.asarray(by, dtype=float)
        if self.kind == "rack":
            return by[..., None] * axis
        assert self.pivot is not None
        arm = at - np.array(self.pivot)
        return np.einsum("...ij,j->...i", rotation(by[..., None] * axis), arm) - arm


@dataclass(frozen=True, eq=False)
class Corner:
    """The left wheel of a suspension at baseline; of a coupled axle, its left wheel and the axle body.

    Args:
        body: the upright (or the axle) and its constraints.
        tyre_radius: loaded radius, mm.
        camber, toe: static angles at travel 0, rad.
        spring, damper: what they stand between, where the points are known.
        wheel: name of the wheel centre.
        carriers: what carries each point that moves, unless the upright does; others in ``upright`` it carries.
        upright: names of the points fixed to the upright or axle.
        steering_axis: names of the lower and the upper point; None when there is none.
        arms: arms whose bushes are tightened on the vehicle.
        steering: what steers it.
    """

    body: Body | LeafBody
    tyre_radius: float
    camber: float
    toe: float
    spring: Coordinate | None
    damper: PointDistance | None
    upright: frozenset[str]
    wheel: str = "wheel_centre"
    carriers: Mapping[str, Carrier] = field(default_factory=dict)
    steering_axis: tuple[str, str] | None = None
    arms: tuple[Arm, ...] = ()
    steering: Steering | None = None

    def sweep(self, travel: Array | float, pitch: float = 0.0, adjusted: Adjustment = NEUTRAL) -> "Motion":
        """Pose and angles at every travel.

        Args:
            travel: (T,) mm, bump positive, or a scalar.
            pitch: body pitch against the ground, nose-down positive, rad.
            adjusted: what the alignment adjusters do.
        """
        return self.motion(self.body.poses(np.atleast_1d(travel), adjusted), pitch, adjusted)

    def steered(self, by: Array | float, adjusted: Adjustment = NEUTRAL, *, opposite: bool = False) -> Adjustment:
        """The same adjustment with the steering moved.

        Args:
            by: one value, or one per sample (S,): mm along the rack or rad of the box arm.
            opposite: of the wheel on the other side, as a left one: one rack moves both inner ends along its axis, and
                an idler turns as the box's arm does.

        Raises:
            ValueError: nothing steers this wheel.
        """
        if self.steering is None:
            raise DomainError("This suspension has no steering.")
        inner = self.steering.inner
        if opposite:
            by = -np.asarray(by, dtype=float)
        shift = self.steering.moved(self.body.points[inner], by)
        if opposite and self.steering.kind == "rack":
            # One vector moves both ends; in the mirror only its part across the vehicle is turned round.
            shift = shift * np.array([-1.0, 1.0, -1.0])
        moved = dict(adjusted.moved)
        moved[inner] = moved.get(inner, 0.0) + shift
        return Adjustment(moved, adjusted.lengthened, adjusted.tilted, adjusted.placed_anew)

    def motion(
        self, poses: Poses, pitch: Array | float = 0.0, adjusted: Adjustment = NEUTRAL, roll: float = 0.0
    ) -> "Motion":
        """Angles of poses already solved, under a body pitch and roll; arguments as for :meth:`sweep`.

        Args:
            pitch: one, or one per pose.
            roll: of the body against the ground, left side up positive, rad.
        """
        # Ground axes: nose-down pitch p turns body vectors by +p about y (left) when seen from the ground.
        pitch = np.asarray(pitch, dtype=float)
        level = not roll and not pitch.any()
        ground = rotation(np.stack([0 * pitch, pitch, 0 * pitch], axis=-1))
        if roll:
            ground = ground @ rotation(np.array([roll, 0.0, 0.0]))

        def seen(v: Array) -> Array:
            return v if level else np.einsum("...ij,...j->...i", ground, v)

        centre, centre_rate = (seen(v) for v in self.place(self.wheel, poses, adjusted))
        axis_in_body = poses.direction(self._spin_axis(adjusted))
        axis = seen(axis_in_body)
        axis_rate = seen(poses.direction_rate(axis_in_body))
        down, down_rate = wheel_angles.down_in_wheel_plane(axis, axis_rate)
        contact = centre + self.tyre_radius * down
        contact_rate = centre_rate + self.tyre_radius * down_rate
        spring, spring_ratio = self._of(self.spring, poses, adjusted)
        damper, damper_ratio = self._of(self.damper, poses, adjusted)
        reachable = poses.reachable
        for length in (spring, damper):
            reachable = reachable if length is None else reachable & np.isfinite(length)
        caster = kingpin = scrub = trail = None
        if self.steering_axis:
            lower, upper = (seen(self.place(name, poses, adjusted)[0]) for name in self.steering_axis)
            caster, kingpin = wheel_angles.caster(lower, upper), wheel_angles.kingpin_inclination(lower, upper)
            at_ground = wheel_angles.axis_at_ground(lower, upper, contact[..., 2])
            scrub = np.abs(contact[..., 1]) - np.abs(at_ground[..., 1])
            trail = at_ground[..., 0] - contact[..., 0]
        return Motion(
            travel=poses.travel,
            reachable=reachable,
            poses=poses,
            camber=wheel_angles.camber(axis),
            toe=wheel_angles.toe(axis),
            bump_steer=wheel_angles.toe_rate(axis, axis_rate),
            caster=caster,
            kingpin_inclination=kingpin,
            scrub_radius=scrub,
            mechanical_trail=trail,
            contact=contact,
            contact_rate=contact_rate,
            roll_centre_height=self._roll_centre(poses, contact, contact_rate),
            spring_length=spring,
            spring_ratio=spring_ratio,
            damper_length=damper,
            damper_ratio=damper_ratio,
        )

    def _spin_axis(self, adjusted: Adjustment) -> Array:
        """Of the wheel on what carries it, as drawn: (3,), or (S, 1, 3) where it is turned on its kingpin."""
        axis = wheel_angles.spin_axis(self.camber, self.toe)
        if self.steering_axis is None or not np.any(adjusted.toed):
            return axis
        lower, upper = (self.body.points[name] for name in self.steering_axis)
        # Inwards is to the right, about an axis that points up: clockwise seen from above.
        return about(unit(upper - lower), -np.atleast_1d(adjusted.toed)[:, None], axis)

    def _roll_centre(self, poses: Poses, contact: Array, contact_rate: Array) -> Array:
        """Of a corner from how its contact patch moves; of an axle from how its roll moves it sideways."""
        if self.body.across is None:
            return wheel_angles.roll_centre_height(contact, contact_rate)
        level = poses.direction(self.body.points[self.body.across[1]] - self.body.points[self.body.across[0]])
        cosine = np.hypot(level[..., 0], level[..., 1]) / np.linalg.norm(level, axis=-1)
        return self.tyre_radius + cosine * poses.roll_velocity[..., 1]

    def arm_turn(self, poses: Poses) -> dict[str, float]:
        """Angle each arm turns about its pivot from the first pose to the last, rad, unsigned.

        And what the body's own rods, shackles and eyes turn by that are no part of an arm; a link that stands on an
        arm turns against that.
        """
        turns: dict[str, float] = {}
        for arm in self.arms:
            turn = abs(self._turned(arm.first, arm.second, arm.first, arm.outer, poses))
            turns[arm.name] = max(turn, turns.get(arm.name, 0.0))
        for link in self.body.constraints if isinstance(self.body, Body) else ():
            if isinstance(link, LinkOnArm):
                arm_turn = self._turned(link.first, link.second, link.first, link.outer, poses)
                own = self._turned(link.first, link.second, link.on_arm, link.on_body, poses)
                turns[link_name(link.on_arm)] = abs(own - arm_turn)
        return turns | self.body.bush_turns(poses, {n for arm in self.arms for n in (arm.first, arm.second)})

    def _turned(self, first: str, second: str, start: str, end: str, poses: Poses) -> float:
        """Turn of the line between two points about a chassis line, from the first pose to the last, rad."""
        at = self.place(end, poses)[0] - self.place(start, poses)[0]
        axis = unit(self.body.points[second] - self.body.points[first])
        return float(turn_about(axis, at[0], at[-1]))

    def _of(self, part: Coordinate | None, poses: Poses, adjusted: Adjustment) -> Moving | tuple[None, None]:
        return (None, None) if part is None else self.coordinate(part, poses, adjusted)

    def coordinate(self, part: Coordinate, poses: Poses, adjusted: Adjustment = NEUTRAL) -> Moving:
        """Length (mm) or angle (rad) of a spring or damper, and minus its change per travel."""
        if isinstance(part, ArmAngle):
            return self._angle_below(part, poses, adjusted)
        if isinstance(part, PointHeight):
            at, rate = self.place(part.point, poses, adjusted)
            return self.body.points[part.point][2] - at[..., 2], rate[..., 2]
        (start, start_rate), (end, end_rate) = (self.place(n, poses, adjusted) for n in (part.start, part.end))
        span = end - start
        length = np.linalg.norm(span, axis=-1)
        return length, -dot(span, end_rate - start_rate) / length

    def _angle_below(self, bar: ArmAngle, poses: Poses, adjusted: Adjustment) -> Moving:
        """Angle of an arm below horizontal, seen along its pivot line, and minus its change per travel."""
        first, second = (self.place(n, poses, adjusted)[0] for n in (bar.first, bar.second))
        outer, rate = self.place(bar.outer, poses, adjusted)
        axis = unit(second - first)
        span = outer - first
        square = span - dot(span, axis)[..., None] * axis
        up = unit(wheel_angles.UP - dot(axis, wheel_angles.UP)[..., None] * axis)
        rise, size = dot(square, up), np.linalg.norm(square, axis=-1)
        away = np.sqrt(np.maximum(size**2 - rise**2, 1e-12))
        return np.arctan2(-rise, away), dot(rate, up) / away

    def place(self, name: str, poses: Poses, adjusted: Adjustment = NEUTRAL) -> Moving:
        """Where a named point is, in body axes, and its rate per travel; both broadcast to the batch shape."""
        neutral = self._neutral(name, adjusted)
        carrier = self.carriers.get(name)
        if carrier is not None:
            # An arm keeps the shape it was made with; only hardpoints that are placed anew change it.
            kept = adjusted if adjusted.placed_anew else NEUTRAL
            return carrier.place(
                name, lambda n: self.place(n, poses, adjusted), lambda n: self._neutral(n, kept), adjusted
            )
        if isinstance(self.body, Body) and (crank := self.body.cranks.get(name)):
            return self.body.on_crank(name, crank, poses, adjusted)
        if name in self.upright:
            at = poses.point(neutral)
            return at, poses.point_rate(at)
        at = np.broadcast_to(neutral, poses.centre.shape)
        return at, np.zeros_like(at)

    def _neutral(self, name: str, adjusted: Adjustment) -> Array:
        """A point at baseline with its adjustment."""
        return adjusted.place(name, np.asarray(self.body.points[name], dtype=float))


@dataclass(frozen=True)
class Motion:
    """What a corner does over travel; arrays of the batch shape (samples before travel), mm and rad."""

    travel: Array
    """Of the wheel centre (of an axle, its heave), the batch shape."""
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
    contact_rate: Array
    """d(contact)/d(travel)."""
    roll_centre_height: Array
    spring_length: Array | None
    """Of a torsion bar, the arm's angle below horizontal, rad."""
    spring_ratio: Array | None
    damper_length: Array | None
    damper_ratio: Array | None

    def half_track_change(self, at_baseline: Array) -> Array:
        """|Cy| minus its value at baseline, mm."""
        return np.abs(self.contact[..., 1]) - np.abs(at_baseline[..., 1])


@dataclass(frozen=True)
class AxleMotion:
    """How a solid axle moves in the body over heave and roll; arrays of the batch shape, mm and rad."""

    lateral_shift: Array
    fore_aft_shift: Array
    steer: Array
    """Counter-clockwise seen from above positive."""
    pitch: Array
    """Nose (pinion) up positive: the change of the pinion's angle."""
    roll_centre_height: Array
    reachable: Array


def axle_motion(corner: Corner, poses: Poses) -> AxleMotion:
    """Shifts and angles of an axle body at poses already solved.

    Steer is atan2(−ux, uy) with u from the right to the left wheel centre, pitch asin(nz) with n forward on the axle,
    roll centre R + cos(roll)·dAy/droll.
    """
    assert corner.body.across
    right, left = (corner.body.points[n] for n in corner.body.across)
    line = poses.direction(unit(left - right))
    shift = poses.centre - poses.centre0
    # A baseline line that is not quite square to the vehicle is no steer: only the turn from it counts.
    square = np.arctan2(-(left - right)[0], (left - right)[1])
    return AxleMotion(
        lateral_shift=shift[..., 1],
        fore_aft_shift=shift[..., 0],
        steer=np.arctan2(-line[..., 0], line[..., 1]) - square,
        pitch=np.arcsin(poses.turn[..., 2, 0]),
        roll_centre_height=corner._roll_centre(poses, poses.centre, poses.velocity),
        reachable=poses.reachable,
    )
