"""Upper damper holes of a lifted solid axle: which keep the bump stop first, and enough droop."""

from typing import Literal

import numpy as np
from pydantic import Field

from inclinum.core.document import Document
from inclinum.core.part_sheets.base import Answer, Length, Place, Sheet


class DamperLengths(Document):
    """Eye to eye."""

    extended_length_mm: Length
    closed_length_mm: Length


class Hole(Document):
    """One place the damper's upper end can be bolted to."""

    label: str = Field(min_length=1, max_length=40)
    xz_mm: Place


class DamperBrackets(Sheet):
    """A damper between a hole on the frame and a mount that moves straight up with the axle.

    Source: plane geometry, the distance between hole and mount over travel. Valid while the axle moves straight up.
    """

    kind: Literal["damper-brackets"] = "damper-brackets"
    damper: DamperLengths
    lower_mount_at_baseline_xz_mm: Place
    ride_travel_mm: float = Field(ge=-500, le=500)
    bump_stop_gap_at_baseline_mm: float = Field(ge=-100, le=500)
    bump_stop_spacer_mm: float = Field(default=0, ge=0, le=300)
    bump_stop_full_compression_mm: float = Field(ge=0, le=300)
    strap_limit_travel_mm: float | None = Field(default=None, ge=-800, le=0)
    required_reserve_mm: float = Field(default=12, ge=0, le=200)
    required_droop_travel_mm: float = Field(default=25, ge=0, le=500)
    upper_holes: tuple[Hole, ...] = Field(min_length=1, max_length=50)

    def answer(self) -> Answer:
        """Every hole with its strokes left, and which are allowed."""
        contact = self.bump_stop_gap_at_baseline_mm - self.bump_stop_spacer_mm
        bump = contact + self.bump_stop_full_compression_mm
        holes = [self._hole(h, bump) for h in self.upper_holes]
        return {
            "bump_stop_contact_travel_mm": contact,
            "full_bump_travel_mm": bump,
            "bump_stop_gap_at_ride_mm": contact - self.ride_travel_mm,
            "bump_travel_from_ride_to_full_mm": bump - self.ride_travel_mm,
            "holes": holes,
            "allowed_by_reserve": [h["hole"] for h in holes if h["reserve_ok"]],
            "allowed_by_reserve_and_droop": [h["hole"] for h in holes if h["reserve_and_droop_ok"]],
        }

    def _hole(self, hole: Hole, bump: float) -> Answer:
        damper, ride = self.damper, self.ride_travel_mm
        x, z0 = hole.xz_mm[0] - self.lower_mount_at_baseline_xz_mm[0], hole.xz_mm[1]

        def rise(travel: float) -> float:
            return z0 - self.lower_mount_at_baseline_xz_mm[1] - travel

        at_ride = float(np.hypot(x, rise(ride)))
        at_bump = float(np.hypot(x, rise(bump)))
        reserve = at_bump - damper.closed_length_mm
        fits = damper.closed_length_mm < at_ride < damper.extended_length_mm
        # Fully extended: the mount hangs straight below by what the slant leaves of the length.
        straight = damper.extended_length_mm**2 - x**2
        open_travel = z0 - self.lower_mount_at_baseline_xz_mm[1] - float(np.sqrt(straight)) if straight >= 0 else None
        strap = self.strap_limit_travel_mm
        by_strap = strap is not None and (open_travel is None or strap > open_travel)
        limit = strap if by_strap else open_travel
        droop = None if limit is None else ride - limit
        ok = reserve >= self.required_reserve_mm and fits
        return {
            "hole": hole.label,
            "damper_length_at_ride_mm": at_ride,
            "installation_at_ride_ratio": rise(ride) / at_ride,
            "bump_stroke_left_at_ride_mm": at_ride - damper.closed_length_mm,
            "droop_stroke_left_at_ride_mm": damper.extended_length_mm - at_ride,
            "damper_length_at_full_bump_mm": at_bump,
            "damper_reserve_after_full_stop_compression_mm": reserve,
            "fits_at_ride": fits,
            "droop_limit_travel_by_damper_mm": open_travel,
            "droop_travel_from_ride_mm": droop,
            "droop_limited_by": "strap" if by_strap else "damper",
            "reserve_ok": ok,
            "reserve_and_droop_ok": ok and droop is not None and droop >= self.required_droop_travel_mm,
        }
