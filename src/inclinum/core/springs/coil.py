"""Linear coil springs: force as a function of length, and the rate that the wire gives."""

from dataclasses import dataclass

import numpy as np

from inclinum.core.kinematics.rigid import Array

STEEL_SHEAR_MODULUS = 79_300.0
"""G of spring steel, N/mm²."""


def wire_rate(wire: float, mean_diameter: float, active_coils: float, shear: float = STEEL_SHEAR_MODULUS) -> float:
    """Rate of a helical compression spring, N/mm: k = G·d⁴ / (8·D³·n).

    Args:
        wire: wire diameter d, mm.
        mean_diameter: outside diameter less one wire diameter D, mm.
        active_coils: coils that work n.
        shear: shear modulus G, N/mm².

    Source: torsion of a round wire wound to a helix, textbooks of machine elements, chapter on springs; EN 13906-1.
    Holds for D/d from 4 to 20 and little pitch.

    >>> round(wire_rate(13.5, 118.0, 8.5), 4)
    23.5751
    """
    return shear * wire**4 / (8 * mean_diameter**3 * active_coils)


def wire_solid_length(wire: float, total_coils: float) -> float:
    """Length with every coil touching, ends not ground away, mm: d·nt.

    Args:
        wire: wire diameter d, mm.
        total_coils: nt, working ones and dead ones.

    Source: derived here: a pile of nt wires. Ground ends take up to one wire less.

    >>> wire_solid_length(12.0, 7.5)
    90.0
    """
    return wire * total_coils


def bind_margin_wanted(active_coils: float | None) -> float:
    """Room to keep before coils touch: 1 mm per active coil or 5 mm, whichever is more."""
    return max(5.0, active_coils or 0.0)


@dataclass(frozen=True)
class CoilSpring:
    """F = k·(L0 − L), never tension.

    Source: Hooke's law, with the spring free to leave its seat.

    Args:
        rate: N/mm, scalar or one per sample.
        free_length: mm, likewise.
        solid_length: mm.
        active_coils: for the bind margin; unknown when None.
    """

    rate: Array | float
    free_length: Array | float
    solid_length: float = 0.0
    active_coils: float | None = None

    def force(self, length: Array | float) -> Array:
        """Force at a length, N."""
        return np.asarray(self.rate) * np.maximum(0.0, self.free_length - np.asarray(length))

    def stiffness(self, length: Array | float) -> Array:
        """dF/d(shortening) at a length, N/mm: nothing once the spring is loose."""
        return np.where(np.asarray(length) < self.free_length, self.rate, 0.0)

    def length_at(self, force: Array | float) -> Array:
        """Length under a force, mm."""
        return self.free_length - np.asarray(force) / self.rate
