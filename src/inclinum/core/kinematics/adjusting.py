"""Alignment as a solve: all adjusters of a wheel together, against targets, within what they can do.

Bounded, weighted, non-linear least squares on the same corner model that predicts the angles.
"""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from functools import cached_property, lru_cache
from typing import Literal

import numpy as np
from scipy.optimize import least_squares

from inclinum.core.document.errors import DomainError
from inclinum.core.kinematics.axles import AxleSteering
from inclinum.core.kinematics.body import Adjustment, Poses
from inclinum.core.kinematics.corner import Corner, Motion
from inclinum.core.kinematics.rigid import Array, unit
from inclinum.core.kinematics.steered import toe_by_track_rod

Quantity = Literal["camber", "toe", "caster"]


@dataclass(frozen=True)
class Slot:
    """A chassis point that slides along a slot."""

    name: str
    point: str
    direction: tuple[float, float, float]
    low: float
    high: float

    def effect(self, value: Array) -> Adjustment:
        """What it does for every sample of ``value`` (S,), mm."""
        return Adjustment(moved={self.point: value[:, None] * unit(np.array(self.direction))})


@dataclass(frozen=True)
class LinkLength:
    """A link that is screwed longer or shorter; named by its outer point."""

    name: str
    outer: str
    low: float
    high: float

    def effect(self, value: Array) -> Adjustment:
        """What it does for every sample of ``value`` (S,), mm."""
        return Adjustment(lengthened={self.outer: value})


@dataclass(frozen=True)
class Clamp:
    """A strut clamp whose upper bolt slides in a slot: the upright leans about the lower bolt.

    Positive values move the upright outward at the upper bolt, so that the top of the wheel leans out.
    """

    name: str
    point: str
    bolt_distance: float
    low: float
    high: float

    def effect(self, value: Array) -> Adjustment:
        """What it does for every sample of ``value`` (S,), mm at the upper bolt."""
        lean = value / self.bolt_distance
        # Seen from the upright the strut leans the other way: its top turns inward, about x.
        return Adjustment(tilted={self.point: np.stack([lean, 0 * lean, 0 * lean], axis=-1)})


@dataclass(frozen=True)
class TrackRod:
    """The rod between both wheels of a steered solid axle, screwed longer or shorter; the steering wheel set straight.

    Args:
        steering: of the axle, as drawn.
    """

    name: str
    steering: AxleSteering
    low: float
    high: float

    def effect(self, value: Array) -> Adjustment:
        """What it does to either wheel for every sample of ``value`` (S,), mm."""
        return Adjustment(toed=toe_by_track_rod(self.steering, value))


Adjuster = Slot | LinkLength | Clamp | TrackRod


def together(effects: Sequence[Adjustment]) -> Adjustment:
    """Several adjustments at once; those of the same part add up."""

    def merged(pick: str) -> dict[str, Array]:
        total: dict[str, Array] = {}
        for effect in effects:
            for name, value in getattr(effect, pick).items():
                total[name] = total.get(name, 0.0) + value
        return total

    toed = sum((effect.toed for effect in effects), start=0.0)
    return Adjustment(merged("moved"), merged("lengthened"), merged("tilted"), toed=toed)


@dataclass(frozen=True)
class Solution:
    """What the adjusters reach. Angles in rad, adjuster values in mm."""

    values: dict[str, float]
    before: dict[Quantity, float]
    achieved: dict[Quantity, float]
    remaining: dict[Quantity, float]
    kingpin_inclination: float | None
    at_stop: list[str]
    weighted_cost: float
    """Sum of squares of weight·remaining in degrees."""


