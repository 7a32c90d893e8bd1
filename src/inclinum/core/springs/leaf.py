"""Leaf packs: rate from the leaves, ride arch, and what block, shackle and U-bolts do with them."""

from dataclasses import dataclass

import numpy as np

from inclinum.core.kinematics.rigid import Array

STEEL_MODULUS = 206_000.0
"""E of spring steel, N/mm²."""


def leaf_rate(leaves: int, width: float, thickness: float, length: float, modulus: float = STEEL_MODULUS) -> float:
    """Rate of a semi-elliptic pack of uniform strength, N/mm: k = (8/3)·E·n·b·t³/L³.

    Args:
        leaves: number n.
        width: b, mm.
        thickness: of one leaf t, mm.
        length: eye to eye along the full effective length L, mm; nothing is taken off for the clamp.
        modulus: E, N/mm².

    Source: beam of uniform strength, textbooks of strength of materials: each half is a cantilever of length L/2 and
    its trapezoid of leaves bends with constant curvature, δ = F·(L/2)³/(2·E·I) with I = n·b·t³/12 for half the load.

    >>> round(leaf_rate(leaves=7, width=60.0, thickness=7.0, length=1300.0), 2)
    36.02
    """
    return 8 / 3 * modulus * leaves * width * thickness**3 / length**3


@dataclass(frozen=True)
class LeafPack:
    """A pack, with helper leaves that join after a deflection of the main ones.

    Source: derived here: two springs side by side from contact on, F = k·x + kₕ·max(0, x − c).

    >>> LeafPack(rate=30.0, free_arch=140.0, helper_rate=40.0, helper_contact=90.0).deflection(3400.0)
    100.0

    Args:
        rate: of the main pack, N/mm.
        helper_rate: of the helper leaves, N/mm.
        helper_contact: deflection of the main pack at which they are met, mm.
        free_arch: from the eyes' line to the seat with no load, mm.
        arch_at_baseline: the same at travel 0, mm; the length the ride layer sees is zero there.
    """

    rate: float
    free_arch: float
    helper_rate: float = 0.0
    helper_contact: float = float("inf")
    arch_at_baseline: float = 0.0

    @property
    def free_length(self) -> float:
        """Free end of the coordinate that is zero at baseline and falls in bump, mm."""
        return self.free_arch - self.arch_at_baseline

    @property
    def solid_length(self) -> float:
        """Nothing in the pack ends its travel."""
        return -float("inf")

    def deflection(self, load: float) -> float:
        """From free, under a load on the pack, mm."""
        alone = load / self.rate
        if alone <= self.helper_contact:
            return alone
        at_contact = self.rate * self.helper_contact
        return self.helper_contact + (load - at_contact) / (self.rate + self.helper_rate)

    def rate_at(self, deflection: float) -> float:
        """Rate at a deflection, N/mm."""
        return self.rate + (self.helper_rate if deflection > self.helper_contact else 0.0)

    def force(self, length: Array | float) -> Array:
        """Force at a length, N."""
        bent = np.maximum(0.0, self.free_length - np.asarray(length, dtype=float))
        return self.rate * bent + self.helper_rate * np.maximum(0.0, bent - self.helper_contact)

    def stiffness(self, length: Array | float) -> Array:
        """dF/d(deflection) at a length, N/mm."""
        bent = self.free_length - np.asarray(length, dtype=float)
        return np.where(bent > 0, self.rate, 0.0) + np.where(bent > self.helper_contact, self.helper_rate, 0.0)


def shackle_rise(longer: float, fixed_eye_to_axle: float, eye_to_eye: float) -> float:
    """Rise at the axle by a longer shackle, mm: s·(fixed eye to axle)/(eye to eye), about half.

    Args:
        longer: how much longer the shackle is, mm.
        fixed_eye_to_axle: along the eyes' line, mm.
        eye_to_eye: mm.

    Source: derived here: the eyes' line turns about the fixed eye; first order, shackle hanging straight down.

    >>> shackle_rise(50.0, 620.0, 1240.0)
    25.0
    """
    return longer * fixed_eye_to_axle / eye_to_eye


def block_rise(thickness: float, *, spring_over_axle: bool) -> float:
    """Rise by a block, mm: up when the spring sits over the axle, down when it hangs under it.

    Source: derived here: a sum of lengths.
    """
    return thickness if spring_over_axle else -thickness


def u_bolt_leg(
    pack: float, block: float, tube: float, seat: float, plate: float, washer: float, nut: float, threads: float
) -> float:
    """Leg of a U-bolt from the inside of its bend: everything it clamps, nut, and the threads beyond it, mm.

    Args:
        pack, block, tube, seat, plate, washer, nut: heights of what lies in the clamp, mm.
        threads: to stand out beyond the nut, mm.

    Source: derived here: a sum of lengths.
    """
    return pack + block + tube + seat + plate + washer + nut + threads
