"""The inverse: what reaches this height? Each way is a whole plan, with what it would run into."""

from collections.abc import Callable, Iterator

import numpy as np
from scipy.interpolate import PchipInterpolator

from inclinum.core.changes import PlannedChange, SeatSpacer, SpringSwap, StrutTopSpacer
from inclinum.core.changes.base import millimetres
from inclinum.core.document import Document
from inclinum.core.limits import HARDWARE, Case, Cure, Finding, findings, rises, stand_changed
from inclinum.core.vehicle import AxleName


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

Candidate = tuple[float, float, float, Callable[[float], Cure]]
"""Lowest and highest parameter, the step it comes in, and the plan with the parameter."""


def ways(case: Case, axle: AxleName, rise: float) -> list[Way]:
    """Ways to a rise of one axle from the present plan, fewest stops first, then smallest plan.

    Args:
        case: the present plan.
        axle: which end.
        rise: body rise wanted there, mm.
    """
    found = []
    for low, high, step, plan in _candidates(case, axle):
        parameters = np.linspace(low, high, GRID)
        reached = rises(case.before, [plan(p).changes for p in parameters], axle)
        known = np.isfinite(reached)
        # All parameters raise the body the more the larger they are: the inverse of the curve is a function.
        if known.sum() < 2 or not reached[known][0] <= rise <= reached[known][-1]:
            continue
        exact = float(PchipInterpolator(reached[known], parameters[known])(rise))
        cure = _nearest_sold(case, axle, rise, (low, high, step, plan), exact)
        after = stand_changed(case.before, cure.changes, case.after)
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


def _nearest_sold(case: Case, axle: AxleName, rise: float, candidate: Candidate, exact: float) -> Cure:
    """What can be bought comes in steps: the step that really comes closest, walked to from the estimate."""
    low, high, step, plan = candidate
    at = float(min(high, max(low, round(exact / step) * step)))
    for _ in range(8):
        sold = [p for p in (at - step, at, at + step) if low <= p <= high]
        offered = [plan(p) for p in sold]
        reached = rises(case.before, [o.changes for o in offered], axle)
        best = int(np.nanargmin(np.abs(reached - rise)))
        if sold[best] == at:
            return offered[best]
        at = sold[best]
    return plan(at)


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
    """Spacers of the stack made thicker or thinner, spacers added, and springs of another length."""
    end = axle.capitalize()
    for kind in (SeatSpacer, StrutTopSpacer):
        planned = case.planned(axle, kind)
        if planned:
            yield (
                1,
                60,
                1,
                lambda t, p=planned[-1], k=kind: case.replacing(
                    f"{end} {k.title.lower()} {millimetres(round(t, 2))}", p, thickness_mm=t
                ),
            )
        elif kind is SeatSpacer or case.after.vehicle.axle(axle).strut_top:
            yield (
                1,
                60,
                1,
                lambda t, k=kind: case.adding(
                    f"Add {axle} {k.title.lower()} {millimetres(round(t, 2))}", k(axle=axle, thickness_mm=t)
                ),
            )
    coil = case.after.vehicle.axle(axle).coil
    low = max(coil.solid_length_mm + 20, coil.free_length_mm - 80)

    def with_spring(length: float) -> Cure:
        fitted = coil.model_copy(update={"free_length_mm": length, "part": ""})
        title = f"{end} springs {millimetres(round(length, 2))} free at {coil.rate_n_per_mm:g} N/mm"
        planned = case.planned(axle, SpringSwap)
        if planned:
            return case.replacing(title, planned[-1], coil=fitted)
        return case.adding(title, SpringSwap(axle=axle, coil=fitted))

    yield low, coil.free_length_mm + 80, 1, with_spring
