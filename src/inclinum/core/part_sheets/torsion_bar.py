"""A torsion bar: ride angle, every useful re-index of its splines, and an adjuster bolt."""

from typing import Literal

import numpy as np
from pydantic import Field

from inclinum.core.document import Document
from inclinum.core.document.errors import DomainError
from inclinum.core.part_sheets.base import Answer, Force, Length, Modulus, Sheet
from inclinum.core.quantity.root import root
from inclinum.core.springs.coil import STEEL_SHEAR_MODULUS
from inclinum.core.springs.torsion import Splines, TrailingTorsion, bar_rate

Sign = Literal[-1, 1]


class Bar(Document):
    """A round bar."""

    G_N_per_mm2: Modulus = STEEL_SHEAR_MODULUS
    diameter_mm: float = Field(gt=3, le=80)
    active_length_mm: Length

    def rate(self) -> float:
        """N·mm/rad."""
        return bar_rate(self.diameter_mm, self.active_length_mm, self.G_N_per_mm2)


class SplineData(Document):
    """Teeth, what their signs are on this side of the vehicle, and what is looked for."""

    inner_teeth: int = Field(ge=5, le=200)
    outer_teeth: int = Field(ge=5, le=200)
    inner_sign: Sign = 1
    outer_sign: Sign = -1
    window_teeth: int = Field(default=8, ge=1, le=40)
    target_height_change_mm: float = Field(ge=-300, le=300)
    window_free_angle_change_deg: float = Field(default=12, gt=0, le=90)


class AdjusterData(Document):
    """A bar whose anchor arm is turned by a bolt."""

    bar: Bar
    sprung_load_at_wheel_N: Force
    arm_length_mm: Length
    free_angle_deg: float = Field(gt=-80, lt=85)
    bolt_pitch_mm: float = Field(gt=0, le=5)
    adjuster_arm_mm: Length
    stated_turns: tuple[float, ...] = Field(default=(), max_length=200)
    target_height_change_mm: float = Field(ge=-300, le=300)
    range_turns: tuple[float, float]


class TorsionBarSheet(Sheet):
    """A trailing arm on a bar, angles below horizontal.

    Source: torsion of a round bar (textbooks of strength of materials), moments about the bar, a tooth is 2π/n;
    derived in ``springs.torsion``. Plane trailing arm.
    """

    kind: Literal["torsion-bar"] = "torsion-bar"
    bar: Bar
    sprung_load_at_wheel_N: Force
    arm_length_mm: Length
    free_angle_deg: float = Field(gt=-80, lt=85)
    splines: SplineData | None = None
    adjuster: AdjusterData | None = None

    def answer(self) -> Answer:
        """Ride angle and rate; the table of re-indexes with the nearest; turns of the adjuster."""
        rate = self.bar.rate()
        arm = TrailingTorsion(rate, self.arm_length_mm, np.radians(self.free_angle_deg))
        load = self.sprung_load_at_wheel_N
        angle = _carried(arm, load)
        result: Answer = {
            "bar_rate_N_mm_per_rad": rate,
            "ride_angle_deg": float(np.degrees(angle)),
            "wheel_rate_at_ride_N_per_mm": float(arm.wheel_rate(load)),
        }
        if self.splines:
            result |= _reindexed(arm, load, self.splines)
        if self.adjuster:
            result["adjuster"] = _adjusted(self.adjuster)
        return result


def _carried(arm: TrailingTorsion, load: float) -> float:
    angle = arm.ride_angle(load)
    if np.isnan(angle):
        raise DomainError("the bar carries this load at no arm angle: check its diameter, length and free angle")
    return angle


def _reindexed(arm: TrailingTorsion, load: float, data: SplineData) -> Answer:
    splines = Splines(data.inner_teeth, data.outer_teeth, data.inner_sign, data.outer_sign)
    pairs = splines.combinations(data.window_teeth, np.radians(data.window_free_angle_change_deg))
    rises = {pair: arm.rise(load, splines.change(*pair)) for pair in pairs}
    reached = [p for p in pairs if not np.isnan(rises[p])]
    # Of pairs that come equally near, the one with the fewest teeth moved.
    order = sorted(
        reached,
        key=lambda p: (round(abs(rises[p] - data.target_height_change_mm), 9), abs(p[0]) + abs(p[1])),
    )
    nearest = [
        {
            "inner": p[0],
            "outer": p[1],
            "free_angle_change_deg": float(np.degrees(splines.change(*p))),
            "height_change_mm": rises[p],
        }
        for p in order[:4]
    ]
    return {
        "table": {
            "inner": [p[0] for p in pairs],
            "outer": [p[1] for p in pairs],
            "height_change_mm": [None if np.isnan(rises[p]) else rises[p] for p in pairs],
        },
        "nearest": nearest[0] if nearest else None,
        "next_three": nearest[1:],
    }


def _adjusted(data: AdjusterData) -> Answer:
    rate = data.bar.rate()
    arm = TrailingTorsion(rate, data.arm_length_mm, np.radians(data.free_angle_deg))
    load, per_turn = data.sprung_load_at_wheel_N, data.bolt_pitch_mm / data.adjuster_arm_mm
    angle = _carried(arm, load)

    def miss(turns: float) -> float:
        return arm.rise(load, turns * per_turn) - data.target_height_change_mm

    # Looked for well beyond the bolt, so that what is missing can be told.
    wide = np.linspace(-60, 60, 241).tolist()
    values = np.array([miss(t) for t in wide])
    crossing = np.flatnonzero((values[:-1] <= 0) & (values[1:] >= 0))
    needed = root(miss, wide[crossing[0]], wide[crossing[0] + 1]) if crossing.size else None
    low, high = sorted(data.range_turns)
    return {
        "bar_rate_N_mm_per_rad": rate,
        "ride_angle_deg": float(np.degrees(angle)),
        "height_change_for_stated_turns_mm": [arm.rise(load, t * per_turn) for t in data.stated_turns],
        "needed_turns": needed,
        "within_adjuster_range": needed is not None and low <= needed <= high,
    }
