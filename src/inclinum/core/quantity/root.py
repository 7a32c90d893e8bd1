"""Roots of one variable: one at a time, or one for each of many samples at once."""

from collections.abc import Callable

import numpy as np
from numpy.typing import NDArray
from scipy.optimize import brentq

Array = NDArray[np.float64]
MOST_STEPS = 80
"""Halving alone would find a root of a metre to a thousandth of a micrometre in 40."""
SETTLED = 1e-10
"""Newton is quadratic: where nothing bends, a step this small has landed far more finely than it is long. Where the
slope jumps just short of the root, of a rubber that is barely touched, the root may still lie as many such steps away
as the rubber is stiffer than the spring: a hundred times, say, and that is a hundred-millionth of a millimetre."""


def root(function: Callable[[float], float], low: float, high: float) -> float:
    """Where a continuous function changes sign between two ends, by Brent's method.

    Raises:
        ValueError: it has the same sign at both ends.
    """
    return float(brentq(function, low, high, xtol=1e-12))  # pyright: ignore[reportArgumentType] (stubs allow a tuple)


def cell(at: Array, values: Array, wanted: float) -> tuple[float, float, float]:
    """Between which two of a table's places a quantity first comes up to a value, and where on a line between them.

    Args:
        at, values: the table, places increasing.
        wanted: more than its first value and no more than its greatest.

    >>> cell(np.array([0.0, 2.0, 4.0]), np.array([0.0, 1.0, 5.0]), 2.0)
    (2.0, 4.0, 2.5)
    """
    i = int(np.argmax(values >= wanted))
    (low, high), (less, more) = at[i - 1 : i + 1].tolist(), values[i - 1 : i + 1].tolist()
    return low, high, low + (high - low) * (wanted - less) / (more - less)


def rising_root(rising: Callable[[float], tuple[float, float]], low: float, high: float, start: float) -> float:
    """Where one function rises through zero, as :func:`roots`, in plain numbers: of arrays so small calls cost most.

    Args:
        rising: position → value and slope.
        low, high: ends between which it rises through zero.
        start: where to begin, between them.

    >>> round(rising_root(lambda x: (x**2 - 2.0, 2 * x), 0.0, 2.0, 1.0)**2, 9)
    2.0
    """
    at = start
    for _ in range(MOST_STEPS):
        value, slope = rising(at)
        low, high = (at if value <= 0 else low), (at if value >= 0 else high)
        step = at - value / slope if slope else low
        # A step too short to leave the end of its bracket has arrived; halving from there would begin all over.
        arrived = abs(step - at) < SETTLED
        nearer = step if arrived or low < step < high else (low + high) / 2
        settled = abs(nearer - at) < SETTLED
        at = nearer
        if settled:
            break
    return at


def roots(rising: Callable[[Array], tuple[Array, Array]], low: Array, high: Array, start: Array) -> Array:
    """Where rising functions are zero, for all samples at once.

    Args:
        rising: positions → values and slopes, all of one shape; each value rises through zero between its ends.
        low, high: ends between which each root lies.
        start: where to begin, between them.

    Source: Newton's method kept inside a bracket by bisection, textbooks of numerical mathematics (safeguarded Newton).

    >>> ends = np.zeros(2), np.full(2, 3.0)
    >>> [round(float(r), 9) for r in roots(lambda x: (x**2 - [1.0, 4.0], 2 * x), *ends, np.full(2, 1.5))]
    [1.0, 2.0]
    """
    at = start
    for _ in range(MOST_STEPS):
        value, slope = rising(at)
        low, high = np.where(value <= 0, at, low), np.where(value >= 0, at, high)
        with np.errstate(divide="ignore", invalid="ignore"):
            step = at - value / slope
        good = np.isfinite(step) & ((step > low) & (step < high) | (np.abs(step - at) < SETTLED))
        nearer = np.where(good, step, (low + high) / 2)
        settled = bool(np.all(np.abs(nearer - at) < SETTLED))
        at = nearer
        if settled:
            break
    return at