@dataclass(frozen=True)
class AlignmentProblem:
    """One wheel at its planned travel and attitude.

    Args:
        corner: the wheel, as a left one.
        travel: planned wheel travel, kept whatever the adjusters do, mm.
        adjusters: everything that can be set on this wheel.
        targets: angles wanted, rad.
        weights: per quantity, 1 when left out.
        pitch: body attitude, nose-down positive, rad.
        offsets: what the rack read at baseline less what the model has, rad.
        held: adjusters that are set already, by name, mm: the others are solved around them.
        kept_near: adjusters that should stay near a value where several settings are about as good, by name: that
            value, mm, and what being a mm from it counts, as degrees missed.
    """

    corner: Corner
    travel: float
    adjusters: Sequence[Adjuster]
    targets: Mapping[Quantity, float]
    weights: Mapping[Quantity, float] = field(default_factory=dict)
    pitch: float = 0.0
    offsets: Mapping[Quantity, float] = field(default_factory=dict)
    held: Mapping[str, float] = field(default_factory=dict)
    kept_near: Mapping[str, tuple[float, float]] = field(default_factory=dict)

    def motion(self, values: Array) -> Motion:
        """Motion for rows of adjuster values (S, n); result shape (S, 1)."""
        adjusted = together([a.effect(values[:, i]) for i, a in enumerate(self.adjusters)])
        poses = self.corner.body.poses(np.array([self.travel]), adjusted, near=self._neutral)
        return self.corner.motion(poses, self.pitch, adjusted)

    @cached_property
    def _neutral(self) -> Poses:
        """The wheel at its planned travel with every adjuster left alone."""
        return self.corner.body.poses(np.array([self.travel]))

    def angles(self, values: Array, names: Iterable[Quantity] | None = None) -> dict[Quantity, Array]:
        """Angles for rows of adjuster values, (S,) each, rad: those of ``names``, or those with a target."""
        motion = self.motion(values)
        found: dict[Quantity, Array] = {}
        for name in self.targets if names is None else names:
            angle = getattr(motion, name)
            if angle is None:
                raise DomainError(f"This suspension has no steering axis, so there is no {name} to set.")
            # Without adjusters the sweep has no sample axis: every row is the same.
            found[name] = np.broadcast_to(np.atleast_2d(angle)[:, 0], len(values)) + self.offsets.get(name, 0.0)
        return found

    def misses(self, values: Array) -> Array:
        """Weighted misses in degrees for rows of adjuster values, (S, targets)."""
        if not self.targets:
            return np.zeros((len(values), 0))
        angles = self.angles(values)
        return np.stack([np.degrees(angles[q] - t) * self.weights.get(q, 1.0) for q, t in self.targets.items()], axis=1)

    def solve(self) -> Solution:
        """Best setting of all adjusters that are not held, together, starting from neutral."""
        free = [i for i, a in enumerate(self.adjusters) if a.name not in self.held]
        start = np.array([self.held.get(a.name, np.clip(0.0, a.low, a.high)) for a in self.adjusters])
        if not free:
            return self.evaluate(start)
        low = np.array([self.adjusters[i].low for i in free])
        high = np.array([self.adjusters[i].high for i in free])
        step = 1e-3
        near, pull = np.array([self.kept_near.get(self.adjusters[i].name, (0.0, 0.0)) for i in free]).T

        def filled(x: Array) -> Array:
            rows = np.tile(start, (len(x), 1))
            rows[:, free] = x
            return rows

        @lru_cache(maxsize=2)
        def misses_and_slopes(key: bytes) -> tuple[Array, Array]:
            x = np.frombuffer(key)
            inward = np.where(x + step > high, -step, step)
            y = self.misses(filled(np.concatenate([x[None], x + np.diag(inward)])))
            slopes = ((y[1:] - y[0]) / inward[:, None]).T
            if not pull.any():
                return y[0], slopes
            return np.concatenate([y[0], pull * (x - near)]), np.concatenate([slopes, np.diag(pull)])

        best = least_squares(
            lambda x: misses_and_slopes(x.tobytes())[0],
            start[free],
            lambda x: misses_and_slopes(x.tobytes())[1],  # pyright: ignore[reportArgumentType] (stubs know only names)
            bounds=(low, high),
            method="dogbox",
            xtol=1e-12,
            ftol=1e-14,
            gtol=1e-12,
        )
        return self.evaluate(filled(best.x[None])[0])

    def evaluate(self, values: Array) -> Solution:
        """What given adjuster values achieve, (n,)."""
        rows = np.stack([values, np.zeros_like(values)])
        angles = self.angles(rows)
        motion = self.motion(values[None])
        achieved: dict[Quantity, float] = {q: float(a[0]) for q, a in angles.items()}
        kingpin = motion.kingpin_inclination
        return Solution(
            values={a.name: float(v) for a, v in zip(self.adjusters, values, strict=True)},
            before={q: float(a[1]) for q, a in angles.items()},
            achieved=achieved,
            remaining={q: achieved[q] - t for q, t in self.targets.items()},
            kingpin_inclination=None if kingpin is None else float(np.ravel(kingpin)[0]),
            at_stop=[
                a.name
                for a, v in zip(self.adjusters, values, strict=True)
                if min(v - a.low, a.high - v) < 1e-6 * (a.high - a.low)
            ],
            weighted_cost=float((self.misses(values[None]) ** 2).sum()),
        )
