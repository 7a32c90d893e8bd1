"""Small batched vector algebra for rigid bodies; every function broadcasts over leading axes."""

from typing import Any

import numpy as np
from numpy.typing import NDArray

Array = NDArray[Any]
"""A NumPy array; its shape and unit stand in the docstring of whoever takes or gives it."""


def cross(u: Array, v: Array) -> Array:
    """Cross product over the last axis (several times quicker than ``numpy.cross`` on small stacks)."""
    out = np.empty(np.broadcast_shapes(u.shape, v.shape))
    out[..., 0] = u[..., 1] * v[..., 2] - u[..., 2] * v[..., 1]
    out[..., 1] = u[..., 2] * v[..., 0] - u[..., 0] * v[..., 2]
    out[..., 2] = u[..., 0] * v[..., 1] - u[..., 1] * v[..., 0]
    return out


def dot(u: Array, v: Array) -> Array:
    """Inner product over the last axis."""
    return (u * v).sum(axis=-1)


def unit(v: Array) -> Array:
    """Unit vector along v."""
    return v / np.linalg.norm(v, axis=-1, keepdims=True)


def rotation(vector: Array) -> Array:
    """Rotation matrices (…, 3, 3) from rotation vectors (…, 3) in radians (Rodrigues' formula)."""
    x, y, z = vector[..., 0], vector[..., 1], vector[..., 2]
    angle = np.sqrt(x * x + y * y + z * z)
    divisor = np.where(angle > 1e-12, angle, 1.0)
    a = np.where(angle > 1e-12, np.sin(angle) / divisor, 1.0)
    b = np.where(angle > 1e-6, (1 - np.cos(angle)) / divisor**2, 0.5)
    out = np.empty((*vector.shape[:-1], 3, 3))
    bx, by, bz, ax, ay, az = b * x, b * y, b * z, a * x, a * y, a * z
    out[..., 0, 0], out[..., 1, 1], out[..., 2, 2] = 1 - by * y - bz * z, 1 - bz * z - bx * x, 1 - bx * x - by * y
    out[..., 0, 1], out[..., 1, 0] = bx * y - az, bx * y + az
    out[..., 0, 2], out[..., 2, 0] = bz * x + ay, bz * x - ay
    out[..., 1, 2], out[..., 2, 1] = by * z - ax, by * z + ax
    return out


def about(axis: Array, angle: Array, v: Array) -> Array:
    """Vectors turned by an angle (rad) about a unit axis, right-handed (Rodrigues' formula)."""
    sine, cosine = np.sin(angle)[..., None], np.cos(angle)[..., None]
    return v * cosine + cross(np.broadcast_to(axis, v.shape), v) * sine + axis * dot(axis, v)[..., None] * (1 - cosine)


def turn_about(axis: Array, before: Array, after: Array) -> Array:
    """Angle in radians by which a vector has turned about a unit axis, right-handed."""
    u = before - dot(before, axis)[..., None] * axis
    v = after - dot(after, axis)[..., None] * axis
    return np.arctan2(dot(cross(np.broadcast_to(u, v.shape), v), axis), dot(u, v))


def perpendicular_pair(direction: Array) -> tuple[Array, Array]:
    """Two unit vectors square to a direction and to each other."""
    helper = np.eye(3)[int(np.argmin(np.abs(direction)))]
    first = unit(cross(direction, helper))
    return first, unit(cross(direction, first))
