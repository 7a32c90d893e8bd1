"""One corner on the bench: a coil by its wire, another spring, a spacer, and what it does to height and travel."""

from typing import Literal

import numpy as np
from pydantic import Field, model_validator
from scipy.interpolate import CubicSpline

from inclinum.core.document import Document
from inclinum.core.document.errors import DomainError
from inclinum.core.equilibrium.corner import Damper, RideCorner, frequency, swap_estimate
from inclinum.core.kinematics.length_curve import LengthCurve, QuadraticLength, SampledLength
from inclinum.core.part_sheets.base import Answer, Length, Modulus, Rate, Ratio, Sheet
from inclinum.core.quantity.constants import GRAVITY
from inclinum.core.springs import BumpStop, CoilSpring, bind_margin_wanted, wire_rate, wire_solid_length
from inclinum.core.springs.coil import STEEL_SHEAR_MODULUS

AGREE_MM = 0.01
SEARCH = (-200.0, 200.0)
"""Wheel travel looked through where a sheet names no other, mm."""
NO_DAMPER = Damper(extended=1e6, closed=0.0, stop_contact=0.0)
UNUSED = QuadraticLength(500.0, 1.0, 0.0)


class LengthTable(Document):
    """A length as it was measured over travel."""

    travel_mm: tuple[float, ...] = Field(min_length=4, max_length=500)
    length_mm: tuple[Length, ...] = Field(min_length=4, max_length=500)

    @model_validator(mode="after")
    def _in_order(self) -> "LengthTable":
        if len(self.travel_mm) != len(self.length_mm):
            raise DomainError("the table has not as many lengths as travels")
        if np.any(np.diff(self.travel_mm) <= 0):
            raise DomainError("the travels of the table do not increase")
        return self


class LengthOverTravel(Document):
    """L(z) = Lb − a·z − b·z², or a table; where both are given they have to agree."""

    formula: str = Field(default="", max_length=400, description="a free note")
    Lb_mm: Length | None = None
    a_ratio: Ratio | None = None
    b_per_mm: float = Field(default=0, ge=-0.05, le=0.05)
    table: LengthTable | None = None

    @model_validator(mode="after")
    def _told(self) -> "LengthOverTravel":
        if self.Lb_mm is None or self.a_ratio is None:
            if self.table is None:
                raise DomainError("give Lb_mm and a_ratio, or a table of lengths over travel")
            return self
        if self.table is not None:
            off = np.abs(self._quadratic().length(np.array(self.table.travel_mm)) - self.table.length_mm)
            if off.max() > AGREE_MM:
                raise DomainError(f"formula and table differ by {off.max():.2f} mm: which of them is it?")
        return self

    def _quadratic(self) -> QuadraticLength:
        assert self.Lb_mm is not None
        assert self.a_ratio is not None
        return QuadraticLength(self.Lb_mm, self.a_ratio, self.b_per_mm)

    def curve(self) -> LengthCurve:
        """As the ride layer takes it."""
        if self.Lb_mm is not None and self.a_ratio is not None:
            return self._quadratic()
        assert self.table is not None
        z, lengths = np.array(self.table.travel_mm), np.array(self.table.length_mm)
        return SampledLength(z, lengths, -CubicSpline(z, lengths)(z, 1))


