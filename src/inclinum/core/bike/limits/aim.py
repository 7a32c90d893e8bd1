"""The rear's drop against what the brief wants, and the rod that gives it."""

import numpy as np

from inclinum.core.bike.changes import RearLink
from inclinum.core.bike.changes.rear_link import LINKED, holes
from inclinum.core.bike.limits.case import BikeCase, BikeCure, BikeFinding
from inclinum.core.bike.stance import Standing

LEAST_STEP_MM = 0.5
"""Rods are made and cut to half a millimetre."""


def check(case: BikeCase) -> list[BikeFinding]:
    """Missed by more than the brief's tolerance."""
    wanted, tolerance = case.job.brief.rear_drop.value, case.job.brief.tolerance_mm
    got = case.after.ends["laden"][1].height - case.before.ends["laden"][1].height
    missed = got - wanted
    if abs(missed) <= tolerance:
        return []
    return [
        BikeFinding(
            id="aim.rear",
            end="rear",
            severity="fix",
            what=f"Rear comes out {abs(missed):.0f} mm too {'low' if missed > 0 else 'high'}",
            value=round(got, 2),
            limit=wanted,
            margin=tolerance - abs(missed),
            unit="mm",
            why=f"The brief wants {wanted:+.0f} mm of drop within ±{tolerance:g} mm, rider on.",
            source="the brief",
            cures=tuple(_rod(case, wanted)),
        )
    ]


def _rod(case: BikeCase, wanted: float) -> list[BikeCure]:
    """The rod length that drops the rear as wanted at the same spring and load, by secant."""
    if not isinstance(case.bike.rear, LINKED):
        return []
    hole, rod = holes(case.bike.rear)
    # To first order a longer rod moves the axle by the damper's change over its ratio: then two secant steps.
    x0, y0 = rod, _drop(case, hole, rod)
    x1 = rod + float(np.sign(wanted - y0)) * 2.0
    y1 = _drop(case, hole, x1)
    for _ in range(3):
        if not np.isfinite(y1):
            return []
        if abs(y1 - wanted) < 0.05 or abs(y1 - y0) < 1e-9:
            break
        x0, x1, y0 = x1, x1 + (wanted - y1) * (x1 - x0) / (y1 - y0), y1
        y1 = _drop(case, hole, x1)
    best = round(x1 / LEAST_STEP_MM) * LEAST_STEP_MM
    if not np.isfinite(y1) or not 20 < best < 500 or abs(_drop(case, hole, best) - wanted) > 3:
        return []
    return [case.setting(f"Rod {best:g} mm hole to hole", RearLink(hole_mm=round(hole, 1), rod_mm=best))]


def _drop(case: BikeCase, hole: float, rod: float) -> float:
    """Laden drop with another rod, mm; NaN where it does not go together."""
    try:
        bike = RearLink.model_construct(hole_mm=hole, rod_mm=rod, part="").apply(case.bike)
        end = Standing(bike, case.after.loads).rear.at(case.after.loads.rear_laden)
    except ValueError:
        return float("nan")
    return end.height - case.before.ends["laden"][1].height
