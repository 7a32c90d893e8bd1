"""Rake, trail, seat and stand of a machine whose ends have come down, and the fork raise that keeps the steering."""

from typing import Literal

import numpy as np
from pydantic import Field

from inclinum.core.document import Document
from inclinum.core.kinematics import attitude
from inclinum.core.part_sheets.base import Answer, Distance, Length, Sheet


class Stand(Document):
    """A side stand with the machine upright."""

    x_mm: Distance
    lateral_distance_mm: Length
    foot_height_upright_mm: Distance
    leg_angle_from_vertical_deg: float = Field(ge=0, lt=85)


class RakeTrailStand(Sheet):
    """One machine, drops at both axle stations; x forward from the rear axle.

    Source: derived here: the frame turns by the difference of the drops over the wheelbase; trail (R·sin ε −
    offset)/cos ε. Plane, exact.
    """

    kind: Literal["rake-trail-stand"] = "rake-trail-stand"
    rake_deg: float = Field(gt=0, lt=60)
    front_tyre_radius_mm: Length
    fork_offset_mm: Distance
    wheelbase_mm: Length
    front_axle_x_mm: Length
    fork_raised_mm: float = Field(ge=-200, le=300)
    rear_drop_mm: float = Field(ge=-500, le=500)
    target_trail_mm: float = Field(gt=-200, le=400)
    seat_x_mm: Distance
    stand: Stand

    def answer(self) -> Answer:
        """Everything that follows."""
        rake, base, rear = float(np.radians(self.rake_deg)), self.wheelbase_mm, self.rear_drop_mm
        front = attitude.front_drop(self.fork_raised_mm, rake)
        change = attitude.rake_change(front, rear, base)
        before, after = (
            attitude.trail(self.front_tyre_radius_mm, self.fork_offset_mm, e) for e in (rake, rake + change)
        )

        def drop(x: float) -> float:
            # The line goes through the front axle's own station.
            return float(front + (rear - front) * (self.front_axle_x_mm - x) / base)

        wanted = attitude.rake_of_trail(self.front_tyre_radius_mm, self.fork_offset_mm, self.target_trail_mm) - rake
        s = self.stand
        splay, at_stand = float(np.radians(s.leg_angle_from_vertical_deg)), drop(s.x_mm)
        lean = attitude.stand_lean(s.foot_height_upright_mm, s.lateral_distance_mm)
        leaned = attitude.stand_lean(s.foot_height_upright_mm - at_stand, s.lateral_distance_mm)
        return {
            "front_drop_mm": float(front),
            "rake_change_deg": float(np.degrees(change)),
            "rake_after_deg": float(np.degrees(rake + change)),
            "trail_before_mm": float(before),
            "trail_after_mm": float(after),
            "trail_change_mm": float(after - before),
            "fork_raise_that_keeps_trail_mm": float(attitude.raise_for_rake_change(0.0, rear, rake, base)),
            "fork_raise_for_target_trail_mm": float(attitude.raise_for_rake_change(wanted, rear, rake, base)),
            "seat_height_change_mm": -drop(self.seat_x_mm),
            "drop_at_stand_mm": at_stand,
            "stand_lean_before_deg": float(np.degrees(lean)),
            "stand_lean_after_deg": float(np.degrees(leaned)),
            "stand_leg_shortening_along_leg_mm": float(attitude.stand_shortening(at_stand, lean, splay)),
        }
