"""Ride height of one corner by virtual work, and its window of travel.

Fspring(L(z))·MRspring(z) + Fstop(x)·MRdamper(z) = sprung load at the wheel. Nothing here is tied to a
linkage: it needs length curves only. Every method broadcasts over samples when a parameter has them.
"""

from collections.abc import Callable, Hashable, Sequence
from dataclasses import dataclass, replace

import numpy as np

from inclinum.core.kinematics.length_curve import LengthCurve
from inclinum.core.kinematics.rigid import Array
from inclinum.core.quantity.constants import GRAVITY
from inclinum.core.quantity.root import roots
from inclinum.core.springs import BumpStop, CoilSpring, PerSample, Spring, TableStop, TopOut

SEARCH_STEPS = 41
"""Of a few millimetres each, looked through where the ends of the search do not bracket a load."""


@dataclass(frozen=True)
class Damper:
    """Lengths eye to eye (or mount to foot), mm."""

    extended: float
    closed: float
    stop_contact: Array | float = -np.inf
    """Length at which a bump stop on the damper is first touched."""


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
        stop: bump stop; None where there is none.
        stop_travel: wheel travel at which a stop over the axle is first touched; None for one on the damper rod.
        top_out: spring that pulls back near full extension.
        bush_rate: of rubber bushes at the wheel, N/mm; they are free of force at ``bush_free_at``.
        spring_room_taken: mm by which spacers shorten the room between the seats.
        damper_room_taken: mm by which a spacer on the strut top takes from the damper, for a given travel.
        search: travel looked through for solutions, mm.
    """

    spring_length: LengthCurve
    damper_length: LengthCurve
    spring: Spring
    damper: Damper
    stop: BumpStop | TableStop | PerSample | None = None
    spring_room_taken: Array | float = 0.0
    damper_room_taken: Array | float = 0.0
    search: tuple[float, float] = (-130.0, 140.0)
    stop_travel: Array | float | None = None
    top_out: TopOut | None = None
    bush_rate: Array | float = 0.0
    bush_free_at: Array | float = 0.0

    @property
    def shared(self) -> Hashable:
        """What has to be the same in corners that are solved together: all that is not one number of each."""
        return (
            id(self.spring_length), id(self.damper_length), self.search, self.stop is None, self.stop_travel is None,
            self.top_out, self.bush_rate, self.bush_free_at,
        )  # fmt: skip

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
        if self.stop_travel is not None:
            return self.stop.force(np.asarray(z) - self.stop_travel)
        return self.stop.force(self.damper.stop_contact - self.damper_at(z))

    def wheel_force(self, z: Array | float) -> Array:
        """Vertical force the corner carries at the wheel, N."""
        return self.force_and_rate(z)[0]

    def wheel_rate(self, z: Array | float) -> Array:
        """d(wheel force)/dz, N/mm."""
        return self.force_and_rate(z)[1]

    def force_and_rate(self, z: Array | float) -> tuple[Array, Array]:
        """Wheel force in N, and its slope k·MR² + F·dMR/dz of the spring and the stop in N/mm.

        Args:
            z: wheel travel, bump positive, mm.

        Source: virtual work on the corner, textbooks of vehicle dynamics, chapter on installation ratios:
        F_wheel = F·MR with MR = −dL/dz; the slope is its derivative by z. No friction.
        """
        length, ratio, slope = self.spring_length.at(z)
        length = length - self.spring_room_taken
        force = self.spring.force(length)
        wheel = force * ratio
        rate = self.spring.stiffness(length) * ratio**2 + force * slope
        if self.stop is not None and self.stop_travel is not None:
            squeezed = np.asarray(z) - self.stop_travel
            wheel, rate = wheel + self.stop.force(squeezed), rate + self.stop.stiffness(squeezed)
        if (self.stop is not None and self.stop_travel is None) or self.top_out is not None:
            length, ratio, slope = self.damper_length.at(z)
            length = length - self.damper_room_taken
            pushes = np.zeros_like(length)
            stiffness = np.zeros_like(length)
            if self.stop is not None and self.stop_travel is None:
                squeezed = self.damper.stop_contact - length
                pushes, stiffness = self.stop.force(squeezed), self.stop.stiffness(squeezed)
            if self.top_out is not None:
                pushes = pushes - self.top_out.force(length)
                stiffness = stiffness + self.top_out.stiffness(length)
            wheel = wheel + pushes * ratio
            rate = rate + stiffness * ratio**2 + pushes * slope
        if np.any(self.bush_rate):
            wheel = wheel + self.bush_rate * (np.asarray(z) - self.bush_free_at)
            rate = rate + self.bush_rate
        return wheel, rate

    def ride_travel(self, load: Array | float) -> Array:
        """Travel at which the corner carries a load, mm; NaN where no travel in the search range does.

        Args:
            load: sprung load at the wheel, N, scalar or one per sample.

        Source: ``roots``; wheel force grows with travel wherever a corner can stand.
        """
        shape = np.broadcast_shapes(
            np.shape(load),
            np.shape(self.spring.force(0.0)),
            np.shape(self.spring_room_taken),
            np.shape(self.damper_room_taken),
            np.shape(self.spring_length.ratio(0.0)),
        )
        low, high = np.full(shape, self.search[0]), np.full(shape, self.search[1])
        at_ends = self.wheel_force(np.stack([low, high]))
        inside = (at_ends[0] <= load) & (at_ends[1] >= load)
        if not np.all(inside):
            low, high, inside = self._nearest_rest(load, shape)

        def missing(z: Array) -> tuple[Array, Array]:
            force, rate = self.force_and_rate(z)
            return force - load, rate

        z = roots(missing, low, high, np.where((low < 0) & (high > 0), 0.0, (low + high) / 2))
        return np.where(inside, z, np.nan)

    def _nearest_rest(self, load: Array | float, shape: tuple[int, ...]) -> tuple[Array, Array, Array]:
        """Ends of the step nearest to the baseline over which the force comes to carry the load, and whether any does.

        Where a linkage comes near a dead point at the end of its reach the force may rise once more: the ends of the
        search then say nothing of what lies between them.
        """
        grid = np.linspace(*self.search, SEARCH_STEPS).reshape(-1, *[1] * len(shape)) + np.zeros(shape)
        over = self.wheel_force(grid) >= load
        carries = ~over[:-1] & over[1:]
        far = np.where(carries, np.abs(grid[:-1] + grid[1:]), np.inf)
        at = np.argmin(far, axis=0)[None]
        low, high = (np.take_along_axis(g, at, axis=0)[0] for g in (grid[:-1], grid[1:]))
        return low, high, np.asarray(carries.any(axis=0))

    def window(self) -> Window:
        """Droop limit, first touch of the stop, stop solid, and damper closed, in wheel travel."""
        contact = float(self.damper.stop_contact)
        room = float(self.stop.max_compression) if isinstance(self.stop, BumpStop | TableStop) else 0.0
        solid = contact - room if self.stop else self.damper.closed
        wanted = [self.damper.extended, contact, max(solid, self.damper.closed), self.damper.closed]
        lengths = np.nan_to_num(np.array(wanted), neginf=-1e9) + self.damper_room_taken
        droop, touch, bump, closed = _crossings(self.damper_length, lengths, self.search)
        if self.stop is not None and self.stop_travel is not None:
            touch = float(self.stop_travel)
            ends = [touch + room, *([] if closed is None else [closed])]
            bump = min(ends)
        return Window(droop, touch, bump, closed)

    def travel_of_spring(self, length: float) -> float | None:
        """Travel at which the spring has a length, mm."""
        return _crossings(self.spring_length, np.array([length + self.spring_room_taken]), self.search)[0]


def ride_travels(corners: Sequence[RideCorner], loads: Sequence[float]) -> Array:
    """Travel at which each of several corners carries its load, mm; NaN where none does.

    Args:
        corners: fittings of an axle, whatever differs between them.
        loads: sprung load at the wheel, N, one for each.

    Those that share a linkage are solved together; most of a search do.
    """
    alike: dict[Hashable, list[int]] = {}
    for n, corner in enumerate(corners):
        alike.setdefault(corner.shared, []).append(n)
    found, wanted = np.full(len(corners), np.nan), np.asarray(loads, dtype=float)
    for among in alike.values():
        found[among] = _stacked([corners[n] for n in among]).ride_travel(wanted[among])
    return found


def _stacked(corners: Sequence[RideCorner]) -> RideCorner:
    """Several fittings with one :attr:`RideCorner.shared` as one corner with a sample per fitting.

    Its window is of no use.
    """

    def column(pick: Callable[[RideCorner], Array | float]) -> Array:
        return np.array([pick(c) for c in corners], dtype=float)

    first = corners[0]
    return replace(
        first,
        spring=_springs([c.spring for c in corners]),
        damper=replace(first.damper, stop_contact=column(lambda c: c.damper.stop_contact)),
        stop=_stops([c.stop for c in corners]),
        stop_travel=None if first.stop_travel is None else column(lambda c: c.stop_travel or 0.0),
        spring_room_taken=column(lambda c: c.spring_room_taken),
        damper_room_taken=column(lambda c: c.damper_room_taken),
    )


def _springs(springs: Sequence[Spring]) -> Spring:
    """Several springs as one with a sample each: plain coils in two arrays, others one by one."""
    coils = [s for s in springs if isinstance(s, CoilSpring)]
    if len(coils) == len(springs):
        return CoilSpring(np.array([s.rate for s in coils]), np.array([s.free_length for s in coils]))
    return PerSample(springs)


def _stops(stops: Sequence[BumpStop | TableStop | PerSample | None]) -> BumpStop | PerSample | None:
    """The same for stops."""
    plain = [s for s in stops if isinstance(s, BumpStop)]
    if len(plain) == len(stops):
        names = ("max_compression", "coefficient", "power")
        return BumpStop(*(np.array([getattr(s, n) for s in plain]) for n in names))
    return PerSample(stops) if all(s is not None for s in stops) else None  # type: ignore[arg-type]


def _crossings(curve: LengthCurve, lengths: Array, search: tuple[float, float]) -> list[float | None]:
    """Travels where a falling length curve has some values, mm; None where it has not in the range searched."""
    grid = np.linspace(*search, 33)
    falling = curve.length(grid)
    outside = (lengths > falling[0]) | (lengths < falling[-1])
    wanted = np.clip(lengths, falling[-1], falling[0])
    before = np.clip(np.searchsorted(-falling, -wanted) - 1, 0, grid.size - 2)

    def shorter(z: Array) -> tuple[Array, Array]:
        length, ratio, _ = curve.at(z)
        return wanted - length, ratio

    z = roots(shorter, grid[before], grid[before + 1], np.interp(-wanted, -falling, grid))
    return [None if out else float(at) for at, out in zip(z, outside, strict=True)]


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
