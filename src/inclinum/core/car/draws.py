"""A whole vehicle sampled: what tape, springs and hardpoints together do to heights and angles of all four wheels.

First-order propagation tells one axle at a time; where the response bends, every input is drawn at once instead. All
samples of an axle go through the linkage in one batch.
"""

from dataclasses import dataclass, replace

import numpy as np

from inclinum.core.car.height_spread import (
    as_new_of,
    load_read,
    scales_of,
    spacer_tolerance,
    stated_tolerance,
    tape_tolerance,
)
from inclinum.core.car.job import Job
from inclinum.core.car.stance import Stance, keeps_springs, ride_corner
from inclinum.core.car.stood import stand_changed, stand_measured
from inclinum.core.car.vehicle import Axle
from inclinum.core.document.known import ASSUMED_POINT_MM
from inclinum.core.document.names import AXLES, SIDES, AxleName, Side
from inclinum.core.equilibrium import QuadraticLength
from inclinum.core.fitting.tape import followers, with_followers
from inclinum.core.kinematics.constraints import Adjustment
from inclinum.core.kinematics.rigid import Array
from inclinum.core.quantity.constants import GRAVITY
from inclinum.core.springs import Toleranced
from inclinum.core.uncertainty import COVERAGE

KNOTS = 5
"""Positions a sampled length curve is laid through."""


@dataclass(frozen=True)
class SampledWheel:
    """One wheel: arrays (S,), mm and degrees."""

    axle: AxleName
    side: str
    height: Array
    """Hub to arch after the plan."""
    camber: Array
    toe: Array


def sample_vehicle(job: Job, samples: int, seed: int = 0) -> list[SampledWheel]:
    """Heights, camber and toe of all four wheels after the plan, for random draws of everything that is uncertain.

    Args:
        job: with vehicle, readings and plan.
        samples: how many draws.
        seed: of the draws.

    Raises:
        NoRidePoint: the springs carry their load nowhere as they are told.
    """
    rng = np.random.default_rng(seed)
    before = stand_measured(job)
    after = stand_changed(before, job.plan.changes)
    found: list[SampledWheel] = []
    for name in AXLES:
        found += _axle(job, name, before.axle(name), after.axle(name), samples, rng)
    return found


def _axle(
    job: Job, name: AxleName, before: Stance, after: Stance, samples: int, rng: np.random.Generator
) -> list[SampledWheel]:
    corner, axle = after.corner, after.axle
    moved = _drawn(axle, samples, rng)
    came = before.travel + after.baseline - before.baseline
    low, high = min(came, after.travel) - 30, max(came, after.travel) + 30
    curve = _spring_curve(after, moved, low, high, came)
    span = (float(low - 60), float(high + 60))
    # The load was read on the linkage as it came; where other parts make another one, its springs stand otherwise.
    if before.ride.spring_length is after.ride.spring_length:
        read_on, shift = curve, after.baseline - before.baseline
    else:
        at, shift = before.baseline, 0.0
        read_on = _spring_curve(before, moved, at - 30, at + 30, at)
    rate, longer = (
        rng.normal(1.0, before.axle.spring.rate_spread / COVERAGE, samples),
        rng.normal(0.0, before.axle.spring.free_length_tolerance / COVERAGE, samples),
    )
    swapped = not keeps_springs(before.axle, axle)
    new_rate, new_longer = (
        (
            rng.normal(1.0, axle.spring.rate_spread / COVERAGE, samples),
            rng.normal(0.0, axle.spring.free_length_tolerance / COVERAGE, samples),
        )
        if swapped
        else (rate, longer)
    )
    tape = {side: rng.normal(0.0, tape_tolerance(job, name, side) / COVERAGE, samples) for side in SIDES}
    baseline = after.baseline - sum(tape.values()) / 2
    found_at = np.asarray(before.baseline + shift - sum(tape.values()) / 2)
    fitted = ride_corner(axle)
    drawn = [rng.normal(value, tolerance / COVERAGE, samples) for _, value, tolerance in scales_of(job, name)]
    healthy = [rng.normal(value, tolerance / COVERAGE, samples) for _, value, tolerance in as_new_of(job, name)]
    load, kept = load_read(
        before, read_on, (rate, longer), found_at, on_scales=drawn, as_new=healthy[0] if healthy else None
    )
    if not swapped:
        new_rate = rate * kept
    thicker = rng.normal(0.0, spacer_tolerance(job, name) / COVERAGE, samples)
    planned = replace(
        fitted,
        spring=Toleranced(fitted.spring, new_rate, new_longer),
        spring_length=curve,
        search=span,
        spring_room_taken=fitted.spring_room_taken + thicker,
    )
    added = (axle.carried_kg - before.axle.carried_kg) * GRAVITY
    stated = rng.normal(0.0, stated_tolerance(job, name) / COVERAGE, samples)
    ride = planned.ride_travel(load + added) - stated
    at_ride = np.where(np.isfinite(ride), ride, after.travel)
    there = corner.body.poses(at_ride[:, None] if moved.samples else at_ride, moved)
    motion = corner.motion(there, adjusted=moved)  # body level: pitch is a matter of both axles' heights
    camber, toe = (np.degrees(v).reshape(samples) for v in (motion.camber, motion.toe))
    return [
        SampledWheel(name, side, _height(job, after, name, side) + tape[side] + baseline - ride, camber, toe)
        for side in SIDES
    ]


def _spring_curve(stance: Stance, moved: Adjustment, low: float, high: float, anchor: float) -> QuadraticLength:
    """Length of the spring over travel for each sample: a quadratic through a few solved positions.

    Its remainder is far below what a tape can tell. The spring is what it is: points that are further apart mean seats
    that stand differently, not another load, so that all samples have the nominal length at the anchor.
    """
    travel, held = np.linspace(low, high, KNOTS), stance.axle.levelled_mm + stance.axle.stated_mm
    assert stance.corner.spring is not None
    length, _ = stance.corner.coordinate(stance.corner.spring, stance.corner.body.poses(travel + held, moved), moved)
    b, a, at = np.polynomial.polynomial.polyfit(travel, np.atleast_2d(length).T, 2)[::-1]
    drift = at + a * anchor + b * anchor**2 - float(stance.ride.spring_length.length(anchor))
    return QuadraticLength(at - drift, -a, -b)


def _drawn(axle: Axle, samples: int, rng: np.random.Generator) -> Adjustment:
    """Hardpoints as they may be; those of leaf packs count as they are."""
    return Adjustment() if axle.linkage.kind == "leaf_axle" else _hardpoints(axle, samples, rng)


def _hardpoints(axle: Axle, samples: int, rng: np.random.Generator) -> Adjustment:
    """Every hardpoint drawn within what it is known to; followers go with the points they follow."""
    points = axle.linkage.named_points()
    led = followers(points)
    drawn = {}
    for name in points:
        if name == axle.linkage.wheel_name or name in led or "right" in name.split("_"):
            continue
        known = axle.known.get(name)
        sigma = (ASSUMED_POINT_MM if known is None else known.tolerance_mm) / COVERAGE
        # Three coordinates share the ± of a point.
        drawn[name] = rng.normal(0.0, sigma / np.sqrt(3), (samples, 3))
    return Adjustment(with_followers(drawn, points), placed_anew=True)


def _height(job: Job, stance: Stance, name: AxleName, side: Side) -> float:
    """Hub to arch as it came, read or by the vehicle's data, mm."""
    reading = job.measure.corner(name, side, "hub_to_arch")
    return stance.axle.hub_to_arch_mm - stance.baseline if reading is None else reading.value
