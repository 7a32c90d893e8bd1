"""The sprung mass on its four corners: heave, pitch and roll with anti-roll bars.

Axes as ISO 8855: pitch nose-down positive, roll left side up positive; rises of the body are up. Corner order is
front left, front right, rear left, rear right throughout.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Protocol

import numpy as np

from inclinum.core.document.errors import DomainError
from inclinum.core.kinematics.branch import State, Which, newton
from inclinum.core.kinematics.rigid import Array

CORNERS = ("FL", "FR", "RL", "RR")
_NEWTON_STEPS = 40
LEVERS = np.array([1.0, 1000.0, 1000.0])
"""What moments about the axes are divided by to be told as forces, mm."""
FARTHEST_STEP = np.array([40.0, 0.02, 0.04])
"""Heave, mm, pitch and roll, rad, moved at once: springs bend and stops begin."""
BALANCED_N = 1e-8
"""Force by which a body may miss its balance; over the softest springs far less than anybody reads."""


class CornerForce(Protocol):
    """What one corner carries over its travel: wheel force in N and its slope in N/mm."""

    def force_and_rate(self, z: Array | float) -> tuple[Array, Array]:
        """At wheel travels, mm, bump positive."""
        ...


@dataclass(frozen=True)
class LinearCorner:
    """A corner told by its load at travel 0 and its wheel rate; scalars or one per sample."""

    load: Array | float
    rate: Array | float

    def force_and_rate(self, z: Array | float) -> tuple[Array, Array]:
        """Wheel force, N, and rate, N/mm."""
        z = np.asarray(z, dtype=float)
        return self.load + self.rate * z, self.rate + 0 * z


@dataclass(frozen=True)
class BarOffset:
    """Where an axle's anti-roll bar is free of force: travel left less travel right, mm; and its rate."""

    rate: Array | float
    """Force on its wheel per mm of travel difference, N/mm."""
    free_at: Array | float = 0.0


@dataclass(frozen=True)
class BodyStance:
    """How the body rests, arrays of the batch shape; rows of four are the corners in order."""

    heave: Array
    """At mid wheelbase on the centre line, up, mm."""
    pitch: Array
    """Nose-down positive, rad."""
    roll: Array
    """Left side up positive, rad."""
    travel: Array
    """Wheel travel of each corner from its own baseline, (…, 4), mm."""
    load: Array
    """Spring and bar at each corner, (…, 4), N."""

    @property
    def rise(self) -> Array:
        """Of the body over each wheel, (…, 4), mm."""
        return -self.travel

    @property
    def diagonal_share(self) -> Array:
        """Front left and rear right together, of all: the cross weight."""
        return (self.load[..., 0] + self.load[..., 3]) / self.load.sum(axis=-1)


@dataclass(frozen=True)
class SprungBody:
    """Four corners under one rigid body.

    Args:
        corners: force over travel, in order.
        x, y: of the wheels, (4,), mm, in a frame with x forward and y left.
        bars: anti-roll bar of the front and of the rear axle.
    """

    corners: Sequence[CornerForce]
    x: Array
    y: Array
    bars: tuple[BarOffset, BarOffset] = (BarOffset(0.0), BarOffset(0.0))

    @property
    def middle(self) -> float:
        """Mid wheelbase, where heave is told, mm."""
        return float((self.x[0] + self.x[2]) / 2)

    def _levers(self) -> Array:
        """d(rise at a corner)/d(heave, pitch, roll), (4, 3)."""
        return np.stack([np.ones(4), -(self.x - self.middle), self.y], axis=-1)

    def _forces(self, travel: Array) -> tuple[Array, Array]:
        """Corner forces (…, 4) and their stiffness (…, 4, 4)."""
        parts = [c.force_and_rate(travel[..., i]) for i, c in enumerate(self.corners)]
        shape = travel.shape[:-1]
        force = np.stack([np.broadcast_to(f, shape) for f, _ in parts], axis=-1)
        stiffness = np.zeros((*shape, 4, 4))
        for i, (_, rate) in enumerate(parts):
            stiffness[..., i, i] = rate
        for bar, left in zip(self.bars, (0, 2), strict=True):
            right = left + 1
            push = bar.rate * (travel[..., left] - travel[..., right] - bar.free_at)
            force[..., left] += push
            force[..., right] -= push
            for i, j, sign in ((left, left, 1), (right, right, 1), (left, right, -1), (right, left, -1)):
                stiffness[..., i, j] += sign * np.asarray(bar.rate)
        return force, stiffness

    def rest(
        self, weight: Array | float, at: tuple[Array | float, Array | float], start: tuple[float, float] = (0.0, 0.0)
    ) -> BodyStance:
        """Where it rests under a weight.

        Source: derived here: the body is rigid, a corner's travel is minus its rise heave − pitch·(x − x̄) + roll·y, and
        the corner forces balance the weight and its moments about both axes; small angles.

        Args:
            weight: total sprung weight, N, scalar or per sample.
            at: its centre (x, y), mm, likewise.
            start: rise of the front and of the rear axle to look from, mm.

        Raises:
            ValueError: no attitude within half a metre carries the weight.
        """
        centre_x, centre_y = at
        weight, cx, cy = np.broadcast_arrays(*(np.asarray(v, dtype=float) for v in (weight, centre_x, centre_y)))
        shape, levers = weight.shape, self._levers()
        load = np.stack([weight, -weight * (cx - self.middle), weight * cy], axis=-1)

        def equations(state: State, which: Which) -> tuple[Array, Array]:
            force, stiffness = self._forces(-(state[0].reshape(*shape, 3) @ levers.T))
            slope = -np.einsum("ia,...ij,jb->...ab", levers, stiffness, levers)
            # Moments over their lever: everything missed is a force.
            missed = (force @ levers - load) / LEVERS
            return missed.reshape(-1, 3)[which], (slope / LEVERS[:, None]).reshape(-1, 3, 3)[which]

        def stepped(state: State, step: Array) -> State:
            return (state[0] + step * np.minimum(1.0, (FARTHEST_STEP / (np.abs(step) + 1e-15)).min(axis=-1))[:, None],)

        begun = np.zeros((weight.size, 3))
        begun[:, 0], begun[:, 1] = sum(start) / 2, (start[1] - start[0]) / (self.x[0] - self.x[2])
        (found,), missed, _ = newton(equations, stepped, (begun,), within=BALANCED_N, most=_NEWTON_STEPS)
        if not np.abs(missed).max(initial=0.0) < BALANCED_N:
            raise DomainError("The body finds no rest on its springs: check loads, rates and free lengths.")
        state = found.reshape(*shape, 3)
        travel = -(state @ levers.T)
        return BodyStance(state[..., 0], state[..., 1], state[..., 2], travel, self._forces(travel)[0])


def centre_of(loads: Array, x: Array, y: Array) -> tuple[Array, Array, Array]:
    """Weight and centre (x, y) of corner loads (…, 4).

    Args:
        loads: (…, 4), N.
        x, y: of the wheels, forward and left positive, (4,), mm.

    Source: statics, balance of moments.

    >>> where = centre_of(np.array([3000.0, 3000.0, 2000.0, 2000.0]), np.array([0.0, 0.0, -2500.0, -2500.0]),
    ...                   np.array([700.0, -700.0, 700.0, -700.0]))
    >>> [float(v) for v in where]
    [10000.0, -1000.0, 0.0]
    """
    weight = loads.sum(axis=-1)
    return weight, (loads * x).sum(axis=-1) / weight, (loads * y).sum(axis=-1) / weight
