"""How the tolerances of what was typed spread into what is predicted."""

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np

from inclinum.core.kinematics.rigid import Array

COVERAGE = 2.0
"""A tolerance typed as ± is taken as two standard deviations, and predictions are shown the same way."""


@dataclass(frozen=True)
class Spread:
    """First-order spread of one or more results.

    ``contribution`` is |∂y/∂x|·σ per input, shape outputs + (inputs,); ``sigma`` their root sum of squares.
    """

    value: Array
    contribution: Array
    sigma: Array

    @property
    def share(self) -> Array:
        """Part of the variance that each input brings, adding up to 1 (all 0 when nothing is uncertain)."""
        total = self.sigma[..., None] ** 2
        return np.divide(self.contribution**2, total, out=np.zeros_like(self.contribution), where=total > 0)


def propagate(response: Callable[[Array], Array], values: Array, sigmas: Array) -> Spread:
    """Linear propagation: σ² = Σ(∂y/∂xᵢ·σᵢ)², inputs independent.

    Source: law of propagation of uncertainty, first order, as in the guide to the expression of uncertainty in
    measurement. It holds while the response is straight over a few σ; :func:`sample` is for those that bend.

    >>> found = propagate(lambda rows: rows[:, 0] - rows[:, 1], np.array([400.0, 380.0]), np.array([3.0, 4.0]))
    >>> round(float(found.value), 6), round(float(found.sigma), 6), found.share.round(6).tolist()
    (20.0, 5.0, [0.36, 0.64])

    Args:
        response: rows of inputs (N, n) → results (N,) or (N, m); called once, with every step in one batch.
        values, sigmas: (n,). An input with σ = 0 has no share.
    """
    step = np.where(sigmas > 0, sigmas * 1e-3, 0.0)
    rows = np.concatenate([values[None], values + np.diag(step), values - np.diag(step)])
    y = np.asarray(response(rows))
    n = values.size
    span = (y[1 : n + 1] - y[n + 1 :]).T
    slope = np.divide(span, 2 * step, out=np.zeros_like(span), where=step > 0)
    contribution = np.abs(slope) * sigmas
    return Spread(y[0], contribution, np.sqrt((contribution**2).sum(axis=-1)))


def sample(
    response: Callable[[Array], Array], values: Array, sigmas: Array, count: int, seed: int | list[int]
) -> Array:
    """Results of normal, independent random inputs, one batch: for responses that bend."""
    random = np.random.default_rng(seed)
    return np.asarray(response(values + sigmas * random.standard_normal((count, values.size))))
