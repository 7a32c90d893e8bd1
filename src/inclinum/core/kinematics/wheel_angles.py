"""Wheel and steering-axis angles of a LEFT wheel in ground axes, after ISO 8855.

All functions take arrays with vectors on the last axis and return radians or millimetres; a right wheel
is mirrored (y → −y) before it gets here.
"""

import numpy as np

from inclinum.core.document.errors import DomainError
from inclinum.core.kinematics.rigid import Array, dot, unit

UP = np.array([0.0, 0.0, 1.0])


def spin_axis(camber: float, toe: float) -> Array:
    """Outward unit spin axis of a left wheel with these angles (rad): the inverse of the two below."""
    return np.array([np.cos(camber) * np.sin(toe), np.cos(camber) * np.cos(toe), -np.sin(camber)])


def camber(axis: Array) -> Array:
    """Camber, positive when the top leans out: atan2(−az, hypot(ax, ay)).

    Args:
        axis: outward unit spin axis, (..., 3).

    Source: ISO 8855, camber angle, written for the spin axis.

    >>> round(float(np.degrees(camber(spin_axis(np.radians(-1.5), np.radians(0.2))))), 9)
    -1.5
    """
    return np.arctan2(-axis[..., 2], np.hypot(axis[..., 0], axis[..., 1]))


def toe(axis: Array) -> Array:
    """Toe of one wheel, positive toe-in: atan2(ax, ay).

    Args:
        axis: outward unit spin axis, (..., 3).

    Source: ISO 8855, static toe angle, written for the spin axis.

    >>> round(float(np.degrees(toe(spin_axis(np.radians(-1.5), np.radians(0.2))))), 9)
    0.2
    """
    return np.arctan2(axis[..., 0], axis[..., 1])


def toe_rate(axis: Array, axis_rate: Array) -> Array:
    """d(toe) from d(axis): bump steer when the rate is per travel.

    Args:
        axis: (..., 3).
        axis_rate: its derivative by anything, (..., 3).

    Source: derived here: d(atan2(ax, ay)) = (ay·dax − ax·day)/(ax² + ay²).
    """
    numerator = axis_rate[..., 0] * axis[..., 1] - axis[..., 0] * axis_rate[..., 1]
    return numerator / (axis[..., 0] ** 2 + axis[..., 1] ** 2)


def caster(lower: Array, upper: Array) -> Array:
    """Caster, positive when the top of the steering axis leans rearward, rad.

    Args:
        lower, upper: two points of the axis, (..., 3), mm.

    Source: ISO 8855, caster angle.
    """
    return np.arctan2(lower[..., 0] - upper[..., 0], upper[..., 2] - lower[..., 2])


def kingpin_inclination(lower: Array, upper: Array) -> Array:
    """Kingpin inclination, positive when the top of the steering axis leans inboard, rad.

    Args:
        lower, upper: two points of the axis, (..., 3), mm.

    Source: ISO 8855, steering-axis inclination.
    """
    return np.arctan2(np.abs(lower[..., 1]) - np.abs(upper[..., 1]), upper[..., 2] - lower[..., 2])


def down_in_wheel_plane(axis: Array, axis_rate: Array) -> tuple[Array, Array]:
    """Unit vector d in the wheel plane nearest straight down, and its rate.

    Args:
        axis, axis_rate: spin axis and its derivative, (..., 3).

    Source: derived here: d is −z less its part along the axis, made a unit vector.
    """
    raw = dot(axis, UP)[..., None] * axis - UP
    raw_rate = dot(axis_rate, UP)[..., None] * axis + dot(axis, UP)[..., None] * axis_rate
    size = np.linalg.norm(raw, axis=-1, keepdims=True)
    down = raw / size
    return down, (raw_rate - dot(raw_rate, down)[..., None] * down) / size


def axis_at_ground(lower: Array, upper: Array, ground_z: Array) -> Array:
    """Where the steering axis meets the plane z = ground_z, (..., 3), mm.

    Source: derived here: lower + s·(upper − lower) with the height of the ground.
    """
    direction = unit(upper - lower)
    span = (ground_z - lower[..., 2]) / direction[..., 2]
    return lower + span[..., None] * direction


def roll_centre_height(contact: Array, contact_rate: Array) -> Array:
    """Kinematic roll-centre height above the contact plane: |yC|·d|yC|/dzC, mm.

    Args:
        contact, contact_rate: centre of the patch and its derivative by travel, (..., 3), mm.

    Source: derived here: the patch moves square to its line to the instant centre, and that line meets the middle of
    the vehicle at the roll centre. Equals the drawn construction because the patch's own rise is in the denominator.
    """
    y = contact[..., 1]
    return np.abs(y) * np.sign(y) * contact_rate[..., 1] / contact_rate[..., 2]


def pitch_nose_down(front_rise: Array | float, rear_rise: Array | float, wheelbase: float) -> Array | float:
    """Body pitch after ISO 8855, nose-down positive, from the rises of both axles, rad.

    Source: derived here: atan2(rear rise − front rise, wheelbase) of a rigid body.

    >>> round(float(np.degrees(pitch_nose_down(10.0, 30.0, 2600.0))), 3)
    0.441
    """
    return np.arctan2(np.asarray(rear_rise) - np.asarray(front_rise), wheelbase)


def rise_at(x: Array | float, front_rise: float, rear_rise: float, front_x: float, wheelbase: float) -> Array | float:
    """Height change of a rigid body at station x: the line through both axles, mm.

    Δ(x) = Δf + (Δr − Δf)·(xf − x)/wheelbase.

    Source: derived here: a rigid body, small pitch.

    >>> float(rise_at(-1300.0, 10.0, 30.0, 0.0, 2600.0))
    20.0
    """
    return front_rise + (rear_rise - front_rise) * (front_x - np.asarray(x)) / wheelbase


def axle_rises(readings: Array, front_x: float, wheelbase: float) -> tuple[Array, Array]:
    """Axle height changes from two stations, and how reading errors spread into them.

    Args:
        readings: rows [station x, height change], (2, 2), mm.

    Returns:
        rises (front, rear) and the matrix that turns reading errors into rise errors, (2, 2).

    Raises:
        ValueError: both stations are at the same place along the vehicle.
    """
    x, change = readings[:, 0], readings[:, 1]
    if abs(x[0] - x[1]) < 1.0:
        raise DomainError("Both readings are at the same station; take one at each end of the vehicle.")
    rear_weight = (front_x - x) / wheelbase
    spread = np.linalg.inv(np.stack([1 - rear_weight, rear_weight], axis=1))
    return spread @ change, spread
