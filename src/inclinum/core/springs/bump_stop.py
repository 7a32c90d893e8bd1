"""Bump stops: nothing until contact, then a rising force, then solid."""

from dataclasses import dataclass

import numpy as np

from inclinum.core.kinematics.rigid import Array


@dataclass(frozen=True)
class BumpStop:
    """F = c·x^p from contact on, x the compression; solid at ``max_compression``.

    Source: a power law fitted to a stop's force curve; two points of it give c and p. It holds for slow squeezing.

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


@dataclass(frozen=True)
class TableStop:
    """A bump stop by table: force over compression from contact, straight between rows.

    Args:
        compression: increasing from 0, mm.
        forces: rising, N.
    """

    compression: tuple[float, ...]
    forces: tuple[float, ...]

    @property
    def max_compression(self) -> float:
        """Last row, mm."""
        return self.compression[-1]

    def force(self, compression: Array | float) -> Array:
        """Force at a compression, N; beyond the table the last stage goes on."""
        x = np.maximum(0.0, np.asarray(compression, dtype=float))
        slope = (self.forces[-1] - self.forces[-2]) / (self.compression[-1] - self.compression[-2])
        return np.interp(x, self.compression, self.forces) + slope * np.maximum(0.0, x - self.compression[-1])

    def stiffness(self, compression: Array | float) -> Array:
        """dF/dx at a compression, N/mm."""
        x = np.asarray(compression, dtype=float)
        slopes = np.diff(self.forces) / np.diff(self.compression)
        stage = np.clip(np.searchsorted(self.compression, x, side="right") - 1, 0, slopes.size - 1)
        return np.where(x > 0, slopes[stage], 0.0)


@dataclass(frozen=True)
class TopOut:
    """A top-out spring in the damper: it pulls back once the damper is longer than ``contact``.

    Source: Hooke's law from contact on.

    Args:
        rate: N/mm.
        contact: damper length at which it is met, mm.
    """

    rate: float
    contact: float

    def force(self, damper_length: Array | float) -> Array:
        """Pull at a damper length, N."""
        return self.rate * np.maximum(0.0, np.asarray(damper_length) - self.contact)

    def stiffness(self, damper_length: Array | float) -> Array:
        """d(pull)/d(length), N/mm."""
        return np.where(np.asarray(damper_length) > self.contact, self.rate, 0.0)
