"""Drops of both ends against what the brief wants, and what gives them."""

import math

from inclinum.core.bike.aims import aimed
from inclinum.core.bike.changes.rear_link import FAR_MM, LEAST_STEP_MM, holes
from inclinum.core.bike.limits.case import BikeCase, BikeCure, BikeFinding
from inclinum.core.bike.machine import End

TRIALS = 5
"""Rods that are tried: an even leverage needs two."""


def check(case: BikeCase) -> list[BikeFinding]:
    """Missed by more than the brief's tolerance, at each end that something is wanted of."""
    brief, found = case.job.brief, []
    ends: tuple[End, ...] = ("rear", "front")
    for end in ends:
        aim = aimed(case, end)
        if aim is None:
            continue
        wanted, tolerance, got = aim.drop, brief.tolerance_mm, -case.rise(end)
        missed = aim.missed(got)
        if abs(missed) <= tolerance:
            continue
        found.append(
            BikeFinding(
                id=f"aim.{end}",
                axle=end,
                severity="fix",
                what=f"{end.capitalize()} comes out {abs(missed):.0f} mm too {'low' if missed > 0 else 'high'}",
                value=round(got, 2),
                limit=round(wanted, 2),
                margin=tolerance - abs(missed),
                unit="mm",
                why=f"The brief wants {aim.said}, within ±{tolerance:g} mm.",
                source="the brief",
                cures=tuple(_rod(case, wanted, got) if end == "rear" else _raised(case, missed)) if case.ways else (),
                ways_sought=case.ways,
            )
        )
    return found


def _raised(case: BikeCase, missed: float) -> list[BikeCure]:
    """The fork higher or lower in its clamps, as far as they allow."""
    fork = case.bike.fork
    if fork.crown == "single":
        return []
    wanted = fork.raised_mm - missed / math.cos(math.radians(case.before.bike.rake_deg))
    wanted = round(min(max(wanted, fork.raise_least_mm), fork.most_raise) * 2) / 2
    if abs(wanted - fork.raised_mm) < LEAST_STEP_MM:
        return []
    return case.providing(f"Tubes {wanted:g} mm above the clamp", "front", "fork raise", wanted)


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
