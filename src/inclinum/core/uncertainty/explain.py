"""What one thing would explain a miss: a rate that is off, a load that is aboard, a spring that does not sit.

Each explanation has one parameter. The body of :mod:`inclinum.core.equilibrium.body` is put at rest with it, and
the parameter is fitted so that the squares of what is left at the four corners are least. Explanations with the
least left come first; a plausible one may still be wrong.
"""

from dataclasses import dataclass
from typing import Literal

import numpy as np

from inclinum.core.equilibrium.body import CORNERS, BarOffset, LinearCorner, SprungBody, centre_of
from inclinum.core.kinematics.rigid import Array

Kind = Literal["rate", "load", "unseated"]
TRIED: dict[Kind, tuple[float, float]] = {"rate": (-0.6, 1.5), "load": (-0.5, 0.5), "unseated": (-120.0, 120.0)}
"""Between which values a parameter is looked for: a share, a share of the sprung weight, mm."""
SMALL: dict[Kind, float] = {"rate": 1e-5, "load": 1e-6, "unseated": 1e-3}
"""Step of the slope at zero, in the same units."""
GRID = 31
"""Values looked at before the best of them is made better: far from zero a rate's squares have more than one dip."""
FINEST = 1e-3
"""How near the best value is looked for, in steps of the slope."""


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
    step = SMALL[tried.kind]
    before, after = _rises(vehicle, tried, np.array([-step, step]))
    slope = (after - before) / (2 * step)
    linear = float(slope @ residual / (slope @ slope)) if slope @ slope > 0 else 0.0
    low, high = TRIED[tried.kind]

    def best_of(values: Array) -> tuple[float, Array, float]:
        left = residual - _rises(vehicle, tried, values)
        squares = np.einsum("ni,ni->n", left, left)
        n = int(np.argmin(squares))
        return float(values[n]), left[n], float(squares[n])

    best, remaining, least = best_of(np.append(np.linspace(low, high, GRID), np.clip(linear, low, high)))
    near = (high - low) / (GRID - 1)
    while near > FINEST * step:
        # Between its neighbours there is one dip: each round looks at it as closely again, all values at once.
        finer = best_of(np.linspace(max(low, best - near), min(high, best + near), GRID))
        if finer[2] <= least:
            best, remaining, least = finer
        near *= 2.5 / (GRID - 1)
    unit = float(vehicle.load.sum()) / gravity if tried.kind == "load" else 1.0
    there = residual - linear * slope
    return Explanation(
        tried, best * unit, linear * unit, remaining, least, float(there @ there),
        1 - least / total if total > 0 else 0.0,
    )  # fmt: skip


def _rises(vehicle: FourCorners, tried: Hypothesis, p: Array) -> Array:
    """Rise of the four corners at each value of the parameter (of a load, a share of the sprung weight), (n, 4), mm."""
    weight, x, y = centre_of(vehicle.load, vehicle.x, vehicle.y)
    bars = (BarOffset(vehicle.bars[0]), BarOffset(vehicle.bars[1]))
    mine, each = np.array(tried.corners), p[:, None]
    force, rate = np.broadcast_to(vehicle.load, (p.size, 4)), np.broadcast_to(vehicle.at_wheel, (p.size, 4))
    total, at = np.full(p.size, weight), (x, y)
    match tried.kind:
        case "rate":
            factor = 1 + each * mine
            force, rate = force * factor, rate * factor
        case "unseated":
            force = force + mine * vehicle.rate * vehicle.ratio * each
        case "load":
            total = weight * (1 + p)
            at = ((x + p * tried.at[0]) / (1 + p), (y + p * tried.at[1]) / (1 + p))
    corners = [LinearCorner(force[:, i], rate[:, i]) for i in range(4)]
    return SprungBody(corners, vehicle.x, vehicle.y, bars).rest(total, at).rise


def of_axle(front: bool) -> tuple[float, float, float, float]:
    """Both corners of an axle."""
    return (1.0, 1.0, 0.0, 0.0) if front else (0.0, 0.0, 1.0, 1.0)


def of_corner(name: str) -> tuple[float, float, float, float]:
    """One corner by its name."""
    first, second, third, fourth = (float(name == c) for c in CORNERS)
    return first, second, third, fourth