class CoilWireSheet(Sheet):
    """A coil without a stamp: its rate, where it binds, and what it carries.

    Source: torsion of a round wire wound to a helix, k = G·d⁴/(8·D³·n), textbooks of machine elements, EN 13906-1;
    solid length: a pile of its turns.
    """

    kind: Literal["coil-wire"] = "coil-wire"
    G_N_per_mm2: Modulus = STEEL_SHEAR_MODULUS
    wire_diameter_mm: float = Field(gt=0.5, le=60)
    coil_mean_diameter_mm: float | None = Field(default=None, gt=5, le=500)
    coil_outside_diameter_mm: float | None = Field(default=None, gt=5, le=500)
    active_coils: float = Field(gt=0.5, le=40)
    total_coils: float = Field(gt=0.5, le=44)
    free_length_mm: Length
    spring_length_at_baseline_mm: Length
    installation_ratio: Ratio
    full_bump_travel_mm: float = Field(ge=-400, le=400)

    @model_validator(mode="after")
    def _one_diameter(self) -> "CoilWireSheet":
        if (self.coil_mean_diameter_mm is None) == (self.coil_outside_diameter_mm is None):
            raise DomainError("give the mean or the outside diameter of the coil, one of them")
        return self

    @property
    def mean_diameter(self) -> float:
        """Outside less one wire, mm."""
        if self.coil_mean_diameter_mm is not None:
            return self.coil_mean_diameter_mm
        assert self.coil_outside_diameter_mm is not None
        return self.coil_outside_diameter_mm - self.wire_diameter_mm

    def answer(self) -> Answer:
        """Rate, solid length, load at baseline, and the travel that is left to the coils."""
        rate = wire_rate(self.wire_diameter_mm, self.mean_diameter, self.active_coils, self.G_N_per_mm2)
        solid = wire_solid_length(self.wire_diameter_mm, self.total_coils)
        spring = CoilSpring(rate, self.free_length_mm, solid, self.active_coils)
        curve = QuadraticLength(self.spring_length_at_baseline_mm, self.installation_ratio, 0.0)
        corner = RideCorner(curve, UNUSED, spring, NO_DAMPER, search=(-2000.0, 2000.0))
        wanted = bind_margin_wanted(self.active_coils)
        at_bump = float(corner.spring_at(self.full_bump_travel_mm))
        return {
            "mean_diameter_mm": self.mean_diameter,
            "coil_rate_N_per_mm": rate,
            "solid_length_mm": solid,
            "spring_force_at_baseline_N": float(corner.spring_force(0.0)),
            "wheel_load_at_baseline_N": float(corner.wheel_force(0.0)),
            "spring_length_at_full_bump_mm": at_bump,
            "coil_bind_margin_at_full_bump_mm": at_bump - solid,
            "required_margin_mm": wanted,
            "margin_ok": at_bump - solid >= wanted,
            "travel_where_margin_equals_required_mm": corner.travel_of_spring(solid + wanted),
            "travel_where_coil_is_solid_mm": corner.travel_of_spring(solid),
        }


class CoilBySheet(Document):
    """A coil by rate and free length."""

    rate_N_per_mm: Rate
    free_length_mm: Length
    solid_length_mm: Length | None = None
    active_coils: float | None = Field(default=None, gt=0.5, le=40)

    def spring(self) -> CoilSpring:
        """As the core computes with it."""
        solid = -float("inf") if self.solid_length_mm is None else self.solid_length_mm
        return CoilSpring(self.rate_N_per_mm, self.free_length_mm, solid, self.active_coils)


class SpringSwapSheet(Sheet):
    """Another spring at the load the old one shows, or at one that was weighed.

    Source: derived here: the load is what the old spring carries at the measured length, F·MR; the new ride point
    is where the new one carries the same. No friction, one corner alone.
    """

    kind: Literal["spring-swap"] = "spring-swap"
    gravity_m_per_s2: float = Field(default=GRAVITY, gt=9, le=10)
    spring_length: LengthOverTravel
    old_spring: CoilBySheet
    new_spring: CoilBySheet
    sprung_load_at_wheel_N: float | None = Field(default=None, gt=0, le=200_000, description="by scales")
    full_droop_travel_mm: float = Field(ge=-500, le=0)
    full_bump_travel_mm: float = Field(ge=0, le=500)

    def answer(self) -> Answer:
        """The new ride point, rates and frequencies, and what is left at both ends of the travel."""
        curve, (old, new) = self.spring_length.curve(), (s.spring() for s in (self.old_spring, self.new_spring))
        before, after = (RideCorner(curve, UNUSED, s, NO_DAMPER, search=SEARCH) for s in (old, new))
        load = self.sprung_load_at_wheel_N or float(before.wheel_force(0.0))
        if load <= 0:
            raise DomainError("the old spring carries nothing at travel 0: check its free length")
        z = float(after.ride_travel(load))
        force, ratio = float(before.spring_force(0.0)), float(curve.ratio(0.0))
        wanted = bind_margin_wanted(self.new_spring.active_coils)
        bump, droop = self.full_bump_travel_mm, self.full_droop_travel_mm
        slack = {
            n: float(c.spring_at(droop)) - s.free_length for n, c, s in (("old", before, old), ("new", after, new))
        }
        margin = None if self.new_spring.solid_length_mm is None else float(after.spring_at(bump)) - new.solid_length
        there = np.isfinite(z)

        def at(value: object) -> float | None:
            return float(value) if there else None  # type: ignore[arg-type]

        return {
            "old_spring_force_N": force,
            "sprung_load_at_wheel_N": load,
            "sprung_mass_kg": load / self.gravity_m_per_s2,
            "new_ride_travel_mm": at(z),
            "ride_height_change_mm": at(-z),
            "new_spring_force_N": at(after.spring_force(z)),
            "new_spring_length_at_ride_mm": at(after.spring_at(z)),
            "installation_before_ratio": ratio,
            "installation_after_ratio": at(curve.ratio(z)),
            "wheel_rate_before_N_per_mm": float(before.wheel_rate(0.0)),
            "wheel_rate_after_N_per_mm": at(after.wheel_rate(z)),
            "ride_frequency_before_Hz": self._hertz(float(before.wheel_rate(0.0)), load),
            "ride_frequency_after_Hz": self._hertz(float(after.wheel_rate(z)), load) if there else None,
            **{f"{n}_spring_slack_at_full_droop_mm": s for n, s in slack.items()},
            **{f"{n}_spring_loose_at_full_droop": s > 0 for n, s in slack.items()},
            "coil_bind_margin_at_full_bump_mm": margin,
            "required_margin_mm": wanted,
            "margin_ok": None if margin is None else margin >= wanted,
            "estimate_ride_height_change_by_dLs_over_MR_mm": swap_estimate(old, new, load / ratio, ratio),
        }

    def _hertz(self, rate: float, load: float) -> float:
        return float(frequency(rate, load * GRAVITY / self.gravity_m_per_s2))


