"""Coordinates from readings and a prior, whatever they are of: what fits best, how well it is known, what to read next.

Minimised is Σ((g(p) − m)/σ)² over the readings plus Σ((p − p₀)/σ₀)² over all coordinates. The Jacobian at the solution
gives the covariance C = (JᵀJ)⁻¹.

Source: least squares with a Gaussian prior, textbooks of parameter estimation; the readings are taken as independent
and straight over a few σ about the solution.
"""

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from scipy.optimize import least_squares

from inclinum.core.kinematics.rigid import Array

CONTRADICTION_SIGMAS = 3.0
"""A reading that the best fit misses by more than this is not believable beside the others."""


@dataclass(frozen=True)
class Posterior:
    """What readings make of a prior.

    Args:
        shift: of every coordinate from its prior, (n,).
        covariance: of the coordinates, (n, n).
    """

    shift: Array
    covariance: Array

    def variance(self, effect: Array) -> Array:
        """Variance of results whose slope by the coordinates is ``effect``, (k, n) or (n,)."""
        return np.einsum("...i,ij,...j->...", effect, self.covariance, effect)

    def gain(self, effect: Array, slope: Array, sigma: float) -> Array:
        """What one more reading would take off the variance of results, (k,) or a scalar.

        Args:
            effect: slope of the results by the coordinates, (k, n) or (n,).
            slope: of the reading by the coordinates, (n,).
            sigma: of the reading.

        Source: derived here: C' = C − C·h·hᵀ·C/(hᵀ·C·h + σ²), the update of a covariance by one reading.
        """
        seen = self.covariance @ slope
        return (effect @ seen) ** 2 / (slope @ seen + sigma**2)


def posterior(
    missed: Callable[[Array], Array], sigma: Array, *, bound: float = np.inf, within: float = 1e-12
) -> Posterior:
    """The coordinates that readings and their prior agree on best.

    Args:
        missed: shift of the coordinates (n,) → reading by reading what the drawing shows less what was read, over the
            reading's σ.
        sigma: of the prior, (n,).
        bound: as many σ a coordinate may go at most.
        within: relative step at which it is found.

    One coordinate at 0 ± 2 read as 5 ± 1 ends at 4, and is known to 0.894:

    >>> found = posterior(lambda x: (x - 5.0) / 1.0, np.array([2.0]))
    >>> round(float(found.shift[0]), 6), round(float(found.covariance[0, 0] ** 0.5), 3)
    (4.0, 0.894)
    """
    best = least_squares(
        lambda x: np.concatenate([missed(x), x / sigma]), np.zeros_like(sigma),
        bounds=(-bound * sigma, bound * sigma), x_scale=sigma, xtol=within,
    )  # fmt: skip
    return Posterior(best.x, np.linalg.inv(best.jac.T @ best.jac))
