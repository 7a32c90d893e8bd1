"""Beside the wheels: the side stand on level ground and on the shop's slope, the seat, and the rider's reach."""

import math

import numpy as np

from inclinum.core.bike.job import BikeJob
from inclinum.core.bike.stance import BikeStance
from inclinum.core.document import Document
from inclinum.core.kinematics import attitude


class StandLean(Document):
    """On the side stand, unladen, before and as planned."""

    drop_mm: float
    lean_before_deg: float
    lean_after_deg: float
    lean_before_slope_deg: float
    lean_after_slope_deg: float
    shortening_mm: float
    """Along the planned leg, for the lean it had on level ground; negative to make it longer."""


class CentreStandEffort(Document):
    """On the centre stand with the rear wheel hanging, before and as planned, mm."""

    clear_before_mm: float
    clear_after_mm: float
    """Rear tyre off the ground; negative where it still stands on it."""
    lifted_more_mm: float
    """How much further than before the machine has to be lifted when it is rolled on."""
    most_mm: float
    """Clear of the ground and lifted further together: beyond it is too heavy to roll on."""


class RiderReach(Document):
    """Rider on, both feet and one foot, mm; what is missing is positive when the leg is too short."""

    seat_before_mm: float
    seat_after_mm: float
    both_missing_before_mm: float | None
    both_missing_after_mm: float | None
    one_missing_before_mm: float | None
    one_missing_after_mm: float | None


def stand_of(job: BikeJob, came: BikeStance, planned: BikeStance) -> StandLean | None:
    """The lean on the side stand; None without one."""
    was, now = came.bike.stand, planned.bike.stand
    if was is None or now is None:
        return None
    at = planned.attitude("unladen", came)
    drop = float(attitude.drop_at(now.x_mm, at.front_drop, at.rear_drop, came.bike.wheelbase_mm))
    lean0 = float(attitude.stand_lean(was.foot_height_mm, was.lateral_mm))
    lean1 = float(attitude.stand_lean(now.foot_height_mm - drop, now.lateral_mm))
    slope, splay = math.radians(job.brief.slope_deg), math.radians(now.splay_deg)
    # The planned leg may be another one: what its foot stands too low by is what is left to take off.
    low = now.lateral_mm * np.tan(lean0) - (now.foot_height_mm - drop)
    return StandLean(
        drop_mm=drop,
        lean_before_deg=math.degrees(lean0),
        lean_after_deg=math.degrees(lean1),
        lean_before_slope_deg=math.degrees(attitude.on_slope(lean0, slope)),
        lean_after_slope_deg=math.degrees(attitude.on_slope(lean1, slope)),
        shortening_mm=float(attitude.stand_shortening(low, lean0, splay)),
    )


def centre_stand_of(came: BikeStance, planned: BikeStance) -> CentreStandEffort | None:
    """The rear tyre on the centre stand; None without one.

    The stand is fixed to the frame: the tyre gains what the hanging axle rises in the frame, and loses what the tyre
    grows. Rolled on, the frame comes up from where it stands unladen, at the stand half way to the swing-arm pivot.
    """
    stand = came.bike.centre_stand
    if stand is None or planned.bike.centre_stand is None:
        return None
    at = planned.attitude("unladen", came)
    x = float(came.pivot[0]) / 2
    hangs_higher = planned.rear.extended_height - came.rear.extended_height
    grown = planned.bike.rear_tyre_radius_mm - came.bike.rear_tyre_radius_mm
    return CentreStandEffort(
        clear_before_mm=stand.wheel_clear_mm,
        clear_after_mm=stand.wheel_clear_mm + hangs_higher - grown,
        lifted_more_mm=float(attitude.drop_at(x, at.front_drop, at.rear_drop, came.bike.wheelbase_mm)),
        most_mm=stand.most_clear_mm,
    )


def reach_of(job: BikeJob, came: BikeStance, planned: BikeStance) -> RiderReach:
    """Seat height under the rider, and what the rider's legs miss."""
    heights = []
    for standing in (came, planned):
        at = standing.attitude("laden", came)
        seat = standing.bike.seat
        drop = float(attitude.drop_at(seat.x_mm, at.front_drop, at.rear_drop, came.bike.wheelbase_mm))
        heights.append(seat.height_mm - drop)
    width, leg = planned.bike.seat.width_mm, job.brief.inseam_mm

    def missing(height: float, *, one: bool) -> float | None:
        if leg is None:
            return None
        lean = math.radians(job.brief.one_foot_lean_deg)
        need = attitude.leg_for_one_foot(height, width, lean) if one else attitude.leg_for_both_feet(height, width)
        return float(need) - leg - job.brief.sole_mm

    return RiderReach(
        seat_before_mm=heights[0],
        seat_after_mm=heights[1],
        both_missing_before_mm=missing(heights[0], one=False),
        both_missing_after_mm=missing(heights[1], one=False),
        one_missing_before_mm=missing(heights[0], one=True),
        one_missing_after_mm=missing(heights[1], one=True),
    )
