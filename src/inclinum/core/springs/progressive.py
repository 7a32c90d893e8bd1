"""Progressive coils: groups of coils that close one after another, so that the rate rises."""

import itertools
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from inclinum.core.springs.spring import PiecewiseSpring

SOLID_RATE = 1e5
"""Rate taken for steel on steel, N/mm: beyond solid the force must go up steeply, not jump."""


@dataclass(frozen=True)
class CoilGroup:
    """Coils alike: their rate together, N/mm, and how far they shorten until they touch, mm."""

    rate: float
    travel: float

    @property
    def closing_force(self) -> float:
        """Force at which they touch, N."""
        return self.rate * self.travel


@dataclass(frozen=True)
class GroupClosed:
    """A group that has closed: which, at what force (N) and at what shortening of the whole spring (mm)."""

    group: int
    force: float
    shortening: float


@dataclass(frozen=True)
class ProgressiveCoil:
    """Groups in series: all carry the same force, x(F) = Σ min(F/kᵢ, cᵢ).

    Args:
        groups: in any order.
        free_length: mm.
    """

    groups: Sequence[CoilGroup]
    free_length: float

    @cached_property
    def closings(self) -> list[GroupClosed]:
        """When which group closes, in order."""
        order = sorted(range(len(self.groups)), key=lambda i: self.groups[i].closing_force)
        return [GroupClosed(i, f, self._shortening(f)) for i in order for f in [self.groups[i].closing_force]]

    @cached_property
    def stage_rates(self) -> list[float]:
        """Rate before the first closing, between closings, N/mm."""
        order = [c.group for c in self.closings]
        return [1 / sum(1 / self.groups[i].rate for i in order[n:]) for n in range(len(order))]

    def _shortening(self, force: float) -> float:
        return float(sum(min(force / g.rate, g.travel) for g in self.groups))

    @property
    def total_shortening(self) -> float:
        """Until all coils touch, mm."""
        return float(sum(g.travel for g in self.groups))

    def spring(self) -> PiecewiseSpring:
        """As the ride layer uses it."""
        corners = [(0.0, 0.0), *((c.shortening, c.force) for c in self.closings)]
        distinct = [corners[0]] + [b for a, b in itertools.pairwise(corners) if b[0] - a[0] > 1e-9]
        x, f = zip(*distinct, strict=True)
        return PiecewiseSpring(self.free_length, x, f, SOLID_RATE, self.free_length - self.total_shortening)

    def rate_at(self, shortening: float) -> float:
        """Rate of the stage a shortening lies in, N/mm; the last stage's beyond solid."""
        stage = int(np.searchsorted([c.shortening for c in self.closings], shortening, side="right"))
        return self.stage_rates[min(stage, len(self.stage_rates) - 1)]
