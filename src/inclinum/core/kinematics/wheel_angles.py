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
    """Camber, positive when the top leans out: atan2(−az, hypot(ax, ay))."""
    return np.arctan2(-axis[..., 2], np.hypot(axis[..., 0], axis[..., 1]))


def toe(axis: Array) -> Array:
    """Toe of one wheel, positive toe-in: atan2(ax, ay)."""
    return np.arctan2(axis[..., 0], axis[..., 1])


def toe_rate(axis: Array, axis_rate: Array) -> Array:
    """d(toe) from d(axis): bump steer when the rate is per travel."""
    numerator = axis_rate[..., 0] * axis[..., 1] - axis[..., 0] * axis_rate[..., 1]
    return numerator / (axis[..., 0] ** 2 + axis[..., 1] ** 2)


def caster(lower: Array, upper: Array) -> Array:
    """Caster, positive when the top of the steering axis leans rearward."""
    return np.arctan2(lower[..., 0] - upper[..., 0], upper[..., 2] - lower[..., 2])


def kingpin_inclination(lower: Array, upper: Array) -> Array:
    """Kingpin inclination, positive when the top of the steering axis leans inboard."""
    return np.arctan2(np.abs(lower[..., 1]) - np.abs(upper[..., 1]), upper[..., 2] - lower[..., 2])


def down_in_wheel_plane(axis: Array, axis_rate: Array) -> tuple[Array, Array]:
    """Unit vector d in the wheel plane nearest straight down, and its rate."""
    raw = dot(axis, UP)[..., None] * axis - UP
    raw_rate = dot(axis_rate, UP)[..., None] * axis + dot(axis, UP)[..., None] * axis_rate
    size = np.linalg.norm(raw, axis=-1, keepdims=True)
    down = raw / size
    return down, (raw_rate - dot(raw_rate, down)[..., None] * down) / size


def axis_at_ground(lower: Array, upper: Array, ground_z: Array) -> Array:
    """Where the steering axis meets the plane z = ground_z."""
    direction = unit(upper - lower)
    reach = (ground_z - lower[..., 2]) / direction[..., 2]
    return lower + reach[..., None] * direction


def roll_centre_height(contact: Array, contact_rate: Array) -> Array:
    """Kinematic roll-centre height above the contact plane: |yC|·d|yC|/dzC, mm.

    Equals the drawn instant-centre construction because the patch's own rise is in the denominator.
    """
    y = contact[..., 1]
    return np.abs(y) * np.sign(y) * contact_rate[..., 1] / contact_rate[..., 2]


def pitch_nose_down(front_rise: Array | float, rear_rise: Array | float, wheelbase: float) -> Array | float:
    """Body pitch after ISO 8855, nose-down positive, from the rises of both axles, rad."""
    return np.arctan2(np.asarray(rear_rise) - np.asarray(front_rise), wheelbase)


def rise_at(x: Array | float, front_rise: float, rear_rise: float, front_x: float, wheelbase: float) -> Array | float:
    """Height change of a rigid body at station x: the line through both axles, mm.

    Δ(x) = Δf + (Δr − Δf)·(xf − x)/wheelbase.
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
