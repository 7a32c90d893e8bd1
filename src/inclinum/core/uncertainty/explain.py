"""What one thing would explain a miss: a rate that is off, a load that is aboard, a spring that does not sit.

Each explanation has one parameter. The body of :mod:`inclinum.core.equilibrium.body` is put at rest with it, and
the parameter is fitted so that the squares of what is left at the four corners are least. Explanations with the
least left come first; a plausible one may still be wrong.
"""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Literal

import numpy as np
from scipy.optimize import minimize_scalar

from inclinum.core.equilibrium.body import CORNERS, BarOffset, LinearCorner, SprungBody, centre_of
from inclinum.core.kinematics.rigid import Array

Kind = Literal["rate", "load", "unseated"]
TRIED: dict[Kind, tuple[float, float]] = {"rate": (-0.6, 1.5), "load": (-0.5, 0.5), "unseated": (-120.0, 120.0)}
"""Between which values a parameter is looked for: a share, a share of the sprung weight, mm."""
SMALL: dict[Kind, float] = {"rate": 1e-5, "load": 1e-6, "unseated": 1e-3}
"""Step of the slope at zero, in the same units."""
GRID = 31
"""Values looked at before the best of them is made better: far from zero a rate's squares have more than one dip."""


@dataclass(frozen=True)
class FourCorners:
    """The vehicle as planned: corners in the order of :data:`~inclinum.core.equilibrium.body.CORNERS`.

    Args:
        x, y: of the wheels, forward and left positive, (4,), mm.
        load: sprung, as planned, (4,), N.
        rate: of the springs, (4,), N/mm.
        ratio: installation ratio there, (4,).
        bars: anti-roll bars, front and rear, N/mm at the wheel.
        wheel_rate: (4,), N/mm; spring rate times ratio² where it is left out.
    """

    x: Array
    y: Array
    load: Array
    rate: Array
    ratio: Array
    bars: tuple[float, float] = (0.0, 0.0)
    wheel_rate: Array | None = None

    @property
    def at_wheel(self) -> Array:
        """Wheel rates, N/mm."""
        return self.rate * self.ratio**2 if self.wheel_rate is None else self.wheel_rate


@dataclass(frozen=True)
class Hypothesis:
    """One thing that may be off.

    Args:
        label: what a person calls it.
        kind: ``rate`` of both springs of an axle, ``load`` somewhere, ``unseated`` spring of a corner.
        corners: which corners it touches, (4,) of 0 and 1; unused for a load.
        at: where a load lies, x and y, mm.
    """

    label: str
    kind: Kind
    corners: tuple[float, float, float, float] = (0.0, 0.0, 0.0, 0.0)
    at: tuple[float, float] = (0.0, 0.0)


@dataclass(frozen=True)
class Explanation:
    """A hypothesis at its best value.

    Of a rate the parameter is a share of it, of a load kg, of an unseated spring mm.
    """

    hypothesis: Hypothesis
    parameter: float
    linearised: float
    left: Array
    """Residuals that remain, (4,), mm."""
    squares: float
    linearised_squares: float
    share: float
    """Of the squares of all residuals, what it takes away."""


def explain(vehicle: FourCorners, residual: Array, hypotheses: list[Hypothesis], gravity: float) -> list[Explanation]:
    """Every hypothesis at its best value, best first.

    Args:
        vehicle: as planned.
        residual: measured less predicted height at the four corners, (4,), mm.
        hypotheses: to try.
        gravity: m/s².

    Raises:
        ValueError: the body finds no rest, with a sentence.
    """
    total = float(residual @ residual)
    found = [_best(vehicle, residual, h, gravity, total) for h in hypotheses]
    return sorted(found, key=lambda e: e.squares)


def _best(vehicle: FourCorners, residual: Array, tried: Hypothesis, gravity: float, total: float) -> Explanation:
    rises = _rises(vehicle, tried)

    def left(p: float) -> Array:
        return residual - rises(p)

    step = SMALL[tried.kind]
    slope = (rises(step) - rises(-step)) / (2 * step)
    linear = float(slope @ residual / (slope @ slope)) if slope @ slope > 0 else 0.0
    low, high = TRIED[tried.kind]

    def squares(p: float) -> float:
        try:
            return float(left(p) @ left(p))
        except ValueError:
            return np.inf

    grid = np.append(np.linspace(low, high, GRID), np.clip(linear, low, high))
    start = float(grid[int(np.argmin([squares(float(p)) for p in grid]))])
    near = (high - low) / (GRID - 1)
    found = minimize_scalar(
        squares, bounds=(max(low, start - near), min(high, start + near)), method="bounded",
        options={"xatol": 1e-3 * step},
    )  # fmt: skip
    fitted = float(found.x)  # pyright: ignore[reportAttributeAccessIssue] (scipy's stubs tell of no fields)
    best = fitted if squares(fitted) <= squares(start) else start
    remaining = left(best)
    unit = float(vehicle.load.sum()) / gravity if tried.kind == "load" else 1.0
    there = residual - linear * slope
    return Explanation(
        tried, best * unit, linear * unit, remaining, float(remaining @ remaining), float(there @ there),
        1 - float(remaining @ remaining) / total if total > 0 else 0.0,
    )  # fmt: skip


def _rises(vehicle: FourCorners, tried: Hypothesis) -> Callable[[float], Array]:
    """Rise of the four corners over the parameter: of a load, as a share of the sprung weight."""
    weight, x, y = centre_of(vehicle.load, vehicle.x, vehicle.y)
    bars = (BarOffset(vehicle.bars[0]), BarOffset(vehicle.bars[1]))
    mine, at_wheel = np.array(tried.corners), vehicle.at_wheel

    def rise(p: float) -> Array:
        force, rate, total, at = vehicle.load, at_wheel, weight, (x, y)
        match tried.kind:
            case "rate":
                factor = 1 + p * mine
                force, rate = force * factor, rate * factor
            case "unseated":
                force = force + mine * vehicle.rate * vehicle.ratio * p
            case "load":
                total = weight * (1 + p)
                at = ((x + p * tried.at[0]) / (1 + p), (y + p * tried.at[1]) / (1 + p))
        corners = [LinearCorner(f, k) for f, k in zip(force, rate, strict=True)]
        return SprungBody(corners, vehicle.x, vehicle.y, bars).rest(total, at).rise

    return rise


def of_axle(front: bool) -> tuple[float, float, float, float]:
    """Both corners of an axle."""
    return (1.0, 1.0, 0.0, 0.0) if front else (0.0, 0.0, 1.0, 1.0)


def of_corner(name: str) -> tuple[float, float, float, float]:
    """One corner by its name."""
    first, second, third, fourth = (float(name == c) for c in CORNERS)
    return first, second, third, fourth
