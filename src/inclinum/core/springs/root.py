"""Roots of one variable, to the last digit that matters."""

from collections.abc import Callable

from scipy.optimize import brentq


def root(function: Callable[[float], float], low: float, high: float) -> float:
    """Where a continuous function changes sign between two ends, by Brent's method.

    Raises:
        ValueError: it has the same sign at both ends.
    """
    return float(brentq(function, low, high, xtol=1e-12))  # pyright: ignore[reportArgumentType] (stubs allow a tuple)
