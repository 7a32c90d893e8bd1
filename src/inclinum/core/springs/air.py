"""Air springs, and the levelling sensor that holds their height."""

from dataclasses import dataclass

import numpy as np

from inclinum.core.kinematics.rigid import Array
from inclinum.core.quantity.constants import ATMOSPHERE
from inclinum.core.quantity.root import root

SLOW, QUICK = 1.0, 1.3
"""Polytropic exponents of slow and of quick movements."""


@dataclass(frozen=True)
class AirBag:
    """A bag whose area is linear in its height; closed valves, p_abs·Vⁿ constant.

    Source: polytropic change of a gas, textbooks of thermodynamics; n is 1 for slow movements and about 1.3 for quick
    ones of air. Force and rate are derived here: F = p·A, dV/dh = A, and −dF/dh by the product rule.

    >>> bag = AirBag(height=200.0, area=10_000.0, area_slope=0.0, volume=2e6, pressure=0.4)
    >>> round(float(bag.force(200.0)), 1), round(float(bag.stiffness(200.0)), 3)
    (4000.0, 25.066)

    Args:
        height: at baseline, mm.
        area: effective, at baseline, mm².
        area_slope: dA/dh, mm²/mm.
        volume: at baseline, mm³.
        pressure: gauge, at baseline, N/mm².
        exponent: polytropic n.
        atmosphere: N/mm².
    """

    height: float
    area: float
    area_slope: float
    volume: float
    pressure: Array | float
    exponent: float = SLOW
    atmosphere: float = ATMOSPHERE

    @property
    def free_length(self) -> float:
        """A bag has no free length; what it would carry nothing at lies far above any height."""
        return self.height + 1000.0

    @property
    def solid_length(self) -> float:
        """The bag's own inner stop is not known here."""
        return -float("inf")

    def area_at(self, height: Array | float) -> Array:
        """Effective area, mm²."""
        return self.area + self.area_slope * (np.asarray(height) - self.height)

    def volume_at(self, height: Array | float) -> Array:
        """Volume, mm³, by dV/dh = A."""
        rise = np.asarray(height) - self.height
        return self.volume + self.area * rise + self.area_slope * rise**2 / 2

    def pressure_at(self, height: Array | float) -> Array:
        """Gauge pressure with the valves closed, N/mm²."""
        volume = np.maximum(self.volume_at(height), 1.0)
        return (self.pressure + self.atmosphere) * (self.volume / volume) ** self.exponent - self.atmosphere

    def force(self, length: Array | float) -> Array:
        """F = A·p_gauge, N; a bag does not pull."""
        return np.maximum(0.0, self.area_at(length) * self.pressure_at(length))

    def stiffness(self, length: Array | float) -> Array:
        """−dF/dh = n·p_abs·A²/V − p_gauge·dA/dh, N/mm."""
        area, volume, gauge = self.area_at(length), np.maximum(self.volume_at(length), 1.0), self.pressure_at(length)
        return self.exponent * (gauge + self.atmosphere) * area**2 / volume - gauge * self.area_slope

    def gauge_for(self, force: Array | float, height: Array | float) -> Array:
        """Gauge pressure that carries a force at a height, N/mm²."""
        return np.asarray(force) / self.area_at(height)


@dataclass(frozen=True)
class LevelSensor:
    """A planar sensor arm on the body, linked to the suspension arm (x forward, z up, mm; angles in rad).

    The system holds the sensor's angle, so its arm's tip is a fixed point of the body: a longer link turns the
    suspension arm until the tip is its new length away.

    Source: derived here: |tip − link point turned about the suspension arm's pivot| = link length.
    """

    pivot: tuple[float, float]
    arm: float
    held_angle: float
    suspension_pivot: tuple[float, float]
    link_point: tuple[float, float]
    wheel: tuple[float, float]
    search: float
    """Turn of the suspension arm looked through both ways, rad."""

    @property
    def tip(self) -> Array:
        """End of the sensor's arm."""
        return np.array(self.pivot) + self.arm * np.array([np.cos(self.held_angle), np.sin(self.held_angle)])

    @property
    def link_length(self) -> float:
        """At baseline, mm."""
        return float(np.hypot(*(self.tip - np.array(self.link_point))))

    def _turned(self, point: tuple[float, float], turn: float) -> Array:
        c, s = np.cos(turn), np.sin(turn)
        hub = np.array(self.suspension_pivot)
        return hub + np.array([[c, -s], [s, c]]) @ (np.array(point) - hub)

    def travel(self, turn: float) -> float:
        """Wheel travel at a turn of the suspension arm, mm."""
        return float(self._turned(self.wheel, turn)[1] - self.wheel[1])

    def turn_for(self, longer: float) -> float | None:
        """Turn of the suspension arm with a link longer by so much, rad: the one nearest baseline; None if none is."""
        wanted = self.link_length + longer

        def miss(turn: float) -> float:
            return float(np.hypot(*(self.tip - self._turned(self.link_point, turn)))) - wanted

        grid = np.linspace(-self.search, self.search, 561)
        values = np.array([miss(t) for t in grid])
        crossings = np.flatnonzero(np.sign(values[:-1]) != np.sign(values[1:]))
        roots = [root(miss, grid[i], grid[i + 1]) for i in crossings]
        return min(roots, key=abs) if roots else None

    def rise(self, longer: float) -> float | None:
        """Body rise with a link longer by so much, mm; None where the arm cannot reach."""
        turn = self.turn_for(longer)
        return None if turn is None else -self.travel(turn)
