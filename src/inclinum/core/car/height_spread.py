"""What the tolerances of tape, springs and spacers do to a predicted height."""

from collections.abc import Sequence
from dataclasses import dataclass, replace

import numpy as np

from inclinum.core.car.job import Job
from inclinum.core.car.stance import Stance, keeps_springs, ride_corner
from inclinum.core.document.known import ASSUMED_HEIGHT_MM
from inclinum.core.document.names import SIDES, AxleName, Side
from inclinum.core.equilibrium import ScaledLength
from inclinum.core.equilibrium.corner import LengthCurve
from inclinum.core.kinematics.rigid import Array
from inclinum.core.quantity.constants import GRAVITY
from inclinum.core.springs import Toleranced
from inclinum.core.uncertainty import COVERAGE, Input, InputShare, propagate, ranked

FITTED_RATE, NEW_RATE = "rate of the fitted springs", "rate of the new springs"
BETTER = {
    "tape": "Read it twice, from the middle of the hub to the edge of the arch, level floor, car rolled and settled.",
    "free length of the fitted springs": "Stand one on a flat plate when it is out, and measure it.",
    "free length of the new springs": "Stand one on a flat plate and measure it before it goes in.",
    "spacer thickness": "Read it with a calliper at three places.",
    "installation ratio": "Measure the points the spring stands on, on the vehicle's bench.",
    "scale": "Weigh it again with the scales levelled, brakes off, suspension settled.",
    "height with healthy springs": "Measure another one of its kind with the same load on board.",
    "what is stated": "Ask who states it for which vehicle and load; the tape settles it after.",
}
"""By the first words of an input's label."""


@dataclass(frozen=True)
class HeightSpread:
    """± (two standard deviations) of an axle's rise and of its predicted hub-to-arch height, mm."""

    rise_plus_minus: float
    height_plus_minus: dict[Side, float]
    """Of each side, by its own reading."""
    inputs: tuple[InputShare, ...]


def height_spread(job: Job, before: Stance, after: Stance, name: AxleName) -> HeightSpread:
    """First-order spread of one axle's prediction.

    Where no wheel was weighed the load is inferred from the fitted spring at the measured height, so the fitted
    spring's tolerances reach the result too; a spring that stays fitted is one input, not two. Scales carry the load
    themselves: the spring that leaves then has no part in it.
    """
    old, new = before.axle.spring, after.axle.spring
    swapped = not keeps_springs(before.axle, after.axle)
    tape = [tape_tolerance(job, name, side) for side in SIDES]
    inputs: list[tuple[str, float, float]] = [
        ("tape, hub to arch left", 0.0, tape[0]),
        ("tape, hub to arch right", 0.0, tape[1]),
        (FITTED_RATE, 1.0, old.rate_spread),
        ("free length of the fitted springs", 0.0, old.free_length_tolerance),
        (NEW_RATE, 1.0, new.rate_spread if swapped else 0.0),
        ("free length of the new springs", 0.0, new.free_length_tolerance if swapped else 0.0),
        ("spacer thickness", 0.0, spacer_tolerance(job, name)),
        ("installation ratio", 1.0, before.axle.ratio_tolerance_percent / 100),
        *scales_of(job, name),
        *as_new_of(job, name),
        ("what is stated", 0.0, stated_tolerance(job, name)),
    ]
    better = {FITTED_RATE: old.better, NEW_RATE: new.better}
    added = (after.axle.carried_kg - before.axle.carried_kg) * GRAVITY
    base, fitted = ride_corner(before.axle), ride_corner(after.axle)
    weighed = [n for n, (label, _, _) in enumerate(inputs) if label.startswith("scale")]
    as_new = [n for n, (label, _, _) in enumerate(inputs) if label == AS_NEW]

    def response(rows: Array) -> Array:
        """Rows of inputs → (rise, left height error, right height error) per row, mm."""
        left, right, k_old, l_old, k_new, l_new, spacer, ratio = rows.T[:8]
        baseline = before.baseline - (left + right) / 2
        shifted = baseline + after.baseline - before.baseline
        curve = ScaledLength(base.spring_length, ratio, before.baseline)
        load, kept = load_read(
            before, curve, (k_old, l_old), baseline,
            on_scales=list(rows.T[weighed]), as_new=rows.T[as_new[0]] if as_new else None,
        )  # fmt: skip
        planned = replace(
            fitted,
            spring=Toleranced(fitted.spring, *((k_new, l_new) if swapped else (k_old * kept, l_old))),
            spring_length=ScaledLength(fitted.spring_length, ratio, after.baseline),
            spring_room_taken=fitted.spring_room_taken + spacer,
        )
        rise = shifted - planned.ride_travel(load + added) + rows.T[-1]
        return np.stack([rise, rise + left, rise + right], axis=1)

    values = np.array([v for _, v, _ in inputs])
    sigmas = np.array([t / COVERAGE for _, _, t in inputs])
    spread = propagate(response, values, sigmas)
    named = [Input(n, better.get(n, BETTER.get(n.split(",")[0], ""))) for n, _, _ in inputs]
    return HeightSpread(
        rise_plus_minus=float(COVERAGE * spread.sigma[0]),
        height_plus_minus={side: float(COVERAGE * spread.sigma[n]) for n, side in enumerate(SIDES, 1)},
        inputs=ranked(named, (COVERAGE * spread.contribution[1]).tolist()),
    )


