"""An air bag and the levelling sensor that holds it: pressures, rates, and what another sensor link does."""

from dataclasses import replace
from typing import Literal

import numpy as np
from pydantic import Field

from inclinum.core.document import Document
from inclinum.core.document.errors import DomainError
from inclinum.core.part_sheets.base import Answer, Force, Length, Place, Ratio, Sheet
from inclinum.core.quantity.constants import ATMOSPHERE
from inclinum.core.quantity.root import root
from inclinum.core.springs.air import QUICK, SLOW, AirBag, LevelSensor


class Bag(Document):
    """Height, area and volume at baseline."""

    height_at_baseline_mm: Length
    area_at_baseline_mm2: float = Field(gt=100, le=200_000)
    area_slope_mm2_per_mm: float = Field(ge=-1000, le=1000)
    volume_at_baseline_mm3: float = Field(gt=1000, le=1e8)


class Sensor(Document):
    """The planar sensor linkage at baseline."""

    pivot_xz_mm: Place
    arm_length_mm: Length
    held_angle_deg: float = Field(ge=-360, le=360)
    suspension_pivot_xz_mm: Place
    link_point_on_suspension_arm_xz_mm: Place
    wheel_centre_xz_mm: Place
    search_arm_rotation_deg: float = Field(default=14, gt=0, le=80)
    link_length_changes_mm: tuple[float, ...] = Field(default=(), max_length=200)

    def sensor(self) -> LevelSensor:
        """As the core computes with it."""
        return LevelSensor(
            self.pivot_xz_mm, self.arm_length_mm, float(np.radians(self.held_angle_deg)), self.suspension_pivot_xz_mm,
            self.link_point_on_suspension_arm_xz_mm, self.wheel_centre_xz_mm,
            float(np.radians(self.search_arm_rotation_deg)),
        )  # fmt: skip


class AirLevelling(Sheet):
    """A bag on a constant installation ratio.

    Source: polytropic change of a trapped gas (textbooks of thermodynamics) and virtual work on the ratio, F_wheel
    = F·MR, rate = k·MR²; what the sensor holds: the link's length between two circles, derived here. Valid while
    the ratio hardly changes.
    """

    kind: Literal["air-levelling"] = "air-levelling"
    atmosphere_N_per_mm2: float = Field(default=ATMOSPHERE, gt=0.03, le=0.2)
    installation_ratio: Ratio
    sprung_load_at_wheel_N: Force
    added_load_at_wheel_N: float = Field(default=0, ge=-100_000, le=100_000, description="negative for one taken off")
    quick_exponent: float = Field(default=QUICK, ge=1, le=1.67)
    bag: Bag
    quick_travels_mm: tuple[float, ...] = Field(default=(), max_length=500)
    search_travel_from_mm: float = Field(default=-80, ge=-500, le=0)
    search_travel_to_mm: float = Field(default=120, ge=0, le=500)
    sensor: Sensor | None = None

    def answer(self) -> Answer:
        """Pressures, quick and slow rates, where it settles loaded, and the sensor link's gain."""
        ratio, load, bag = self.installation_ratio, self.sprung_load_at_wheel_N, self._bag(SLOW)
        quick = replace(bag, exponent=self.quick_exponent)

        def height(travel: float) -> float:
            return bag.height - ratio * travel

        heavy = load + self.added_load_at_wheel_N
        if heavy <= 0:
            raise DomainError(
                f"{-self.added_load_at_wheel_N:g} N less than the {load:g} N it carries leave nothing on the bag"
            )

        def over(travel: float) -> float:
            return float(bag.force(height(travel))) * ratio - heavy

        ends = self.search_travel_from_mm, self.search_travel_to_mm
        settled = root(over, *ends) if over(ends[0]) <= 0 <= over(ends[1]) else None
        result: Answer = {
            "gauge_pressure_at_baseline_N_per_mm2": float(bag.pressure),
            "wheel_rate_quick_N_per_mm": float(quick.stiffness(bag.height)) * ratio**2,
            "wheel_rate_slow_N_per_mm": float(bag.stiffness(bag.height)) * ratio**2,
            "quick_wheel_force_table": {
                "travel_mm": list(self.quick_travels_mm),
                "force_N": [float(quick.force(height(z))) * ratio for z in self.quick_travels_mm],
            },
            "loaded_valves_closed_travel_mm": settled,
            "loaded_and_levelled_gauge_pressure_N_per_mm2": float(bag.gauge_for(heavy / ratio, bag.height)),
        }
        if self.sensor:
            result |= self._sensed(self.sensor, bag)
        return result

    def _bag(self, exponent: float) -> AirBag:
        b = self.bag
        bag = AirBag(
            b.height_at_baseline_mm, b.area_at_baseline_mm2, b.area_slope_mm2_per_mm, b.volume_at_baseline_mm3, 0.0,
            exponent, self.atmosphere_N_per_mm2,
        )  # fmt: skip
        force = self.sprung_load_at_wheel_N / self.installation_ratio
        return replace(bag, pressure=float(bag.gauge_for(force, bag.height)))

    def _sensed(self, data: Sensor, bag: AirBag) -> Answer:
        sensor, force = data.sensor(), self.sprung_load_at_wheel_N / self.installation_ratio
        rises = [sensor.rise(change) for change in data.link_length_changes_mm]
        small = 1e-3
        up, down = sensor.rise(small), sensor.rise(-small)
        gain = None if up is None or down is None else (up - down) / (2 * small)
        return {
            "sensor_link_length_baseline_mm": sensor.link_length,
            "height_change_per_link_change_mm": rises,
            "small_change_gain_ratio": gain,
            "gauge_pressure_at_new_height_N_per_mm2": [
                None if r is None else float(bag.gauge_for(force, bag.height + self.installation_ratio * r))
                for r in rises
            ],
        }
