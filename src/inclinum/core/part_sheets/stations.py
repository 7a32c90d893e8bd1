"""Heights at places along the vehicle from both axles, and both axles from two places."""

from typing import Literal

import numpy as np
from pydantic import Field

from inclinum.core.document import Document
from inclinum.core.document.names import Name
from inclinum.core.kinematics.wheel_angles import axle_rises, pitch_nose_down, rise_at
from inclinum.core.part_sheets.base import Answer, Length, Sheet


class Place(Document):
    """A station of the body."""

    label: Name
    x_mm: float = Field(ge=-12_000, le=12_000, description="forward positive")


class Forward(Document):
    """What both axles do, and where it is asked for."""

    front_axle_change_mm: float = Field(ge=-500, le=500)
    rear_axle_change_mm: float = Field(ge=-500, le=500)
    stations: tuple[Place, ...] = Field(max_length=200)


class Read(Document):
    """A change of height read at a place."""

    x_mm: float = Field(ge=-12_000, le=12_000)
    height_change_mm: float = Field(ge=-500, le=500)


class Inverse(Document):
    """Two readings, each with the same standard deviation."""

    readings: tuple[Read, Read]
    reading_sigma_mm: float = Field(default=0, ge=0, le=100)


class Stations(Sheet):
    """The body as a straight line through both axles.

    Source: derived here: a rigid body, Δh(x) linear between the axles; readings' spread by the inverse's squares.
    Small pitch.
    """

    kind: Literal["stations"] = "stations"
    front_axle_x_mm: float = Field(ge=-12_000, le=12_000)
    wheelbase_mm: Length
    forward: Forward | None = None
    inverse: Inverse | None = None

    def answer(self) -> Answer:
        """Changes at the stations and the pitch; axle changes from two readings with their standard deviations."""
        answer: Answer = {}
        front_x, base = self.front_axle_x_mm, self.wheelbase_mm
        if self.forward is not None:
            f, r = self.forward.front_axle_change_mm, self.forward.rear_axle_change_mm
            answer["height_change_at_station_mm"] = {
                s.label: float(rise_at(s.x_mm, f, r, front_x, base)) for s in self.forward.stations
            }
            answer["pitch_change_nose_down_positive_deg"] = float(np.degrees(pitch_nose_down(f, r, base)))
        if self.inverse is not None:
            rows = np.array([[r.x_mm, r.height_change_mm] for r in self.inverse.readings])
            rises, spread = axle_rises(rows, front_x, base)
            sigma = self.inverse.reading_sigma_mm * np.sqrt((spread**2).sum(axis=1))
            answer |= {
                "inverse_front_axle_change_mm": float(rises[0]),
                "inverse_rear_axle_change_mm": float(rises[1]),
                "inverse_front_axle_sigma_mm": float(sigma[0]),
                "inverse_rear_axle_sigma_mm": float(sigma[1]),
            }
        return answer
