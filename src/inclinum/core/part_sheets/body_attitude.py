"""Wheel angles against the ground when both ends of a vehicle are raised or lowered."""

from typing import Literal

import numpy as np
from pydantic import Field

from inclinum.core.document import Document
from inclinum.core.document.errors import DomainError
from inclinum.core.kinematics.wheel_angles import pitch_nose_down
from inclinum.core.part_sheets.axle import AxleSheet, sweep
from inclinum.core.part_sheets.base import Answer, Length, Sheet

ANGLES = (
    "camber_deg", "toe_deg", "caster_deg", "kingpin_inclination_deg", "scrub_radius_mm", "mechanical_trail_mm",
    "roll_centre_height_by_patch_travel_mm",
)  # fmt: skip


class Corners(Document):
    """The suspension of both ends."""

    front: AxleSheet
    rear: AxleSheet


class Rises(Document):
    """Body rise at each axle, mm."""

    front: float = Field(ge=-400, le=400)
    rear: float = Field(ge=-400, le=400)


class BodyAttitude(Sheet):
    """Travel is minus the rise at each axle, pitch the line through both rises; tyres are left out."""

    kind: Literal["body-attitude"] = "body-attitude"
    corners: Corners
    wheelbase_mm: Length
    rise_mm: Rises

    def answer(self) -> Answer:
        """Angles of both ends, and the pitch."""
        pitch = float(pitch_nose_down(self.rise_mm.front, self.rise_mm.rear, self.wheelbase_mm))
        return {
            "front": self._end(self.corners.front, self.rise_mm.front, pitch),
            "rear": self._end(self.corners.rear, self.rise_mm.rear, pitch),
            "body_pitch_nose_up_deg": float(-np.degrees(pitch)),
        }

    @staticmethod
    def _end(axle: AxleSheet, rise: float, pitch: float) -> Answer:
        angles = sweep(axle, [-rise], pitch=float(np.degrees(pitch)))
        if angles["camber_deg"][0] is None:
            raise DomainError(f"a rise of {rise:g} mm is beyond what this suspension reaches")
        return {name: angles[name][0] for name in ANGLES if name in angles}
