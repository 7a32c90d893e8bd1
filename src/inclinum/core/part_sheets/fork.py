"""A fork on the bench: force table, sags, the spacer for a target sag, and how far it may go up in its clamps."""

from typing import Literal

import numpy as np
from pydantic import Field

from inclinum.core.document import Document
from inclinum.core.equilibrium.rear_and_fork import ForkCarrying
from inclinum.core.kinematics.attitude import front_drop
from inclinum.core.part_sheets.base import Answer, Length, Rate, Sheet
from inclinum.core.quantity.constants import GRAVITY
from inclinum.core.quantity.root import root
from inclinum.core.springs.fork import CoilForkSprings, Fork, LegSpring, TrappedAir


class AirPerLeg(Document):
    """Trapped air of one leg at full extension."""

    area_mm2: float = Field(gt=1, le=20_000)
    V0_mm3: float = Field(gt=1000, le=1e7)
    p0_absolute_N_per_mm2: float = Field(gt=0.01, le=5)
    exponent: float = Field(ge=1, le=2)


class Clamps(Document):
    """How the tubes sit in the clamps."""

    fork_raised_mm: float = Field(ge=-100, le=200)
    tube_step_limit_mm: float = Field(ge=-100, le=300)
    bottomed_clearance_mm: float = Field(ge=-100, le=400)
    required_bottomed_clearance_mm: float = Field(ge=0, le=200)


class ForkSheet(Sheet):
    """Spring pair with spacers and air.

    Source: Hooke's law for the springs, polytropic change for the air, load along the leg W/cos(rake). Static, no
    friction.
    """

    kind: Literal["fork"] = "fork"
    gravity_m_per_s2: float = Field(default=GRAVITY, gt=1, le=30)
    rake_deg: float = Field(ge=0, le=60)
    spring_rate_per_leg_N_per_mm: Rate
    spring_free_length_mm: Length
    spacer_length_mm: float = Field(ge=0, le=1000)
    available_length_at_full_extension_mm: Length
    air_per_leg: AirPerLeg | None = None
    stroke_mm: Length
    slider_travels_mm: tuple[float, ...] = Field(default=(), max_length=400)
    sprung_mass_on_front_axle_without_rider_kg: float = Field(gt=0, le=1000)
    rider_mass_on_front_axle_kg: float = Field(ge=0, le=500)
    target_laden_sag_along_fork_mm: float = Field(gt=0, le=500)
    clamps: Clamps

    def answer(self) -> Answer:
        """As fitted, with the spacer for the target, and in the clamps."""
        rake = float(np.radians(self.rake_deg))
        unladen = self.sprung_mass_on_front_axle_without_rider_kg * self.gravity_m_per_s2
        laden = unladen + self.rider_mass_on_front_axle_kg * self.gravity_m_per_s2
        axial = laden * float(np.cos(rake))
        spacer = self._spacer_for(axial)
        c = self.clamps
        most = min(c.tube_step_limit_mm, c.bottomed_clearance_mm - c.required_bottomed_clearance_mm)
        table = self._fork(self.spacer_length_mm).force(np.array(self.slider_travels_mm))
        return {
            "axial_force_for_laden_load_N": axial,
            "force_table": {
                "slider_travel_mm": [float(x) for x in self.slider_travels_mm],
                "total_force_N": [float(f) for f in table],
            },
            "as_fitted": self._told(self.spacer_length_mm, unladen, laden, rake),
            "spacer_length_for_target_mm": spacer,
            "spacer_length_change_mm": None if spacer is None else spacer - self.spacer_length_mm,
            "with_target_spacer": None if spacer is None else self._told(spacer, unladen, laden, rake),
            "front_drop_at_front_axle_station_mm": float(front_drop(c.fork_raised_mm, rake)),
            "bottomed_clearance_left_mm": c.bottomed_clearance_mm - c.fork_raised_mm,
            "largest_allowed_raise_mm": most,
            "raise_allowed": c.fork_raised_mm <= most,
        }

    def _fork(self, spacer: float) -> Fork:
        air = self.air_per_leg
        springs = CoilForkSprings.model_construct(
            left=LegSpring.model_construct(
                rate_n_per_mm=self.spring_rate_per_leg_N_per_mm, free_length_mm=self.spring_free_length_mm
            ),
            spacer_mm=spacer,
            available_mm=self.available_length_at_full_extension_mm,
            air=None
            if air is None
            else TrappedAir.model_construct(
                area_mm2=air.area_mm2,
                volume_mm3=air.V0_mm3,
                pressure_n_per_mm2=air.p0_absolute_N_per_mm2,
                exponent=air.exponent,
            ),
        )
        return Fork.model_construct(springs=springs, stroke_mm=self.stroke_mm)

    def _told(self, spacer: float, unladen: float, laden: float, rake: float) -> Answer:
        fork = self._fork(spacer)
        carrying, preload = ForkCarrying(fork.springs, self.stroke_mm, rake), fork.springs.preload() or 0.0
        low, high = carrying.at(unladen).sag, carrying.at(laden).sag
        return {
            "preload_per_leg_mm": preload,
            "spring_loose_at_full_extension": preload < 0,
            "unladen_sag_along_fork_mm": low,
            "laden_sag_along_fork_mm": high,
            "unladen_sag_vertical_mm": carrying.vertical(low),
            "laden_sag_vertical_mm": carrying.vertical(high),
            "force_at_full_stroke_N": float(fork.force(self.stroke_mm)),
        }

    def _spacer_for(self, axial: float) -> float | None:
        """Spacer at which the laden fork stands at the target, mm; None where none does."""
        target = self.target_laden_sag_along_fork_mm

        def miss(spacer: float) -> float:
            return float(self._fork(spacer).force(target)) - axial

        # Where the spring is loose at the target a longer spacer changes nothing: start from where it just touches.
        loose = self.available_length_at_full_extension_mm - self.spring_free_length_mm - target
        high = loose + axial / (2 * self.spring_rate_per_leg_N_per_mm) + 1.0
        return root(miss, loose, high) if miss(loose) <= 0 <= miss(high) else None
