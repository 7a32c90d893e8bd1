"""Length of a spring or damper over wheel travel, with its installation ratio."""

from dataclasses import dataclass
from functools import cached_property
from typing import Protocol

import numpy as np
from scipy.interpolate import CubicHermiteSpline

from inclinum.core.linkage.rigid import Array


class LengthCurve(Protocol):
    """What the ride layer asks of a linkage; z is wheel travel in mm, bump positive."""

    def length(self, z: Array | float) -> Array:
        """Length, mm."""
        ...

    def ratio(self, z: Array | float) -> Array:
        """Installation ratio MR = −dL/dz."""
        ...

    def ratio_slope(self, z: Array | float) -> Array:
        """dMR/dz, 1/mm."""
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

    def ratio_slope(self, z: Array | float) -> Array:
        """dMR/dz, 1/mm."""
        return 2 * self.b + 0 * np.asarray(z)


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
    def _spline(self) -> CubicHermiteSpline:
        return CubicHermiteSpline(self.travel, self.lengths, -self.ratios)

    @cached_property
    def _slope(self) -> CubicHermiteSpline:
        return self._spline.derivative()

    @cached_property
    def _curvature(self) -> CubicHermiteSpline:
        return self._spline.derivative(2)

    def length(self, z: Array | float) -> Array:
        """Length, mm."""
        return self._spline(z)

    def ratio(self, z: Array | float) -> Array:
        """Installation ratio."""
        return -self._slope(z)

    def ratio_slope(self, z: Array | float) -> Array:
        """dMR/dz, 1/mm."""
        return -self._curvature(z)


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

    def ratio_slope(self, z: Array | float) -> Array:
        """dMR/dz, 1/mm."""
        return self.factor * self.curve.ratio_slope(z)
