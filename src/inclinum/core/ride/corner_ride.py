"""Ride height of one corner by virtual work, and its window of travel.

Fspring(L(z))·MRspring(z) + Fstop(x)·MRdamper(z) = sprung load at the wheel. Nothing here is tied to a
linkage: it needs length curves only. Every method broadcasts over samples when a parameter has them.
"""

from dataclasses import dataclass

import numpy as np

from inclinum.core.linkage.rigid import Array
from inclinum.core.ride.length_curve import LengthCurve
from inclinum.core.springs import BumpStop, CoilSpring

GRAVITY = 9.80665
"""Standard gravity, m/s²."""


@dataclass(frozen=True)
class Damper:
    """Lengths eye to eye (or mount to foot), mm."""

    extended: float
    closed: float
    stop_contact: float
    """Length at which the bump stop is first touched."""


@dataclass(frozen=True)
class Window:
    """The travel a corner has, mm of wheel travel; None where the search range holds no such position."""

    droop_limit: float | None
    stop_contact: float | None
    bump_limit: float | None
    damper_closed: float | None


@dataclass(frozen=True)
class RideCorner:
    """Spring, stop and damper on their length curves.

    Args:
        spring_length: seat to seat, over travel.
        damper_length: over travel.
        spring: fitted spring.
        damper: its lengths.
        stop: bump stop on the damper rod; None where there is none.
        spring_room_taken: mm by which spacers shorten the room between the seats.
        damper_room_taken: mm by which a spacer on the strut top takes from the damper, for a given travel.
        search: travel looked through for solutions, mm.
    """

    spring_length: LengthCurve
    damper_length: LengthCurve
    spring: CoilSpring
    damper: Damper
    stop: BumpStop | None = None
    spring_room_taken: Array | float = 0.0
    damper_room_taken: Array | float = 0.0
    search: tuple[float, float] = (-130.0, 140.0)

    def spring_at(self, z: Array | float) -> Array:
        """Length of the spring itself, mm."""
        return self.spring_length.length(z) - self.spring_room_taken

    def damper_at(self, z: Array | float) -> Array:
        """Length of the damper itself, mm."""
        return self.damper_length.length(z) - self.damper_room_taken

    def spring_force(self, z: Array | float) -> Array:
        """Force in the spring, N."""
        return self.spring.force(self.spring_at(z))

    def stop_force(self, z: Array | float) -> Array:
        """Force in the bump stop, N."""
        if self.stop is None:
            return np.zeros_like(np.asarray(z, dtype=float))
        return self.stop.force(self.damper.stop_contact - self.damper_at(z))

    def wheel_force(self, z: Array | float) -> Array:
        """Vertical force the corner carries at the wheel, N."""
        spring = self.spring_force(z) * self.spring_length.ratio(z)
        return spring + self.stop_force(z) * self.damper_length.ratio(z)

    def wheel_rate(self, z: Array | float) -> Array:
        """d(wheel force)/dz = k·MR² + F·dMR/dz, for the spring and the stop, N/mm."""
        ratio = self.spring_length.ratio(z)
        rate = self.spring.stiffness(self.spring_at(z)) * ratio**2
        rate = rate + self.spring_force(z) * self.spring_length.ratio_slope(z)
        if self.stop is not None:
            squeezed = self.damper.stop_contact - self.damper_at(z)
            rate = rate + self.stop.stiffness(squeezed) * self.damper_length.ratio(z) ** 2
            rate = rate + self.stop_force(z) * self.damper_length.ratio_slope(z)
        return rate

    def ride_travel(self, load: Array | float) -> Array:
        """Travel at which the corner carries a load, mm; NaN where no travel in the search range does.

        Newton safeguarded by bisection, all samples at once.
        """
        shape = np.broadcast_shapes(
            np.shape(load),
            np.shape(self.spring.rate),
            np.shape(self.spring.free_length),
            np.shape(self.spring_room_taken),
            np.shape(self.damper_room_taken),
            np.shape(self.spring_length.ratio(0.0)),
        )
        low, high = np.full(shape, self.search[0]), np.full(shape, self.search[1])
        inside = (self.wheel_force(low) <= load) & (self.wheel_force(high) >= load)
        z = np.clip(np.zeros(shape), low, high)
        for _ in range(80):
            miss = self.wheel_force(z) - load
            low, high = np.where(miss <= 0, z, low), np.where(miss >= 0, z, high)
            rate = self.wheel_rate(z)
            with np.errstate(divide="ignore", invalid="ignore"):
                step = z - miss / rate
            good = np.isfinite(step) & (step > low) & (step < high)
            nearer = np.where(good, step, (low + high) / 2)
            settled = np.abs(nearer - z).max(initial=0.0) < 1e-10
            z = nearer
            if settled:
                break
        return np.where(inside, z, np.nan)

    def window(self) -> Window:
        """Droop limit, first touch of the stop, stop solid, and damper closed, in wheel travel."""
        contact = self.damper.stop_contact
        solid = contact - self.stop.max_compression if self.stop else self.damper.closed
        return Window(
            droop_limit=self._travel_of_damper(self.damper.extended),
            stop_contact=self._travel_of_damper(contact),
            bump_limit=self._travel_of_damper(max(solid, self.damper.closed)),
            damper_closed=self._travel_of_damper(self.damper.closed),
        )

    def travel_of_spring(self, length: float) -> float | None:
        """Travel at which the spring has a length, mm."""
        return _crossing(self.spring_at, length, self.search)

    def _travel_of_damper(self, length: float) -> float | None:
        return _crossing(self.damper_at, length, self.search)


def _crossing(curve, length: float, search: tuple[float, float]) -> float | None:
    """Travel where a falling length curve has a value, by bisection on a refined grid, mm."""
    low, high = search
    if not curve(low) >= length >= curve(high):
        return None
    for _ in range(3):
        grid = np.linspace(low, high, 257)
        index = int(np.clip(np.searchsorted(-curve(grid), -length), 1, 256))
        low, high = float(grid[index - 1]), float(grid[index])
    at_low, at_high = float(curve(low)), float(curve(high))
    return low if at_low == at_high else low + (at_low - length) / (at_low - at_high) * (high - low)


def frequency(wheel_rate: Array | float, load: Array | float) -> Array:
    """Undamped ride frequency, Hz: (1/2π)·√(1000·rate / mass), the mass being load/g."""
    mass = np.asarray(load) / GRAVITY
    return np.sqrt(np.maximum(0.0, 1000.0 * np.asarray(wheel_rate)) / mass) / (2 * np.pi)


def swap_estimate(old: CoilSpring, new: CoilSpring, force: float, ratio: float) -> float:
    """First-order rise from a spring swap at unchanged spring force, mm.

    ((L0₂ − L0₁) − F·(1/k₂ − 1/k₁))/MR. With a changing ratio it can be 10 % off: the equilibrium decides.
    """
    longer = new.free_length - old.free_length
    return float((longer - force * (1 / new.rate - 1 / old.rate)) / ratio)
