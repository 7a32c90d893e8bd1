"""The inverse, of four wheels: what reaches this height? Each way is a whole plan, with what it would run into."""

import numpy as np

from inclinum.core import plan
from inclinum.core.car.changes import PlannedChange
from inclinum.core.car.limits import HARDWARE, Case, Cure, Finding, findings, rises, stand_changed
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import AxleName


class Way(plan.Way[PlannedChange]):
    """One way to a height."""


def ways(case: Case, axle: AxleName, rise: float) -> list[Way]:
    """Ways to a rise of one axle from the present plan, fewest stops first, then smallest plan.

    Args:
        case: the present plan.
        axle: which end.
        rise: body rise wanted there, mm.
    """

    def reached(cures: list[Cure]) -> np.ndarray:
        return rises(case.before, [cure.changes for cure in cures], axle)

    found = []
    for cure in plan.nearest(list(case.candidates(axle)), reached, rise, case.after.axle(axle).rise):
        try:
            after = stand_changed(case.before, cure.changes, case.after)
        except DomainError:
            continue  # a size that is sold, but not for this vehicle
        trial = Case(
            case.job.model_copy(update={"plan": case.job.plan.model_copy(update={"changes": cure.changes})}),
            case.before,
            after,
        )
        found.append(plan.way(cure, after.axle(axle).rise, findings(trial, HARDWARE), Way))
    return plan.best_first(found, rise)


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


def without_ways(found: list[Finding]) -> list[Finding]:
    """The same findings, those about height marked as not searched for ways."""
    return [f.model_copy(update={"ways_sought": False}) if f.axle and f.wanted_rise is not None else f for f in found]
