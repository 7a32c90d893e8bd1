"""Tyres at full bump, wider, or further out: what is left to arch, guard and unit."""

import numpy as np

from inclinum.core.car.attached import TyreGap
from inclinum.core.car.carried import turns_to_lock, wheel_at_locks
from inclinum.core.car.limits.case import Case, both_axles
from inclinum.core.car.limits.finding import Finding
from inclinum.core.car.stance import Stance
from inclinum.core.car.vehicle import Axle
from inclinum.core.kinematics.axles import steered_axle
from inclinum.core.kinematics.rigid import Array


def left(gap: TyreGap, before: Stance, after: Stance) -> float:
    """Room that is left where it is least, mm.

    Args:
        gap: as it was read with the vehicle as found.
        before, after: of its axle.

    Source: derived here: above, the wheel comes nearer by its travel from where it was read to full bump, and by what
    the tyre has grown in radius; beside, by half of what it is wider and by what it stands further in or out.
    """
    if gap.at is not None:
        return _beside_place(gap, before, after)
    if gap.lies == "above":
        return gap.gap_mm - (after.bump_end - after.baseline) - after.axle.tyre_growth_mm
    half_wider = (after.axle.tyre_wider_mm - before.axle.tyre_wider_mm) / 2
    out = after.axle.wheel_out_mm - before.axle.wheel_out_mm
    return gap.gap_mm - half_wider + (out if gap.lies == "inside" else -out)


def _beside_place(gap: TyreGap, before: Stance, after: Stance) -> float:
    """Room left between tyre and a place on the body at ride height and full bump, straight ahead and at both locks.

    Source: derived here: distance of a place to a cylinder about the hub; what that differs from the gap as it was read
    (shoulders are round, tyres are not all alike) stays as it is.
    """
    assert gap.at is not None, "it has a place"
    place = np.array(gap.at)
    travels = np.array([after.travel, after.bump_end])
    return float((_differs(gap, before) + clear(after.axle, place, *wheel_at_locks(after, travels))).min())


def _differs(gap: TyreGap, before: Stance) -> float:
    """Gap as it was read less the distance from place to cylinder there, mm."""
    read = wheel_at_locks(before, np.array([before.baseline]), straight=True)
    return gap.gap_mm - float(clear(before.axle, np.array(gap.at), *read).min())


def over_positions(gap: TyreGap, before: Stance, after: Stance, centre: Array, spin: Array) -> Array:
    """Room left beside a place at wheel positions of the planned vehicle, (N,), mm, worked out as in :func:`left`.

    Args:
        gap: with its place.
        before, after: of its axle, as one wheel sees it.
        centre, spin: of the wheel, (N, 3).
    """
    return _differs(gap, before) + clear(after.axle, np.array(gap.at), centre, spin)


def clear(axle: Axle, place: Array, centre: Array, spin: Array) -> Array:
    """Distance of a place on the body from a tyre's cylinder, mm; negative inside it.

    Args:
        axle: whose tyre it is.
        place: (3,), mm in body axes.
        centre, spin: of the wheel, (…, 3).
    """
    assert axle.tyre_width_mm is not None, "an axle with such a gap has the width of its tyres"
    off = place - centre
    along = np.sum(off * spin, axis=-1)
    radial = np.sqrt(np.maximum(np.sum(off**2, axis=-1) - along**2, 0.0)) - axle.tyre_radius_mm
    axial = np.abs(along) - (axle.tyre_width_mm + axle.tyre_wider_mm) / 2
    outside = np.hypot(np.maximum(radial, 0.0), np.maximum(axial, 0.0))
    return np.where(outside > 0, outside, np.maximum(radial, axial))


def check(case: Case) -> list[Finding]:
    """One finding per gap of which less is left than is to be kept."""
    found = []
    for name, axle, stance in both_axles(case):
        before = case.before.axle(name)
        for n, gap in enumerate(axle.tyre_gaps):
            room = min(left(gap, before.of_side(side), stance.of_side(side)) for side in axle.sides)
            if room >= gap.keep_mm:
                continue
            at = "at full bump" if gap.lies == "above" else "beside it"
            locked = ""
            if gap.at is not None:
                at = "at full bump or full lock" if turns_to_lock(stance) else "at full bump"
            elif stance.corner.steering is not None or steered_axle(axle.linkage) is not None:
                locked = " Turned to lock it needs more: enter its place, and it is worked out."
            found.append(
                Finding(
                    id=f"tyre_gap.{name}.{n}",
                    axle=name,
                    severity="stops" if room < 0 and left(gap, before, before) >= 0 else "fix",
                    what=f"{name.capitalize()} tyre {'meets' if room < 0 else 'comes near'} {gap.name} {at}",
                    value=room,
                    limit=gap.keep_mm,
                    margin=room - gap.keep_mm,
                    unit="mm",
                    why=f"{left(gap, before, before):.0f} mm were left with the vehicle as it came. A tyre that "
                    f"rubs wears through, and lifts the arch or the brake line with it.{locked}",
                    source="gap as read, travel to full bump, size and place of the tyre",
                )
            )
    return found
