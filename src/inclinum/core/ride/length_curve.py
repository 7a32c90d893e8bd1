"""Length of a spring or damper over wheel travel, with its installation ratio."""

from dataclasses import dataclass
from functools import cached_property
from typing import Protocol

import numpy as np
from scipy.interpolate import CubicHermiteSpline, PPoly

from inclinum.core.linkage.rigid import Array


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
    def _curve(self) -> PPoly:
        """One piecewise polynomial whose value is the triple (length, ratio, dMR/dz)."""
        spline = CubicHermiteSpline(self.travel, self.lengths, -self.ratios)
        padded = np.zeros((*spline.c.shape, 3))
        padded[..., 0] = spline.c
        padded[1:, :, 1] = -spline.derivative().c
        padded[2:, :, 2] = -spline.derivative(2).c
        return PPoly(padded, spline.x)

    def at(self, z: Array | float) -> tuple[Array, Array, Array]:
        """Length, ratio and dMR/dz together."""
        value = self._curve(z)
        return value[..., 0], value[..., 1], value[..., 2]

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
