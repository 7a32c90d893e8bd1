"""Length of a spring or damper over wheel travel, with its installation ratio."""

from bisect import bisect_right
from dataclasses import dataclass
from functools import cached_property
from typing import Protocol

import numpy as np

from inclinum.core.kinematics.rigid import Array
from inclinum.core.quantity.hermite import cubics


class LengthCurve(Protocol):
    """What the ride layer asks of a linkage; z is wheel travel in mm, bump positive."""

    def length(self, z: Array | float) -> Array:
        """Length, mm."""
        ...

    def ratio(self, z: Array | float) -> Array:
        """Installation ratio MR = −dL/dz."""
        ...

    def at(self, z: Array | float) -> tuple[Array, Array, Array]:
        """Length, ratio and dMR/dz (1/mm) together."""
        ...


@dataclass(frozen=True)
class QuadraticLength:
    """L(z) = Lb − a·z − b·z²; parameters scalar or one per sample."""

    at_baseline: Array | float
    a: Array | float
    b: Array | float

    def length(self, z: Array | float) -> Array:
        """Length, mm."""
        z = np.asarray(z)
        return self.at_baseline - self.a * z - self.b * z**2

    def ratio(self, z: Array | float) -> Array:
        """Installation ratio."""
        return self.a + 2 * self.b * np.asarray(z)

    def at(self, z: Array | float) -> tuple[Array, Array, Array]:
        """Length, ratio and dMR/dz together."""
        return self.length(z), self.ratio(z), 2 * self.b + 0 * np.asarray(z)


@dataclass(frozen=True)
class SampledLength:
    """A cubic Hermite curve through solved positions, their exact ratios as slopes.

    Args:
        travel: increasing, mm.
        lengths: at those travels, mm.
        ratios: −dL/dz at those travels.
    """

    travel: Array
    lengths: Array
    ratios: Array

    @cached_property
    def _pieces(self) -> Array:
        """The cubics between solved positions, the constant term first, (4, pieces)."""
        return cubics(self.travel, self.lengths, -self.ratios)[::-1]

    @cached_property
    def _breaks(self) -> list[float]:
        return self.travel.tolist()

    @cached_property
    def _plain(self) -> list[list[float]]:
        """The cubics piece by piece as plain numbers: one position is looked up ten times faster in them."""
        return self._pieces.T.tolist()

    def at(self, z: Array | float) -> tuple[Array, Array, Array]:
        """Length, ratio and dMR/dz together.

        The cubics are evaluated here because its value and both slopes share one look-up, and a
        live prediction asks for them some hundred times.
        """
        if isinstance(z, float):
            breaks = self._breaks
            i = min(max(bisect_right(breaks, z) - 1, 0), len(breaks) - 2)
            t = z - breaks[i]
            d0, d1, d2, d3 = self._plain[i]
            three = 3 * d3 * t
            return (  # type: ignore[return-value]
                ((d3 * t + d2) * t + d1) * t + d0, -((three + 2 * d2) * t + d1), -2 * (three + d2),
            )  # fmt: skip
        z = np.asarray(z, dtype=float)
        piece = np.minimum(np.maximum(self.travel.searchsorted(z, side="right") - 1, 0), self.travel.size - 2)
        t = z - self.travel[piece]
        a0, a1, a2, a3 = self._pieces[:, piece]
        length = ((a3 * t + a2) * t + a1) * t + a0
        return length, -((3 * a3 * t + 2 * a2) * t + a1), -(6 * a3 * t + 2 * a2)

    def length(self, z: Array | float) -> Array:
        """Length, mm."""
        return self.at(z)[0]

    def ratio(self, z: Array | float) -> Array:
        """Installation ratio."""
        return self.at(z)[1]


@dataclass(frozen=True)
class ScaledLength:
    """Another curve whose changes of length are all off by a factor: a ratio known only so well."""

    curve: LengthCurve
    factor: Array | float
    about: float = 0.0

    def length(self, z: Array | float) -> Array:
        """Length, mm; unchanged at travel ``about``."""
        base = self.curve.length(self.about)
        return base + self.factor * (self.curve.length(z) - base)

    def ratio(self, z: Array | float) -> Array:
        """Installation ratio."""
        return self.factor * self.curve.ratio(z)

    def at(self, z: Array | float) -> tuple[Array, Array, Array]:
        """Length, ratio and dMR/dz together."""
        length, ratio, slope = self.curve.at(z)
        base = self.curve.length(self.about)
        return base + self.factor * (length - base), self.factor * ratio, self.factor * slope
