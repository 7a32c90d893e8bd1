"""Length of a spring or damper over wheel travel, with its installation ratio."""

from bisect import bisect_right
from dataclasses import dataclass
from functools import cached_property
from typing import Protocol

import numpy as np

from inclinum.core.kinematics.rigid import Array
from inclinum.core.quantity.hermite import hermite


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
    def _pieces(self) -> tuple[Array, Array]:
        """Breaks, and the cubics between them with the constant term first, (4, pieces)."""
        spline = hermite(self.travel, self.lengths, -self.ratios)
        return spline.x, spline.c[::-1].copy()

    @cached_property
    def _breaks(self) -> list[float]:
        return self._pieces[0].tolist()

    @cached_property
    def _plain(self) -> list[list[float]]:
        """The cubics piece by piece as plain numbers: one position is looked up ten times faster in them."""
        return self._pieces[1].T.tolist()

    def at(self, z: Array | float) -> tuple[Array, Array, Array]:
        """Length, ratio and dMR/dz together.

        The cubics are evaluated here because its value and both slopes share one look-up, and a
        live prediction asks for them some hundred times.
        """
        breaks, (c0, c1, c2, c3) = self._pieces
        if isinstance(z, float):
            i = min(max(bisect_right(self._breaks, z) - 1, 0), len(self._breaks) - 2)
            t = z - self._breaks[i]
            d0, d1, d2, d3 = self._plain[i]
            three = 3 * d3 * t
            return (  # type: ignore[return-value]
                ((d3 * t + d2) * t + d1) * t + d0, -((three + 2 * d2) * t + d1), -2 * (three + d2),
            )  # fmt: skip
        z = np.asarray(z, dtype=float)
        piece = np.minimum(np.maximum(breaks.searchsorted(z, side="right") - 1, 0), breaks.size - 2)
        t = z - breaks[piece]
        a1, a2, a3 = c1[piece], c2[piece], c3[piece]
        length = ((a3 * t + a2) * t + a1) * t + c0[piece]
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
