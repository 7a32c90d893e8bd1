"""Torsion bars: rate, the angle an arm rests at, and re-indexing by two unequal splines."""

from dataclasses import dataclass

import numpy as np

from inclinum.core.kinematics.rigid import Array
from inclinum.core.quantity.root import root
from inclinum.core.springs.coil import STEEL_SHEAR_MODULUS


def bar_rate(diameter: float, length: float, shear: float = STEEL_SHEAR_MODULUS) -> float:
    """Rate of a round bar in torsion, N·mm/rad: Kt = π·G·d⁴/(32·l).

    Args:
        diameter: d, mm.
        length: active length l, mm.
        shear: G, N/mm².

    Source: torsion of a round bar, textbooks of strength of materials: φ = M·l/(G·Ip), Ip = π·d⁴/32.

    >>> round(bar_rate(24.0, 1000.0) / 1e6, 3)
    2.583
    """
    return float(np.pi * shear * diameter**4 / (32 * length))


@dataclass(frozen=True)
class TrailingTorsion:
    """A trailing arm of length a on a bar; angles below horizontal, rad.

    W·a·cosθ = Kt·(θ0 − θ) with the load W vertical at the wheel.

    Source: derived here: moments about the bar. The wheel rate is dW/dz with z = −a·sinθ.
    """

    rate: float
    arm: float
    free_angle: float

    def load(self, angle: Array | float) -> Array:
        """Wheel load carried at an arm angle, N."""
        angle = np.asarray(angle, dtype=float)
        return self.rate * (self.free_angle - angle) / (self.arm * np.cos(angle))

    def ride_angle(self, load: float, free_angle: float | None = None) -> float:
        """Angle at which a load is carried, rad; NaN where none between straight down and up carries it."""
        free = self.free_angle if free_angle is None else free_angle

        def miss(angle: float) -> float:
            return self.rate * (free - angle) - load * self.arm * np.cos(angle)

        low = -np.pi / 2 + 1e-6
        if not low < free < -low or miss(low) <= 0:
            return float("nan")
        return root(miss, low, free)

    def wheel_rate(self, load: float) -> float:
        """At the ride angle, N/mm: (Kt − W·a·sinθ)/(a·cosθ)²."""
        angle = self.ride_angle(load)
        return (self.rate - load * self.arm * np.sin(angle)) / (self.arm * np.cos(angle)) ** 2

    def rise(self, load: float, free_angle_change: float) -> float:
        """Body rise when the free angle grows, mm: a·(sinθ' − sinθ)."""
        was, now = self.ride_angle(load), self.ride_angle(load, self.free_angle + free_angle_change)
        return float(self.arm * (np.sin(now) - np.sin(was)))


@dataclass(frozen=True)
class Splines:
    """Teeth at the bar's ends, and what a tooth towards the bar's plus side does to the free angle there.

    Source: derived here: a tooth is 2π/n, and both ends turn the same bar.

    >>> round(float(np.degrees(Splines(30, 32).change(1, 1))), 3)
    0.75
    """

    inner_teeth: int
    outer_teeth: int
    inner_sign: int = 1
    outer_sign: int = -1

    def change(self, inner: int, outer: int) -> float:
        """Change of the free angle, rad: 2π·(sᵢ·i/nᵢ + sₒ·o/nₒ); positive raises the body."""
        return 2 * np.pi * (self.inner_sign * inner / self.inner_teeth + self.outer_sign * outer / self.outer_teeth)

    def combinations(self, window: int, largest: float) -> list[tuple[int, int]]:
        """Index pairs up to ±window whose change of the free angle is at most ``largest``, rad; inner outermost."""
        steps = range(-window, window + 1)
        return [(i, o) for i in steps for o in steps if abs(self.change(i, o)) <= largest + 1e-12]
