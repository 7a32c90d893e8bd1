"""A body on four linear corners: springs changed, load added, one spring soft."""

from typing import Annotated, Literal

import numpy as np
from pydantic import Field

from inclinum.core.document import Document
from inclinum.core.equilibrium.body import CORNERS, BarOffset, BodyStance, LinearCorner, SprungBody, centre_of
from inclinum.core.kinematics.rigid import Array
from inclinum.core.part_sheets.base import Answer, Distance, Force, Length, Rate, Ratio, Sheet
from inclinum.core.quantity.constants import GRAVITY

CornerName = Literal["FL", "FR", "RL", "RR"]


class AxleRates(Document):
    """Springs of one axle, and its bar as force at the wheel per mm of travel difference."""

    spring_rate_N_per_mm: Rate
    installation_ratio: Ratio
    anti_roll_bar_rate_at_wheel_N_per_mm: float = Field(default=0, ge=0, le=500)


class FourCorners(Document):
    """Where the wheels are and what they carry."""

    front_axle_x_mm: Distance
    rear_axle_x_mm: Distance
    front_track_mm: Length
    rear_track_mm: Length
    corner_sprung_load_N: dict[CornerName, Force] = Field(min_length=4, max_length=4)
    front: AxleRates
    rear: AxleRates


def corner_places(vehicle: FourCorners) -> tuple[Array, Array]:
    """x and y of the wheels in the order of the corners, mm."""
    front, rear = vehicle.front_axle_x_mm, vehicle.rear_axle_x_mm
    f, r = vehicle.front_track_mm / 2, vehicle.rear_track_mm / 2
    return np.array([front, front, rear, rear]), np.array([f, -f, r, -r])


def per_corner(vehicle: FourCorners, field: str) -> Array:
    """A number of each axle, at its corners."""
    front, rear = (getattr(a, field) for a in (vehicle.front, vehicle.rear))
    return np.array([front, front, rear, rear])


class SpringChange(Document):
    """Other springs on both sides of an axle."""

    axle: Literal["front", "rear"]
    new_rate_N_per_mm: Rate
    free_length_change_mm: float = Field(ge=-300, le=300)


class AddedLoad(Document):
    """A mass somewhere in the vehicle."""

    mass_kg: float = Field(gt=0, le=20_000)
    x_mm: Annotated[float, Field(ge=-10_000, le=10_000)]
    y_mm: Annotated[float, Field(ge=-3000, le=3000)]


class SoftCorner(Document):
    """One spring whose rate is off."""

    corner: CornerName
    rate_factor: float = Field(gt=0.2, le=2)


class WholeVehicle(Sheet):
    """Small angles, linear wheel rates, bars free of force at baseline.

    Source: statics of a rigid body on four corners, ``equilibrium.body``.
    """

    kind: Literal["whole-vehicle"] = "whole-vehicle"
    gravity_m_per_s2: float = Field(default=GRAVITY, gt=9, le=10)
    vehicle: FourCorners
    spring_change: SpringChange | None = None
    added_load: AddedLoad | None = None
    soft_corner: SoftCorner | None = None

    def answer(self) -> Answer:
        """Baseline cross weight, and the body's stance in each case that is asked about."""
        loads = self._loads
        result: Answer = {"baseline_diagonal_FL_RR_share": float((loads[0] + loads[3]) / loads.sum())}
        weight, x, y = centre_of(loads, *corner_places(self.vehicle))
        ratios, rates = (per_corner(self.vehicle, f) for f in ("installation_ratio", "spring_rate_N_per_mm"))
        force, rate = loads.copy(), rates * ratios**2
        if c := self.spring_change:
            mine = np.array([c.axle == "front", c.axle == "front", c.axle == "rear", c.axle == "rear"])
            new = c.new_rate_N_per_mm * (loads / (ratios * rates) + c.free_length_change_mm) * ratios
            result["spring_change"] = self._told(
                self._body(np.where(mine, new, force), np.where(mine, c.new_rate_N_per_mm * ratios**2, rate)).rest(
                    weight, (x, y)
                )
            )
        if a := self.added_load:
            more = a.mass_kg * self.gravity_m_per_s2
            total = weight + more
            at = (weight * x + more * a.x_mm) / total, (weight * y + more * a.y_mm) / total
            result["added_load"] = self._told(self._body(force, rate).rest(total, at))
        if s := self.soft_corner:
            factor = np.where([name == s.corner for name in CORNERS], s.rate_factor, 1.0)
            result["soft_corner"] = self._told(self._body(force * factor, rate * factor).rest(weight, (x, y)))
        return result

    @property
    def _loads(self) -> Array:
        return np.array([self.vehicle.corner_sprung_load_N[name] for name in CORNERS])

    def _body(self, force: Array, rate: Array) -> SprungBody:
        bars = tuple(BarOffset(a.anti_roll_bar_rate_at_wheel_N_per_mm) for a in (self.vehicle.front, self.vehicle.rear))
        corners = [LinearCorner(f, k) for f, k in zip(force, rate, strict=True)]
        return SprungBody(corners, *corner_places(self.vehicle), bars)  # type: ignore[arg-type]

    @staticmethod
    def _told(stance: BodyStance) -> Answer:
        return {
            "heave_at_mid_wheelbase_mm": float(stance.heave),
            "pitch_nose_down_positive_deg": float(np.degrees(stance.pitch)),
            "roll_left_side_up_positive_deg": float(np.degrees(stance.roll)),
            "corner_height_change_mm": dict(zip(CORNERS, stance.rise.tolist(), strict=True)),
            "corner_load_N": dict(zip(CORNERS, stance.load.tolist(), strict=True)),
            "diagonal_FL_RR_share": float(stance.diagonal_share),
        }
