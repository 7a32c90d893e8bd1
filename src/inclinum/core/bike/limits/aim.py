"""The rear's drop against what the brief wants, and the rod that gives it."""

from inclinum.core.bike.changes.rear_link import FAR_MM, LEAST_STEP_MM, holes
from inclinum.core.bike.limits.case import BikeCase, BikeCure, BikeFinding

TRIALS = 5
"""Rods that are tried: an even leverage needs two."""


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
            axle="rear",
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
    """The rod that drops the rear as wanted, each one tried on the machine; none where the linkage does not take it."""
    if not case.bike.rear.rods:
        return []
    _, rod = holes(case.bike.rear)
    tried, slope, best = {rod: got}, case.after.drop_per_rod, rod
    for _ in range(TRIALS):
        near = min(tried, key=lambda r: abs(tried[r] - wanted))
        best = round((near + (wanted - tried[near]) / slope) / LEAST_STEP_MM) * LEAST_STEP_MM
        if best in tried or not 20 < best < 500 or abs(best - rod) > FAR_MM:
            break
        cures = _with(case, best)
        drop = _drop(case, cures[0]) if cures else None
        if drop is None:
            return []
        slope = (drop - tried[near]) / (best - near) or slope
        tried[best] = drop
    best = min(tried, key=lambda r: abs(tried[r] - wanted))
    nearer = abs(tried[best] - wanted) < abs(got - wanted) - case.job.brief.tolerance_mm / 2
    return _with(case, best) if nearer else []


def _with(case: BikeCase, rod: float) -> list[BikeCure]:
    return case.providing(f"Rod {rod:g} mm hole to hole", "rear", "rod", rod)


def _drop(case: BikeCase, cure: BikeCure) -> float | None:
    """Drop with another plan, mm; None where its linkage cannot be, or newly ends before its damper does."""
    try:
        tried = case.trying(cure)
        ends_first = tried.after.rear.linkage_ends_first and not case.after.rear.linkage_ends_first
    except ValueError:
        return None
    return None if ends_first else tried.rear_drop
