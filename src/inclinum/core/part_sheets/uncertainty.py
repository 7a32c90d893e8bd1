"""How what is not known exactly spreads into a predicted height: first order, and by drawing samples."""

from typing import Literal

import numpy as np
from pydantic import Field, model_validator

from inclinum.core.document.errors import DomainError
from inclinum.core.equilibrium.corner import Damper, RideCorner
from inclinum.core.kinematics.length_curve import QuadraticLength
from inclinum.core.kinematics.rigid import Array
from inclinum.core.part_sheets.base import Answer, Sheet
from inclinum.core.springs import CoilSpring
from inclinum.core.uncertainty import propagate, sample

InputName = Literal[
    "baseline_height_mm", "k1_N_per_mm", "L01_mm", "k2_N_per_mm", "L02_mm", "Lb_mm", "a_ratio", "b_per_mm",
    "scale_load_N",
]  # fmt: skip
OLD: tuple[InputName, ...] = ("k1_N_per_mm", "L01_mm")
"""What the load hangs on where it is told by the spring that leaves."""
LEAST: dict[InputName, float] = {
    "baseline_height_mm": 0.0, "k1_N_per_mm": 0.0, "L01_mm": 0.0, "k2_N_per_mm": 0.0, "L02_mm": 0.0, "Lb_mm": 0.0,
    "a_ratio": 0.0, "scale_load_N": 0.0,
}  # fmt: skip
MOST_SAMPLES = 1_000_000
IN_ONE_GO = 50_000
NO_DAMPER = Damper(extended=1e6, closed=0.0, stop_contact=0.0)
UNUSED = QuadraticLength(500.0, 1.0, 0.0)


class Uncertainty(Sheet):
    """A spring swap, L(z) = Lb − a·z − b·z², every input independent and normal.

    Source: law of propagation of uncertainty, first order, JCGM 100 (GUM) section 5; samples as JCGM 101.
    """

    kind: Literal["uncertainty"] = "uncertainty"
    load_from: Literal["old spring", "scales"] = "old spring"
    inputs: dict[InputName, float] = Field(min_length=8, max_length=9)
    standard_deviations: dict[InputName, float] = Field(max_length=9)
    samples: int = Field(default=100_000, ge=0, le=MOST_SAMPLES)
    seed: int = Field(default=1, ge=0, le=2**31 - 1)

    @model_validator(mode="after")
    def _complete(self) -> "Uncertainty":
        weighed = "scale_load_N" in self.inputs
        if weighed != (self.load_from == "scales"):
            raise DomainError(
                "the load is told by the scales: give scale_load_N" if not weighed else
                "a scale load is given, but the load is to come from the old spring: which of them is it?"
            )  # fmt: skip
        for name, value in self.inputs.items():
            if name in LEAST and value <= LEAST[name]:
                raise DomainError(f"{name} has to be more than {LEAST[name]:g}")
        for name, sigma in self.standard_deviations.items():
            if name not in self.inputs:
                raise DomainError(f"{name} has a standard deviation, but no value")
            if not 0 <= sigma <= max(abs(self.inputs[name]), 1.0):
                raise DomainError(f"the standard deviation of {name} is negative or larger than its value")
        return self

    def _height(self, rows: Array) -> Array:
        at = dict(zip(self.inputs, rows.T, strict=True))
        curve = QuadraticLength(at["Lb_mm"], at["a_ratio"], at["b_per_mm"])
        new = RideCorner(curve, UNUSED, CoilSpring(at["k2_N_per_mm"], at["L02_mm"]), NO_DAMPER, search=(-200.0, 200.0))
        return at["baseline_height_mm"] - new.ride_travel(self._load(at))

    def _load(self, at: dict[InputName, Array]) -> Array:
        return at["scale_load_N"] if self.load_from == "scales" else self._by_spring(at)

    @staticmethod
    def _by_spring(at: dict[InputName, Array]) -> Array:
        return at["k1_N_per_mm"] * (at["L01_mm"] - at["Lb_mm"]) * at["a_ratio"]

    def answer(self) -> Answer:
        """Height, its standard deviation and what each input brings, by slopes and by samples; the spring's check."""
        names = list(self.inputs)
        values = np.array([self.inputs[n] for n in names])
        sigmas = np.array([self.standard_deviations.get(n, 0.0) for n in names])
        spread = propagate(self._height, values, sigmas)
        if not np.isfinite(spread.value):
            raise DomainError("the new spring finds no ride height for this load")
        answer: Answer = {
            "predicted_ride_height_mm": float(spread.value),
            "predicted_ride_height_change_mm": float(spread.value) - self.inputs["baseline_height_mm"],
            "sigma_linear_mm": float(spread.sigma),
            "inputs_in_order": names,
            "contribution_of_each_input_mm": spread.contribution.tolist(),
            "variance_share": spread.share.tolist(),
            "ranking_largest_first": [names[i] for i in np.argsort(-spread.share) if spread.share[i] > 0],
        }
        if self.samples:
            answer |= self._sampled(values, sigmas)
        if self.load_from == "scales":
            answer |= self._check(names, values, sigmas)
        return answer

    def _sampled(self, values: Array, sigmas: Array) -> Answer:
        """In parts, each with its own stream of the seed."""
        counts = [min(IN_ONE_GO, self.samples - at) for at in range(0, self.samples, IN_ONE_GO)]
        drawn = np.concatenate([sample(self._height, values, sigmas, n, [self.seed, i]) for i, n in enumerate(counts)])
        held = drawn[np.isfinite(drawn)]
        sigma = float(held.std())
        return {
            "sampled_mean_height_mm": float(held.mean()),
            "sampled_sigma_height_mm": sigma,
            "sampling_error_of_sampled_sigma_mm": sigma / float(np.sqrt(2 * held.size)),
            "sampling_error_of_sampled_mean_mm": sigma / float(np.sqrt(held.size)),
            "samples_without_ride_height": int(drawn.size - held.size),
        }

    def _check(self, names: list[InputName], values: Array, sigmas: Array) -> Answer:
        """What the scales say against what the old spring says."""

        def apart(rows: Array) -> Array:
            at = dict(zip(names, rows.T, strict=True))
            return at["scale_load_N"] - self._by_spring(at)

        check = propagate(apart, values, sigmas)
        return {
            "spring_says_load_N": float(values[names.index("scale_load_N")] - check.value),
            "spring_check_difference_N": float(check.value),
            "spring_check_sigma_N": float(check.sigma),
            "spring_check_in_sigmas": float(check.value / check.sigma) if check.sigma > 0 else None,
        }
