"""The inverse: what reaches this height? Each way is a whole plan, with what it would run into."""

from collections.abc import Callable, Iterator, Sequence
from dataclasses import dataclass

import numpy as np
from scipy.interpolate import PchipInterpolator

from inclinum.core.car.changes import CHANGE_TYPES, Change, PlannedChange
from inclinum.core.car.limits import HARDWARE, Case, Cure, Finding, findings, rises, stand_changed
from inclinum.core.document import Document
from inclinum.core.document.names import AxleName


class Way(Document):
    """One way to a height."""

    title: str
    changes: tuple[PlannedChange, ...]
    rise: float
    """What it really gives once its parameter is one that can be bought, mm."""
    stops: int
    fixes: int
    reversible: bool


GRID = 5
"""Parameters tried per way; between them the height is a smooth curve."""
LEAST_RISE_MM = 1e-6
"""Sizes that raise the body by less than this over the one before do nothing any more."""
STEPS_WALKED = 8
"""How often a way may move on to the next size that is sold."""


@dataclass(frozen=True)
class Candidate:
    """A plan with one parameter left open."""

    low: float
    high: float
    step: float
    """What can be bought comes in steps of this."""
    plan: Callable[[float], Cure]

    def sold_near(self, parameter: float) -> float:
        """The size that can be bought nearest to a parameter."""
        return min(self.high, max(self.low, round(parameter / self.step) * self.step))

    def around(self, at: float) -> list[float]:
        """A size with the next smaller and the next larger one."""
        return [p for p in (at - self.step, at, at + self.step) if self.low <= p <= self.high]


def ways(case: Case, axle: AxleName, rise: float) -> list[Way]:
    """Ways to a rise of one axle from the present plan, fewest stops first, then smallest plan.

    Args:
        case: the present plan.
        axle: which end.
        rise: body rise wanted there, mm.
    """
    found = []
    now = case.after.axle(axle).rise
    for cure in _nearest_sold(case, axle, rise, _estimated(case, axle, rise)):
        after = stand_changed(case.before, cure.changes, case.after)
        if abs(after.axle(axle).rise - rise) > abs(now - rise) - LEAST_RISE_MM:
            continue  # the nearest size that can be had leads no nearer
        trial = Case(
            case.job.model_copy(update={"plan": case.job.plan.model_copy(update={"changes": cure.changes})}),
            case.before,
            after,
        )
        against = findings(trial, HARDWARE)
        found.append(
            Way(
                title=cure.title,
                changes=cure.changes,
                rise=after.axle(axle).rise,
                stops=sum(f.severity == "stops" for f in against),
                fixes=sum(f.severity == "fix" for f in against),
                reversible=all(p.change.reversible for p in cure.changes),
            )
        )
    return sorted(found, key=lambda w: (w.stops, w.fixes, len(w.changes), abs(w.rise - rise)))


def _rises(case: Case, axle: AxleName, tried: Sequence[tuple[Candidate, Sequence[float]]]) -> list[np.ndarray]:
    """Rises of several candidates, each with several parameters, all in one solve."""
    plans = [candidate.plan(p).changes for candidate, parameters in tried for p in parameters]
    if not plans:
        return []
    ends = np.cumsum([len(parameters) for _, parameters in tried])[:-1]
    return np.split(rises(case.before, plans, axle), ends)


def _estimated(case: Case, axle: AxleName, rise: float) -> list[tuple[Candidate, float]]:
    """Candidates that span the rise, with the parameter that gives it."""
    tried = [(c, sorted({c.sold_near(p) for p in np.linspace(c.low, c.high, GRID)})) for c in _candidates(case, axle)]
    estimated = []
    for (candidate, parameters), reached in zip(tried, _rises(case, axle, tried), strict=True):
        # All sizes raise the body the more the larger they are, until it tops out: the inverse is a function so far.
        known = np.isfinite(reached)
        known[known] = np.diff(np.fmax.accumulate(reached[known]), prepend=-np.inf) > LEAST_RISE_MM
        if known.sum() >= 2 and reached[known][0] <= rise <= reached[known][-1]:
            estimated.append((candidate, float(PchipInterpolator(reached[known], np.array(parameters)[known])(rise))))
    return estimated


def _nearest_sold(case: Case, axle: AxleName, rise: float, estimated: list[tuple[Candidate, float]]) -> list[Cure]:
    """Of each candidate the size that really comes closest, walked to from the estimate."""
    sizes = [(candidate, candidate.sold_near(exact)) for candidate, exact in estimated]
    for _ in range(STEPS_WALKED):
        tried = [(candidate, candidate.around(at)) for candidate, at in sizes]
        closest = [
            (candidate, around[int(np.nanargmin(np.abs(reached - rise)))])
            for (candidate, around), reached in zip(tried, _rises(case, axle, tried), strict=True)
        ]
        if closest == sizes:
            break
        sizes = closest
    return [candidate.plan(at) for candidate, at in sizes]


def with_ways(case: Case, found: list[Finding]) -> list[Finding]:
    """The same findings, those about height cured by the best ways to the height that settles them."""
    return [
        f.model_copy(
            update={
                "cures": (
                    *f.cures,
                    *(Cure(title=w.title, changes=w.changes) for w in ways(case, f.axle, f.wanted_rise)[:2]),
                )
            }
        )
        if f.axle and f.wanted_rise is not None
        else f
        for f in found
    ]


def _candidates(case: Case, axle: AxleName) -> Iterator[Candidate]:
    """Every change that is searched by one number: the one the plan has at another size, else one added."""
    data = case.after.vehicle.axle(axle)
    for kind in CHANGE_TYPES:
        there = case.planned(axle, kind.provides) if kind.provides else []
        try:
            change = there[-1].change if there else kind.start(axle, data)
        except ValueError:
            continue
        search = change.search(data)
        if search is None:
            continue

        def plan(size: float, change: Change = change, there: list[PlannedChange] = there) -> Cure:
            sized = change.at(float(size))
            if there:
                return case.replacing(f"{axle.capitalize()} {sized.sized()}", there[-1], sized)
            title = f"Add {axle} {sized.sized()}" if sized.adds else f"{axle.capitalize()} {sized.sized()}"
            return case.adding(title, sized)

        yield Candidate(search.low, search.high, search.step, plan)
