"""Hardpoints from a handful of readings: bounded least squares with the archetype as the prior.

Minimised is Σ((g(p) − m)/σ)² over the readings plus Σ((p − p₀)/σ₀)² over all coordinates: what was measured is
honoured, what was not stays near the archetype. The Jacobian at the solution gives how well every coordinate is now
known (C = (JᵀJ)⁻¹), and with it which reading would narrow the result most if it were taken next.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from inclinum.core.document.known import ASSUMED_POINT_MM
from inclinum.core.fitting.consequence import consequences
from inclinum.core.fitting.posterior import CONTRADICTION_SIGMAS, Posterior, posterior
from inclinum.core.fitting.tape import (
    LEAN_SIGMA_DEG,
    LENGTH_SIGMA_MM,
    Place,
    followers,
    free_points,
    places,
    with_followers,
)
from inclinum.core.kinematics import AnyLinkage
from inclinum.core.kinematics.rigid import Array
from inclinum.core.uncertainty import COVERAGE

PRIOR_SIGMA_MM = ASSUMED_POINT_MM / COVERAGE
"""How far off a coordinate of a scaled archetype usually is, one standard deviation."""
WHEEL_SIGMA_MM = 10.0
BOUND_SIGMAS = 5.0
NOTHING = 1e-4
"""A spread below this, in mm or degrees, is no reason to measure."""
MEASURED_MM = 6.0
"""± below which a coordinate counts as measured."""


@dataclass(frozen=True)
class Reading:
    """A place with what was read there, mm or degrees, and its standard deviation."""

    place: Place
    value: float
    sigma: float

    @classmethod
    def of(cls, place: Place, value: float, plus_minus: float | None) -> "Reading":
        """A reading with its stated ±, or the usual one of its instrument."""
        usual = LEAN_SIGMA_DEG if place.is_angle else LENGTH_SIGMA_MM
        return cls(place, value, usual if not plus_minus else plus_minus / COVERAGE)


@dataclass(frozen=True)
class Miss:
    """A reading the fit cannot honour, and the one it quarrels with."""

    place: Place
    by: float
    """Read less fitted, mm or degrees."""
    against: Place | None


@dataclass(frozen=True)
class Next:
    """A place not measured yet, and what a reading there would take off the ± of the prediction."""

    place: Place
    narrows: tuple[float, ...]
    """Per consequence: its ± now less its ± then."""
    worth: float
    """Mean share of the spread of all consequences that it takes away."""


@dataclass(frozen=True)
class Fit:
    """A linkage fitted to readings."""

    linkage: AnyLinkage
    prior: AnyLinkage
    readings: tuple[Reading, ...]
    residuals: tuple[float, ...]
    """Read less fitted, per reading."""
    known: Posterior
    """Of the free coordinates, mm²."""
    names: tuple[str, ...]
    """Free points, three coordinates each in what is known."""

    def plus_minus(self, name: str) -> float:
        """± of a point: of its least known coordinate, two standard deviations, mm."""
        points = self.prior.named_points()
        lead = followers(points).get(name, name)
        i = 3 * self.names.index(lead if lead in self.names else lead.replace("right", "left"))
        return float(COVERAGE * np.sqrt(np.diag(self.known.covariance)[i : i + 3]).max())

    def source(self, name: str) -> str:
        """Whether a point is measured, scaled by what was measured around it, or assumed."""
        known = self.plus_minus(name)
        return "measured" if known <= MEASURED_MM else "scaled" if known < 1.6 * PRIOR_SIGMA_MM else "assumed"

    @cached_property
    def misses(self) -> list[Miss]:
        """Readings that contradict others, worst first, every quarrel once."""
        found = []
        for reading, residual in zip(self.readings, self.residuals, strict=True):
            if abs(residual) > CONTRADICTION_SIGMAS * reading.sigma:
                found.append(Miss(reading.place, residual, self._rival(reading)))
        first_of: dict[frozenset[str], Miss] = {}
        for miss in sorted(found, key=lambda m: -abs(m.by)):
            first_of.setdefault(frozenset({miss.place.key, miss.against.key if miss.against else ""}), miss)
        return list(first_of.values())

    def _rival(self, reading: Reading) -> Place | None:
        """The other reading of the same points that is missed most."""
        others = [
            (abs(r) / o.sigma, o.place)
            for o, r in zip(self.readings, self.residuals, strict=True)
            if o is not reading and set(o.place.points) & set(reading.place.points)
        ]
        return max(others, key=lambda pair: pair[0])[1] if others else None

    @cached_property
    def _effect(self) -> Array:
        """d(consequence)/d(coordinate), (k, n)."""
        return consequences(self.linkage, list(self.names))

    @cached_property
    def _variance(self) -> Array:
        return self.known.variance(self._effect)

    @property
    def spread(self) -> tuple[float, ...]:
        """± of every consequence with the points as well as they are known."""
        return tuple((COVERAGE * np.sqrt(self._variance)).tolist())

    def next_to_measure(self, count: int = 5) -> list[Next]:
        """Places not read yet, most useful first."""
        taken = {r.place.key for r in self.readings}
        before = self._variance
        matters = before > NOTHING**2
        found = []
        for place in places(self.linkage):
            if place.key in taken:
                continue
            slope = _slope(place, self.linkage, self.names)
            sigma = LEAN_SIGMA_DEG if place.is_angle else LENGTH_SIGMA_MM
            gain = self.known.gain(self._effect, slope, sigma)
            after = np.maximum(before - gain, 0.0)
            narrows = COVERAGE * (np.sqrt(before) - np.sqrt(after))
            worth = float(np.mean(gain[matters] / before[matters])) if matters.any() else 0.0
            found.append(Next(place, tuple(narrows.tolist()), worth))
        return sorted(found, key=lambda n: -n.worth)[:count]


def fit(prior: AnyLinkage, readings: Sequence[Reading]) -> Fit:
    """Fit the hardpoints of a linkage to readings.

    Raises:
        ValueError: the fitted points make no linkage that moves, with the part named.
    """
    names = tuple(free_points(prior))
    points, wheel = prior.named_points(), prior.wheel_name
    start = np.concatenate([points[n] for n in names])
    sigma = np.full(start.size, PRIOR_SIGMA_MM)
    at = 3 * names.index(wheel)
    # The wheel centre is the origin fore and aft and stands at the tyre's radius: only the track is open.
    sigma[at : at + 3] = (1e-3, WHEEL_SIGMA_MM, 1e-3)

    def missed(x: Array) -> Array:
        moved = points | with_followers(dict(zip(names, (start + x).reshape(-1, 3), strict=True)), points)
        return np.array([(r.place.value(moved, wheel) - r.value) / r.sigma for r in readings])

    known = posterior(missed, sigma, bound=BOUND_SIGMAS, within=1e-10)
    moved = dict(zip(names, (start + known.shift).reshape(-1, 3), strict=True))
    linkage = prior.with_points(with_followers(moved, points))
    fitted = linkage.named_points()
    return Fit(
        linkage=linkage,  # type: ignore[arg-type]
        prior=prior,
        readings=tuple(readings),
        residuals=tuple(r.value - r.place.value(fitted, wheel) for r in readings),
        known=known,
        names=names,
    )


def _slope(place: Place, linkage: AnyLinkage, names: Sequence[str], step: float = 0.01) -> Array:
    """d(reading)/d(coordinate), (n,)."""
    points, wheel = linkage.named_points(), linkage.wheel_name
    led, slope = followers(points), np.zeros(3 * len(names))
    for name in {led.get(n, n) for n in place.points} & set(names):
        for axis in range(3):
            shift = np.eye(3)[axis] * step
            up, down = (
                place.value(points | with_followers({name: points[name] + s * shift}, points), wheel) for s in (1, -1)
            )
            slope[3 * list(names).index(name) + axis] = (up - down) / (2 * step)
    return slope
