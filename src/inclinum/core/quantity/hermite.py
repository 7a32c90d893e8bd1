"""Cubics through values whose slopes are known."""

from typing import Any

import numpy as np
from numpy.typing import NDArray
from scipy.interpolate import PPoly

Array = NDArray[np.float64]


def hermite(at: Array, values: Array, slopes: Array) -> Any:
    """Piecewise cubics through values with their slopes, as SciPy's ``PPoly``.

    Args:
        at: increasing, (N,).
        values: there, (N, …).
        slopes: d(values)/d(at), the same shape.

    Source: cubic Hermite interpolation, textbooks of numerical mathematics. SciPy's ``CubicHermiteSpline`` gives the
    same coefficients and looks its input over first, which takes three times as long as the coefficients; solved
    positions are in order and finite already.

    >>> at = np.array([0.0, 1.0, 3.0])
    >>> [round(float(v), 9) for v in hermite(at, at**3, 3 * at**2)([0.5, 2.0])]
    [0.125, 8.0]
    """
    return PPoly.construct_fast(cubics(at, values, slopes), at)


def cubics(at: Array, values: Array, slopes: Array) -> Array:
    """Their coefficients between places, the cubic's first and what stays last, (4, N − 1, …); as above."""
    wide = (at[1:] - at[:-1]).reshape(-1, *(1,) * (values.ndim - 1))
    mean = (values[1:] - values[:-1]) / wide
    bend = (slopes[:-1] + slopes[1:] - 2 * mean) / wide
    return np.array([bend / wide, (mean - slopes[:-1]) / wide - bend, slopes[:-1], values[:-1]])
