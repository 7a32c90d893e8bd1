"""Bump stops: nothing until contact, then a rising force, then solid."""

from dataclasses import dataclass

import numpy as np

from inclinum.core.linkage.rigid import Array


@dataclass(frozen=True)
class BumpStop:
    """F = c·x^p from contact on, x the compression; solid at ``max_compression``.

    Args:
        max_compression: mm.
        coefficient: c, N/mm^p.
        power: p, more than 1. All three scalar or one per sample.
    """

    max_compression: Array | float
    coefficient: Array | float
    power: Array | float

    def force(self, compression: Array | float) -> Array:
        """Force at a compression, N."""
        return self.coefficient * np.maximum(0.0, np.asarray(compression)) ** self.power

    def stiffness(self, compression: Array | float) -> Array:
        """dF/dx at a compression, N/mm."""
        return self.coefficient * self.power * np.maximum(0.0, np.asarray(compression)) ** (self.power - 1)
