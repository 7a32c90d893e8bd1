"""What carries a point that is neither on the chassis nor simply on the upright: an arm, a link, a rocker.

Springs, dampers and rods stand on such points. Each carrier gives where its point is, and how fast it moves
per millimetre of travel, from where the points it depends on are.
"""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Protocol

import numpy as np

from inclinum.core.kinematics.constraints import Adjustment, turn_to_reach
from inclinum.core.kinematics.rigid import Array, about, cross, dot, rotation, unit

Moving = tuple[Array, Array]
"""Where a point is and its rate per travel, both shape + (3,)."""
Places = Callable[[str], Moving]
"""Where any other point is, by name."""
Neutral = Callable[[str], Array]
"""Where any point lies at baseline, with its adjustment, (3,) or (S, 1, 3)."""


class Carrier(Protocol):
    """Carries a named point."""

    def place(self, name: str, now: Places, neutral: Neutral, adjusted: Adjustment) -> Moving:
        """Where the point is and how it moves."""
        ...


def _frame(first: Array, second: Array, outer: Array) -> Array:
    """Axes of an arm as columns, (…, 3, 3): along its pivot line, square to it towards the joint, and across."""
    along = unit(second - first)
    span = outer - first
    toward = unit(span - dot(span, along)[..., None] * along)
    return np.stack(np.broadcast_arrays(along, toward, cross(along, toward)), axis=-1)


@dataclass(frozen=True)
class OnArm:
    """An arm turning on the chassis line first–second, its joint ``outer`` moved by the upright."""

    first: str
    second: str
    outer: str

    def place(self, name: str, now: Places, neutral: Neutral, adjusted: Adjustment) -> Moving:
        """The arm keeps its shape of the neutral points, also when its pivots are moved."""
        (first, _), (second, _) = now(self.first), now(self.second)
        outer, outer_rate = now(self.outer)
        shape = _frame(neutral(self.first), neutral(self.second), neutral(self.outer))
        local = np.einsum("...ji,...j->...i", shape, neutral(name) - neutral(self.first))
        axes = _frame(first, second, outer)
        at = first + np.einsum("...ij,...j->...i", axes, local)
        axis, span = axes[..., 0], outer - first
        square = span - dot(span, axis)[..., None] * axis
        turning = dot(cross(axis, square), outer_rate) / dot(square, square)
        return at, cross(axis, at - first) * turning[..., None]


@dataclass(frozen=True)
class OnLink:
    """A seat on the line of a link, whose own spin is free: the fraction from ``inner`` to ``outer``."""

    inner: str
    outer: str
    fraction: float

    def place(self, name: str, now: Places, neutral: Neutral, adjusted: Adjustment) -> Moving:
        """The point between the ends."""
        (inner, inner_rate), (outer, outer_rate) = now(self.inner), now(self.outer)
        f = self.fraction
        return inner + f * (outer - inner), inner_rate + f * (outer_rate - inner_rate)


@dataclass(frozen=True)
class OnRocker:
    """A rocker turning on the chassis line first–second, moved by a rod from ``rod_outer`` to ``rod_rocker``."""

    first: str
    second: str
    rod_outer: str
    rod_rocker: str

    def place(self, name: str, now: Places, neutral: Neutral, adjusted: Adjustment) -> Moving:
        """Turned until the rod has its length; NaN where the rod cannot reach."""
        (first, _), (second, _) = now(self.first), now(self.second)
        outer, outer_rate = now(self.rod_outer)
        pivot, line = neutral(self.first), unit(neutral(self.second) - neutral(self.first))
        axis = unit(second - first)
        # The rocker keeps its shape on an axis that was hung elsewhere, or leaning.
        swing = cross(np.broadcast_to(line, axis.shape), axis)
        size = np.linalg.norm(swing, axis=-1, keepdims=True)
        leant = rotation(swing / np.maximum(size, 1e-15) * np.arcsin(np.minimum(size, 1.0)))

        def shaped(point: Array) -> Array:
            return np.einsum("...ij,...j->...i", leant, np.broadcast_to(point - pivot, outer.shape))

        arm = shaped(neutral(self.rod_rocker))
        length = np.linalg.norm(neutral(self.rod_outer) - neutral(self.rod_rocker), axis=-1)
        longer = np.asarray(adjusted.lengthened.get(self.rod_rocker, 0.0), dtype=float)
        length = length + (longer[:, None] if longer.ndim else longer)
        angle = turn_to_reach(axis, arm, outer - first, length)
        end = about(axis, angle, arm)
        rod = first + end - outer
        turning = dot(rod, outer_rate) / dot(rod, cross(axis, end))
        at = about(axis, angle, shaped(neutral(name)))
        return first + at, cross(axis, at) * turning[..., None]
