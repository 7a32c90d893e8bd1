"""Drops of both ends against what the brief wants, and what gives them."""

import math
from collections.abc import Callable
from dataclasses import dataclass

from inclinum.core.bike.aims import AimedDrop, aimed
from inclinum.core.bike.changes.rear_link import FAR_MM, LEAST_STEP_MM, holes
from inclinum.core.bike.limits.case import BikeCase, BikeCure, BikeFinding
from inclinum.core.bike.machine import End

TRIALS = 5
"""Lengths that are tried: an even leverage needs two."""


def check(case: BikeCase) -> list[BikeFinding]:
    """Missed by more than the brief's tolerance, at each end that something is wanted of."""
    found = []
    ends: tuple[End, ...] = ("rear", "front")
    for end in ends:
        aim = aimed(case, end)
        if aim is None:
            continue
        wanted, got = aim.drop, -case.rise(end)
        missed = aim.missed(got)
        if aim.met(got):
            continue
        found.append(
            BikeFinding(
                id=f"aim.{end}",
                axle=end,
                severity="fix",
                what=f"{end.capitalize()} comes out {abs(missed):.0f} mm too {'low' if missed > 0 else 'high'}",
                value=round(got, 2),
                limit=round(wanted, 2),
                margin=aim.within - abs(missed),
                unit="mm",
                why=f"The brief wants {aim.said}, within ±{aim.near:g} mm.",
                source="the brief",
                cures=tuple(_lower_or_higher(case, aim, got) if end == "rear" else _raised(case, missed))
                if case.ways
                else (),
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


def _lower_or_higher(case: BikeCase, aim: AimedDrop, got: float) -> list[BikeCure]:
    """What turns the rear end: the rod where there is one, else a damper of another length with the stroke it has."""
    if case.bike.rear.rods:
        _, rod = holes(case.bike.rear)
        return _sought(case, aim, got, _Sought(rod, case.after.drop_per_rod, LEAST_STEP_MM, _with))
    damper = case.bike.damper

    def of_length(case: BikeCase, extended: float) -> list[BikeCure]:
        title = f"Damper {extended:g} mm eye to eye, stroke {damper.stroke_mm:g} mm"
        return case.providing(title, "rear", "rear damper", (extended, damper.stroke_mm))

    return _sought(case, aim, got, _Sought(damper.extended_mm, USUAL_DROP_PER_MM, 1.0, of_length))


USUAL_DROP_PER_MM = -2.0
"""What a first guess takes a mm of damper to lift the axle by; the second knows better."""


@dataclass(frozen=True)
class _Sought:
    """A length that is looked for: as it is, drop per mm of it, what it is sold in, and the plan with another."""

    now: float
    slope: float
    step: float
    plan: Callable[[BikeCase, float], list[BikeCure]]


def _sought(case: BikeCase, aim: AimedDrop, got: float, of: _Sought) -> list[BikeCure]:
    """The length that drops the rear as wanted, each tried on the machine; none where the linkage does not take it."""
    wanted, tried, slope, best = aim.drop, {of.now: got}, of.slope, of.now
    for _ in range(TRIALS):
        near = min(tried, key=lambda r: abs(tried[r] - wanted))
        best = round((near + (wanted - tried[near]) / slope) / of.step) * of.step
        if best in tried or not 20 < best < 700 or abs(best - of.now) > FAR_MM:
            break
        cures = of.plan(case, best)
        drop = _drop(case, cures[0]) if cures else None
        if drop is None:
            return []
        slope = (drop - tried[near]) / (best - near) or slope
        tried[best] = drop
    best = min(tried, key=lambda r: abs(tried[r] - wanted))
    nearer = abs(tried[best] - wanted) < abs(got - wanted) - aim.within / 2
    return of.plan(case, best) if nearer else []


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