class StoppedDamper(Document):
    """A damper with a stop on its rod."""

    extended_length_mm: Length
    stop_contact_length_mm: Length
    stop_max_compression_mm: float = Field(gt=0, le=300)
    stop_coefficient_N_per_mm_power: float = Field(gt=0, le=1e6)
    stop_power: float = Field(ge=1, le=6)


class SpacersSheet(Sheet):
    """One thickness at the spring seat and at the strut top; negative where a spacer is taken out.

    Source: derived here: at the seat the spring has t less room and the damper keeps its length; on the strut top
    both have t less, so that the window moves too. Equilibrium as for a swap.
    """

    kind: Literal["spacers"] = "spacers"
    spring_length: LengthOverTravel
    damper_length: LengthOverTravel
    spring_rate_N_per_mm: Rate
    spring_free_length_mm: Length
    damper: StoppedDamper
    spacer_thickness_change_mm: float = Field(ge=-200, le=200)
    search_travel_from_mm: float = Field(default=-130, ge=-500, le=0)
    search_travel_to_mm: float = Field(default=140, ge=0, le=500)

    def answer(self) -> Answer:
        """Ride point, window and stop before, with the spacer at the seat, and with it on the strut top."""
        t, before = self.spacer_thickness_change_mm, self._corner(0.0, 0.0)
        if float(before.stop_force(0.0)) > 0:
            raise DomainError("the stop is squeezed at travel 0 already: the load cannot be told from the spring")
        load = float(before.wheel_force(0.0))
        if load <= 0:
            raise DomainError("the spring carries nothing at travel 0: check its free length")
        estimate = t / float(before.spring_length.ratio(0.0))
        return {
            "sprung_load_at_wheel_N": load,
            "before": self._told(before, load),
            "spring_seat_spacer": self._told(self._corner(t, 0.0), load),
            "strut_top_spacer": self._told(self._corner(t, t), load),
            "estimate_seat_t_over_MR_mm": estimate,
            "estimate_top_t_over_MR_mm": estimate,
        }

    def _corner(self, spring: float, damper: float) -> RideCorner:
        d = self.damper
        return RideCorner(
            self.spring_length.curve(),
            self.damper_length.curve(),
            CoilSpring(self.spring_rate_N_per_mm, self.spring_free_length_mm),
            Damper(d.extended_length_mm, 0.0, d.stop_contact_length_mm),
            BumpStop(d.stop_max_compression_mm, d.stop_coefficient_N_per_mm_power, d.stop_power),
            spring,
            damper,
            (self.search_travel_from_mm, self.search_travel_to_mm),
        )

    @staticmethod
    def _told(corner: RideCorner, load: float) -> Answer:
        z, window = float(corner.ride_travel(load)), corner.window()
        rests = bool(np.isfinite(z))

        def apart(one: float | None, other: float | None) -> float | None:
            return one - other if rests and one is not None and other is not None else None

        return {
            "ride_travel_mm": z if rests else None,
            "ride_height_change_mm": -z if rests else None,
            "droop_limit_travel_mm": window.droop_limit,
            "bump_stop_contact_travel_mm": window.stop_contact,
            "bump_limit_travel_mm": window.bump_limit,
            "droop_left_from_ride_mm": apart(z, window.droop_limit),
            "gap_to_bump_stop_from_ride_mm": apart(window.stop_contact, z),
            "bump_left_from_ride_mm": apart(window.bump_limit, z),
            "bump_stop_force_at_ride_N": float(corner.stop_force(z)) if rests else None,
            "rides_on_bump_stop": None if not rests else bool(float(corner.stop_force(z)) > 0),
        }
