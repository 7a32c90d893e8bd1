"""The inverse: what reaches this height? Of every change searched by one number, the size that comes closest."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from typing import Any, Generic, TypeVar

import numpy as np
from scipy.interpolate import PchipInterpolator

from inclinum.core.document import Document
from inclinum.core.plan.finding import Cure, Finding

PlannedT = TypeVar("PlannedT")
CureT = TypeVar("CureT", bound=Cure[Any])

GRID = 5
"""Parameters tried per way; between them the height is a smooth curve."""
LEAST_RISE_MM = 1e-6
"""Sizes that move the body by less than this over the one before do nothing any more."""
STEPS_WALKED = 8
"""How often a way may move on to the next size that is sold."""


class Way(Document, Generic[PlannedT]):
    """One way to a height."""

    title: str
    changes: tuple[PlannedT, ...]
    rise: float
    """What it really gives once its parameter is one that can be bought, mm."""
    stops: int
    fixes: int
    reversible: bool


WayT = TypeVar("WayT", bound=Way[Any])


@dataclass(frozen=True)
class Candidate(Generic[CureT]):
    """A plan with one parameter left open."""

    low: float
    high: float
    step: float
    """What can be bought comes in steps of this."""
    plan: Callable[[float], CureT]

    def sold_near(self, parameter: float) -> float:
        """The size that can be bought nearest to a parameter."""
        return min(self.high, max(self.low, round(parameter / self.step) * self.step))

    def around(self, at: float) -> list[float]:
        """A size with the next smaller and the next larger one."""
        return [p for p in (at - self.step, at, at + self.step) if self.low <= p <= self.high]


def nearest(
    candidates: Sequence[Candidate[CureT]], rises: Callable[[list[CureT]], np.ndarray], wanted: float, now: float
) -> list[CureT]:
    """Of each candidate that spans a height the size that comes closest, where it leads nearer than the present plan.

    Args:
        candidates: plans with one number open.
        rises: rise of each of several plans, mm, NaN where one stands nowhere.
        wanted: rise, mm.
        now: rise of the present plan, mm.
    """
    sizes = _estimated(candidates, rises, wanted)
    reached: list[float] = [np.nan] * len(sizes)
    for _ in range(STEPS_WALKED):
        tried = [(candidate, candidate.around(at)) for candidate, at in sizes]
        closest = []
        for n, ((candidate, around), rise) in enumerate(zip(tried, _rises(tried, rises), strict=True)):
            best = int(np.nanargmin(np.abs(rise - wanted))) if np.isfinite(rise).any() else 0
            closest.append((candidate, around[best]))
            reached[n] = float(rise[best])
        if closest == sizes:
            break
        sizes = closest
    return [
        candidate.plan(at)
        for (candidate, at), rise in zip(sizes, reached, strict=True)
        if abs(rise - wanted) <= abs(now - wanted) - LEAST_RISE_MM
    ]


def _rises(
    tried: Sequence[tuple[Candidate[CureT], Sequence[float]]], rises: Callable[[list[CureT]], np.ndarray]
) -> list[np.ndarray]:
    """Rises of several candidates, each with several parameters, all in one solve."""
    plans = [candidate.plan(p) for candidate, parameters in tried for p in parameters]
    if not plans:
        return []
    ends = np.cumsum([len(parameters) for _, parameters in tried])[:-1]
    return np.split(rises(plans), ends)


def _estimated(
    candidates: Sequence[Candidate[CureT]], rises: Callable[[list[CureT]], np.ndarray], wanted: float
) -> list[tuple[Candidate[CureT], float]]:
    """Candidates that span the rise, at the size nearest to the parameter that gives it."""
    tried = [(c, sorted({c.sold_near(p) for p in np.linspace(c.low, c.high, GRID)})) for c in candidates]
    estimated = []
    for (candidate, parameters), reached in zip(tried, _rises(tried, rises), strict=True):
        sizes, known = np.array(parameters), np.isfinite(reached)
        if known.sum() >= 2 and reached[known][-1] < reached[known][0]:
            sizes, reached, known = sizes[::-1], reached[::-1], known[::-1]
        # A size moves the body one way only, until it tops out or bottoms: the inverse is a function so far.
        known[known] = np.diff(np.fmax.accumulate(reached[known]), prepend=-np.inf) > LEAST_RISE_MM
        if known.sum() >= 2 and reached[known][0] <= wanted <= reached[known][-1]:
            exact = float(PchipInterpolator(reached[known], sizes[known])(wanted))
            estimated.append((candidate, candidate.sold_near(exact)))
    return estimated


def way(cure: Cure[Any], rise: float, against: Sequence[Finding[Any]], kind: type[WayT]) -> WayT:
    """A plan with what it gives and what it runs into.

    Args:
        cure: the plan.
        rise: what it gives, mm.
        against: what stands against it.
        kind: which machine's ways.
    """
    return kind(
        title=cure.title,
        changes=cure.changes,
        rise=rise,
        stops=sum(f.severity == "stops" for f in against),
        fixes=sum(f.severity == "fix" for f in against),
        reversible=all(not p.change.stays for p in cure.changes),
    )


def best_first(ways: Sequence[WayT], wanted: float) -> list[WayT]:
    """Fewest stops first, then smallest plan, then closest to the rise wanted, mm."""
    return sorted(ways, key=lambda w: (w.stops, w.fixes, len(w.changes), abs(w.rise - wanted)))
