"""Small batched vector algebra for rigid bodies; every function broadcasts over leading axes."""

from typing import Any

import numpy as np
from numpy.typing import NDArray

Array = NDArray[Any]
"""A NumPy array; its shape and unit stand in the docstring of whoever takes or gives it."""


def cross(u: Array, v: Array) -> Array:
    """Cross product over the last axis (several times quicker than ``numpy.cross`` on small stacks)."""
    return np.stack(
        [
            u[..., 1] * v[..., 2] - u[..., 2] * v[..., 1],
            u[..., 2] * v[..., 0] - u[..., 0] * v[..., 2],
            u[..., 0] * v[..., 1] - u[..., 1] * v[..., 0],
        ],
        axis=-1,
    )


def dot(u: Array, v: Array) -> Array:
    """Inner product over the last axis."""
    return (u * v).sum(axis=-1)


def unit(v: Array) -> Array:
    """Unit vector along v."""
    return v / np.linalg.norm(v, axis=-1, keepdims=True)


def rotation(vector: Array) -> Array:
    """Rotation matrices (…, 3, 3) from rotation vectors (…, 3) in radians (Rodrigues' formula)."""
    angle = np.linalg.norm(vector, axis=-1)
    a = np.sinc(angle / np.pi)
    b = 0.5 * np.sinc(angle / (2 * np.pi)) ** 2
    x, y, z = vector[..., 0], vector[..., 1], vector[..., 2]
    zero = np.zeros_like(x)
    skew = np.stack([zero, -z, y, z, zero, -x, -y, x, zero], axis=-1).reshape(*vector.shape[:-1], 3, 3)
    return np.eye(3) + a[..., None, None] * skew + b[..., None, None] * (skew @ skew)


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