def load_read(
    before: Stance,
    curve: LengthCurve,
    fitted: tuple[Array, Array],
    baseline: Array,
    *,
    on_scales: Sequence[Array],
    as_new: Array | None,
) -> tuple[Array, Array | float]:
    """Sprung load at one wheel for samples of what it is read from, and what its springs carry of what they should.

    Args:
        before: as it was measured.
        curve: length of its springs over travel.
        fitted: rate (as a factor) and free length (as a difference, mm or rad) of its springs, each (S,).
        baseline: linkage travel at the height read, mm, (S,).
        on_scales: readings of the wheels that were weighed, kg, each (S,).
        as_new: hub to arch with healthy springs, mm, (S,); None where nobody knows it.

    Returns:
        Loads, N, and force of the fitted springs as a share of what these data say, 1 where they tell the load.
    """
    axle = before.axle
    base = ride_corner(axle)
    by_spring = replace(base, spring=Toleranced(base.spring, *fitted), spring_length=curve).wheel_force(baseline)
    if not on_scales and as_new is None:
        return by_spring, 1.0
    without = replace(ride_corner(axle, 0.0), spring_length=curve).wheel_force(baseline)
    if on_scales:
        # A side that was not weighed still counts as its spring says.
        read = (sum(on_scales) - len(on_scales) * axle.unsprung_kg) * GRAVITY
        load = (read + (2 - len(on_scales)) * by_spring) / 2
    else:
        sound = ride_corner(axle.model_copy(update={"tired": 0.0}))
        healthy = replace(sound, spring=Toleranced(sound.spring, *fitted), spring_length=curve)
        assert as_new is not None, "without scales the height with healthy springs tells the load"
        load = healthy.wheel_force(axle.hub_to_arch_mm - as_new)
    return load, (load - without) / (by_spring - without)


AS_NEW = "height with healthy springs"


def as_new_of(job: Job, axle: AxleName) -> list[tuple[str, float, float]]:
    """The height with healthy springs as an input, where it tells the load: label, reading and ±, mm."""
    reading = job.measure.as_new(axle)
    if reading is None or scales_of(job, axle):
        return []
    return [(AS_NEW, reading.value, reading.plus_minus(ASSUMED_HEIGHT_MM))]


ASSUMED_SCALE_SHARE = 0.01
"""± of a scale that says none, as a share of its reading."""


def scales_of(job: Job, axle: AxleName) -> list[tuple[str, float, float]]:
    """The wheels that were weighed: label, reading and ±, kg."""
    found = []
    for side in SIDES:
        if (mass := job.measure.scale(axle, side)) is not None:
            assumed = mass.tolerance is None
            label = f"scale, {side} wheel" + (" (± assumed)" if assumed else "")
            found.append((label, mass.value, mass.plus_minus(ASSUMED_SCALE_SHARE * mass.value)))
    return found


def tape_tolerance(job: Job, axle: AxleName, side: Side) -> float:
    """± of a hub-to-arch reading, mm."""
    reading = job.measure.corner(axle, side, "hub_to_arch")
    if reading is None:
        return ASSUMED_HEIGHT_MM
    return reading.plus_minus(job.measure.default_tolerance_mm)


def stated_tolerance(job: Job, axle: AxleName) -> float:
    """± of all rises that are only stated, together, mm."""
    on = [p.change.rise_tolerance() for p in job.plan.changes if p.on and p.change.axle == axle]
    return float(np.sqrt(sum(t**2 for t in on)))


def spacer_tolerance(job: Job, axle: AxleName) -> float:
    """± of all spacers of the plan together, mm."""
    on = [p.change.room_tolerance() for p in job.plan.changes if p.on and p.change.axle == axle]
    return float(np.sqrt(sum(t**2 for t in on)))
