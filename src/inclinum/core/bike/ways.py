"""The inverse, of two wheels: what brings an end to this height with the rider on? Each way is a whole plan."""

import numpy as np

from inclinum.core import plan
from inclinum.core.bike.changes import PlannedBikeChange
from inclinum.core.bike.limits import BikeCase, BikeCure, findings
from inclinum.core.bike.machine import End
from inclinum.core.bike.prediction import assess


class BikeWay(plan.Way[PlannedBikeChange]):
    """One way to a height."""


def ways(case: BikeCase, end: End, rise: float) -> list[BikeWay]:
    """Ways to a rise of one end from the present plan, fewest stops first, then smallest plan.

    Args:
        case: the present plan.
        end: which end.
        rise: of the body at that axle's station, rider on, against the machine as it came, mm.
    """

    def reached(cures: list[BikeCure]) -> np.ndarray:
        return np.array([_rise(case, cure, end) for cure in cures])

    found = []
    for cure in plan.nearest(list(case.candidates(end)), reached, rise, case.rise(end)):
        trial = assess(
            case.job.model_copy(update={"plan": case.job.plan.model_copy(update={"changes": cure.changes})})
        ).case()
        found.append(plan.way(cure, trial.rise(end), findings(trial), BikeWay))
    return plan.best_first(found, rise)


def _rise(case: BikeCase, cure: BikeCure, end: End) -> float:
    """Rise with another plan, mm; NaN where its linkage cannot be, or newly ends before its damper does."""
    try:
        tried = case.trying(cure)
        ends_first = tried.after.rear.linkage_ends_first and not case.after.rear.linkage_ends_first
    except ValueError:
        return float("nan")
    return float("nan") if ends_first else tried.rise(end)
