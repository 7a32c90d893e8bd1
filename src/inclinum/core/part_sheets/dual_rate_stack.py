"""Tender and main coil on a coil-over: crossover, ride point, and what collar turns and the stop do."""

from typing import Literal

from pydantic import Field

from inclinum.core.part_sheets.base import Answer, Force, Order, Ratio, Sheet, SpringData
from inclinum.core.springs.stack import DualRateStack, StackSpring


class DualRateStackSheet(Sheet):
    """A stack on a constant installation ratio.

    Source: derived here: springs in series carry one force, 1/k = 1/k₁ + 1/k₂, until the tender is held by its stop
    or goes solid; from there on the main coil works alone. Virtual work on the ratio.
    """

    kind: Literal["dual-rate-stack"] = "dual-rate-stack"
    tender: SpringData
    main: SpringData
    order: Order = "tender_at_collar"
    preload_turns: float = Field(ge=-50, le=200)
    collar_pitch_mm: float = Field(gt=0, le=10)
    gap_divider_to_stop_at_full_extension_mm: float = Field(ge=0, le=1000)
    installation_ratio: Ratio
    sprung_load_at_wheel_N: Force
    damper_stroke_mm: float = Field(gt=0, le=1500)
    spring_travels_mm: tuple[float, ...] = Field(default=(), max_length=500)
    extra_preload_turns: float = Field(default=0, ge=-200, le=200)
    crossover_turns_away_from_divider: float = Field(default=0, ge=-200, le=200)
    crossover_pitch_mm: float = Field(default=1, gt=0, le=10)

    def answer(self) -> Answer:
        """The stack as it is, with extra collar turns, and with its stop moved."""
        tender, main = (
            StackSpring(s.rate_N_per_mm, s.free_length_mm, s.solid_length_mm) for s in (self.tender, self.main)
        )
        stack = DualRateStack(
            tender, main, self.preload_turns * self.collar_pitch_mm,
            self.gap_divider_to_stop_at_full_extension_mm, self.order,
        )  # fmt: skip
        wound = stack.with_preload(self.extra_preload_turns * self.collar_pitch_mm)
        moved = DualRateStack(
            tender, main, stack.preload,
            stack.gap + self.crossover_turns_away_from_divider * self.crossover_pitch_mm, self.order,
        )  # fmt: skip
        baseline = self._state(stack)
        return {
            "series_rate_N_per_mm": stack.series_rate,
            "tender_part_of_travel_ratio": stack.share(tender),
            "force_table": {
                "spring_travel_mm": list(self.spring_travels_mm),
                "force_N": [stack.force_at(s) for s in self.spring_travels_mm],
            },
            "baseline": baseline,
            "extra_preload": self._compared(baseline, self._state(wound)),
            "crossover_moved": self._compared(baseline, self._state(moved)),
        }

    def _compared(self, baseline: Answer, changed: Answer) -> Answer:
        key = "ride_wheel_travel_from_full_extension_mm"
        return changed | {"ride_height_change_mm": baseline[key] - changed[key]}

    def _state(self, stack: DualRateStack) -> Answer:
        cross, by = stack.crossover
        ride, rate = self._ride(stack)
        return {
            "preload_shortening_mm": stack.preload,
            "gap_at_full_extension_mm": stack.gap,
            "force_at_full_extension_N": stack.force_at(0.0),
            "crossover_spring_travel_mm": cross,
            "crossover_wheel_travel_from_full_extension_mm": cross / self.installation_ratio,
            "crossover_force_N": stack.force_at(cross),
            "crossover_by": by,
            "ride_spring_travel_mm": ride,
            "ride_wheel_travel_from_full_extension_mm": ride / self.installation_ratio,
            "ride_past_crossover": ride > cross,
            "wheel_rate_at_ride_N_per_mm": rate * self.installation_ratio**2,
            "force_at_full_stroke_N": stack.force_at(self.damper_stroke_mm),
            "main_bind_margin_at_full_stroke_mm": stack.left_in(stack.main, self.damper_stroke_mm),
            "tender_bind_margin_at_full_stroke_mm": stack.left_in(stack.tender, self.damper_stroke_mm),
        }

    def _ride(self, stack: DualRateStack) -> tuple[float, float]:
        """Spring travel at which the load is carried, and the rate there."""
        force = self.sprung_load_at_wheel_N / self.installation_ratio
        cross, _ = stack.crossover
        if force <= (at_cross := stack.force_at(cross)):
            return force / stack.series_rate - stack.preload, stack.series_rate
        return cross + (force - at_cross) / stack.alone.rate, stack.alone.rate
