"""What every spring is to the ride layer: a force over one coordinate that shortens in bump."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Protocol

import numpy as np

from inclinum.core.kinematics.rigid import Array


class Spring(Protocol):
    """Force over length. Of a torsion bar the length is an angle in rad and the force a torque in N·mm."""

    @property
    def free_length(self) -> Array | float:
        """Length at which it carries nothing, mm."""
        ...

    @property
    def solid_length(self) -> float:
        """Length it cannot be pressed below, mm; minus infinity where nothing in the spring limits it."""
        ...

    def force(self, length: Array | float) -> Array:
        """Force at a length, N; never tension."""
        ...

    def stiffness(self, length: Array | float) -> Array:
        """dF/d(shortening) at a length, N/mm."""
        ...


@dataclass(frozen=True)
class Toleranced:
    """A spring that is off: its rate by a factor, its free length by some mm; scalars or one per sample."""

    spring: Spring
    factor: Array | float = 1.0
    longer: Array | float = 0.0

    @property
    def free_length(self) -> Array:
        """With its tolerance, mm."""
        return np.asarray(self.spring.free_length) + self.longer

    @property
    def solid_length(self) -> float:
        """As of the spring."""
        return self.spring.solid_length

    def force(self, length: Array | float) -> Array:
        """Force at a length, N."""
        return self.factor * self.spring.force(np.asarray(length) - self.longer)

    def stiffness(self, length: Array | float) -> Array:
        """dF/d(shortening) at a length, N/mm."""
        return self.factor * self.spring.stiffness(np.asarray(length) - self.longer)


@dataclass(frozen=True)
class PerSample:
    """Another spring for every sample of the last axis."""

    springs: Sequence[Spring]

    @property
    def free_length(self) -> Array:
        """One per sample, mm."""
        return np.array([s.free_length for s in self.springs], dtype=float)

    @property
    def solid_length(self) -> float:
        """Of the longest one, mm."""
        return max(s.solid_length for s in self.springs)

    def _each(self, name: str, length: Array | float) -> Array:
        length = np.broadcast_to(length, np.broadcast_shapes(np.shape(length), (len(self.springs),)))
        return np.stack([getattr(s, name)(length[..., i]) for i, s in enumerate(self.springs)], axis=-1)

    def force(self, length: Array | float) -> Array:
        """Force at lengths whose last axis is the sample, N."""
        return self._each("force", length)

    def stiffness(self, length: Array | float) -> Array:
        """dF/d(shortening) at such lengths, N/mm."""
        return self._each("stiffness", length)


@dataclass(frozen=True)
class PiecewiseSpring:
    """Straight stages between corners: what closing groups, helpers and crossovers make of a force curve.

    Args:
        free_length: mm.
        shortening: corners, increasing from 0, mm.
        forces: at the corners, N.
        last_rate: beyond the last corner, N/mm.
        solid_length: mm.
    """

    free_length: float
    shortening: tuple[float, ...]
    forces: tuple[float, ...]
    last_rate: float
    solid_length: float

    @property
    def rates(self) -> Array:
        """Rate of every stage, N/mm; the last one goes on."""
        return np.append(np.diff(self.forces) / np.diff(self.shortening), self.last_rate)

    def force(self, length: Array | float) -> Array:
        """Force at a length, N."""
        pressed = np.maximum(0.0, self.free_length - np.asarray(length, dtype=float))
        beyond = np.maximum(0.0, pressed - self.shortening[-1])
        return np.interp(pressed, self.shortening, self.forces) + self.last_rate * beyond

    def stiffness(self, length: Array | float) -> Array:
        """dF/d(shortening) at a length, N/mm: of the stage the length lies in."""
        pressed = self.free_length - np.asarray(length, dtype=float)
        stage = np.clip(np.searchsorted(self.shortening, pressed, side="right") - 1, 0, len(self.shortening) - 1)
        return np.where(pressed > 0, self.rates[stage], 0.0)
