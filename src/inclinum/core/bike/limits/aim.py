"""The rear's drop against what the brief wants, and the rod that gives it."""

from inclinum.core.bike.changes import RearLink
from inclinum.core.bike.changes.rear_link import LINKED, holes
from inclinum.core.bike.limits.case import BikeCase, BikeCure, BikeFinding

LEAST_STEP_MM = 0.5
"""Rods are made and cut to half a millimetre."""
FAR_MM = 25.0
"""Beyond this a rod is another linkage, not a cure."""


def check(case: BikeCase) -> list[BikeFinding]:
    """Missed by more than the brief's tolerance."""
    wanted, tolerance = case.job.brief.rear_drop.value, case.job.brief.tolerance_mm
    got = case.rear_drop
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
            cures=tuple(_rod(case, wanted, got)),
        )
    ]


def _rod(case: BikeCase, wanted: float, got: float) -> list[BikeCure]:
    """The rod that drops the rear as wanted, by what the present one does per millimetre."""
    if not isinstance(case.bike.rear, LINKED):
        return []
    hole, rod = holes(case.bike.rear)
    best = round((rod + (wanted - got) / case.after.drop_per_rod) / LEAST_STEP_MM) * LEAST_STEP_MM
    change = RearLink.model_construct(hole_mm=round(hole, 1), rod_mm=best, part="")
    if not 20 < best < 500 or abs(best - rod) < LEAST_STEP_MM or abs(best - rod) > FAR_MM:
        return []
    return [case.setting(f"Rod {best:g} mm hole to hole", RearLink.model_validate(change.model_dump()))]
