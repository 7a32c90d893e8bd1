"""The two ends of a machine under load: how far each sinks from its own full extension.

Sag of the rear is the axle's rise in the frame from full extension, vertical; sag of the fork is told along the fork.
A damper pushes with count·(k·max(0, preload + extended − L) + gas) plus its bump rubber; force times installation
ratio is the vertical load at the axle. No chain force, no friction.
"""

import math
from dataclasses import dataclass, replace
from functools import cached_property, lru_cache
from typing import Any

import numpy as np

from inclinum.core.document.errors import DomainError
from inclinum.core.kinematics.rear_end import RearSweep
from inclinum.core.kinematics.rigid import Array
from inclinum.core.quantity.root import cell, rising_root
from inclinum.core.springs import BumpStop
from inclinum.core.springs.fork import ForkSprings, sag

_SHARES = np.linspace(0.0, 1.0, 34)
"""Of the travel, between which a rest is looked for."""


_TRAVEL = ("extended_rise", "extended_height", "full_rise", "travel_at_full_stroke", "drawn_height", "_grid")
"""What is worked out of a rear end whatever spring it stands on."""


@dataclass(frozen=True)
class EndAt:
    """One end at rest under a load."""

    sag: float
    """From its own full extension, at the axle (of a fork: along it), mm."""
    height: float
    """Of the rear axle in the frame, mm; of a fork, its slider travel."""
    damper_length: float
    ratio: float
    topped_out: bool
    bottomed: bool
    """Whether the end of the travel carries part of the load."""


@dataclass(frozen=True)
class RearCarrying:
    """A rear end with its spring and damper.

    Args:
        sweep: the linkage in motion.
        rate: of one spring, N/mm.
        preload: shortening of the spring at full extension, mm.
        extended, stroke: of the damper, mm.
        gas: force of the damper's gas, N.
        count: dampers side by side.
        bumper: rubber on the damper rod, and its height, mm.
    """

    sweep: RearSweep
    rate: float
    preload: float
    extended: float
    stroke: float
    gas: float = 0.0
    count: int = 1
    bumper: BumpStop | None = None
    bumper_height: float = 0.0

    def on_spring(self, *, rate: float | None = None, preload: float | None = None) -> "RearCarrying":
        """The same rear end on another spring or preload: its travel is as worked out already."""
        other = replace(
            self, rate=self.rate if rate is None else rate, preload=self.preload if preload is None else preload
        )
        known = vars(self)
        vars(other).update({name: known[name] for name in _TRAVEL if name in known})
        return other

    @cached_property
    def extended_rise(self) -> float:
        """Axle rise from the drawn position at full extension, mm.

        Raises:
            ValueError: the linkage does not reach the damper's extended length.
        """
        rise = self.sweep.rise_at(self.extended)
        if rise is None:
            lengths = self.sweep.curve.lengths
            raise DomainError(
                f"The damper is {self.extended:g} mm long extended, but between its eyes the linkage only goes from "
                f"{lengths[-1]:.0f} to {lengths[0]:.0f} mm: check the damper and its eyes."
            )
        return rise

    @cached_property
    def drawn_height(self) -> float:
        """Of the axle as drawn, mm."""
        return float(self.sweep.linkage.points["axle"][1])

    @cached_property
    def extended_height(self) -> float:
        """Of the axle in the frame at full extension, mm."""
        return self.drawn_height + self.extended_rise

    @cached_property
    def full_rise(self) -> float:
        """Axle rise at full stroke, or where the linkage ends if that comes first, mm."""
        rise = self.sweep.rise_at(self.extended - self.stroke)
        return self.sweep.rises[1] if rise is None else rise

    @cached_property
    def linkage_ends_first(self) -> bool:
        """Whether the linkage stops before the damper is closed."""
        return self.sweep.rise_at(self.extended - self.stroke) is None

    @cached_property
    def travel_at_full_stroke(self) -> float:
        """Wheel travel, mm."""
        return self.full_rise - self.extended_rise

    def force(self, travel: Array | float) -> Array:
        """Vertical load carried over travel from full extension, N."""
        return self.ratio_and_force(travel)[1]

    def ratio_and_force(self, travel: Array | float) -> tuple[Array, Array]:
        """Installation ratio over travel from full extension, and vertical load carried there, N."""
        length, ratio, _ = self.sweep.curve.at(self.extended_rise + travel)
        return ratio, self._push(length) * ratio

    def _push(self, length: Array) -> Array:
        # A position at rest is sought one by one, in plain numbers: of arrays so small the calls cost the most.
        alone = isinstance(length, float)
        pressed = self.preload + self.extended - length
        push: Any = self.rate * (max(0.0, pressed) if alone else np.maximum(0.0, pressed)) + self.gas
        if self.bumper is not None:
            squeezed = self.extended - self.stroke + self.bumper_height - length
            if not alone or squeezed > 0:
                push = push + self.bumper.force(squeezed)
        return self.count * push

    def wheel_rate(self, travel: float) -> float:
        """d(load)/d(travel): k·MR² + F·dMR/dz, N/mm."""
        return self._force_and_rate(travel)[1]

    def _force_and_rate(self, travel: float) -> tuple[float, float]:
        """Vertical load carried at one travel, N, and what more of it each mm takes, N/mm."""
        length, ratio, slope = self.sweep.curve.at(float(self.extended_rise + travel))
        loose = self.preload + self.extended - length <= 0
        rate = 0.0 if loose else self.rate
        squeezed = self.extended - self.stroke + self.bumper_height - length
        if self.bumper is not None and squeezed > 0:
            rate += float(self.bumper.stiffness(squeezed))
        push = self._push(length)
        return float(push * ratio), float(self.count * rate * ratio**2 + push * slope)

    @cached_property
    def _grid(self) -> tuple[Array, Array, Array]:
        """Travel, damper length and ratio over the whole of it, to bracket an equilibrium in; whatever the spring."""
        travel: Array = self.travel_at_full_stroke * _SHARES
        length, ratio, _ = self.sweep.curve.at(self.extended_rise + travel)
        return travel, length, ratio

    @cached_property
    def _rests(self) -> dict[float, EndAt]:
        return {}

    def at(self, load: float) -> EndAt:
        """At rest under a vertical load at the axle, N; worked out once."""
        found = self._rests.get(load)
        if found is None:
            found = self._rests[load] = self._at(load)
        return found

    @cached_property
    def _carried(self) -> Array:
        """Vertical load carried at the travels of that table, N."""
        _, lengths, ratios = self._grid
        return self._push(lengths) * ratios

    def _at(self, load: float) -> EndAt:
        force = self._carried
        topped, bottomed = load <= float(force[0]), load > float(force[-1])
        travel = 0.0 if topped else self.travel_at_full_stroke
        if not topped and not bottomed:

            def missing(travel: float) -> tuple[float, float]:
                carries, rate = self._force_and_rate(travel)
                return carries - load, rate

            travel = rising_root(missing, *cell(self._grid[0], force, load))
        length, ratio, _ = self.sweep.curve.at(self.extended_rise + travel)
        return EndAt(travel, self.extended_height + travel, float(length), float(ratio), topped, bottomed)

    def preload_for(self, load: float, sag: float) -> float | None:
        """Preload that gives a sag under a load, mm (negative: a loose spring); None where the sag is out of reach."""
        if not 0 < sag < self.travel_at_full_stroke:
            return None
        length, ratio, _ = self.sweep.curve.at(self.extended_rise + sag)
        rubber = 0.0
        if self.bumper is not None:
            rubber = float(self.bumper.force(self.extended - self.stroke + self.bumper_height - length))
        return (load / float(ratio) / self.count - self.gas - rubber) / self.rate - (self.extended - float(length))


rear_carrying = lru_cache(maxsize=64)(RearCarrying)
"""A rear end as above, one and the same for the same parts: what else of a machine changes leaves its travel alone."""


@dataclass(frozen=True, eq=False)
class ForkCarrying:
    """What holds a fork up, and how it stands; the same as another only when it is that one, so that results are kept.

    Args:
        springs: in it.
        stroke: of its slider, mm.
        rake: rad.
    """

    springs: ForkSprings
    stroke: float
    rake: float

    def force(self, travel: Array | float) -> Array:
        """Along the fork over slider travel from full extension, N."""
        return self.springs.force(travel, self.stroke)

    def at(self, load: float) -> EndAt:
        """At rest under a vertical load at the axle, N; axial force is load·cos(rake)."""
        return _fork_at(self, load * math.cos(self.rake))

    def vertical(self, travel: float) -> float:
        """Of a slider travel, mm."""
        return travel * math.cos(self.rake)

    def wheel_rate(self, travel: float) -> float:
        """Vertical, N/mm: d(axial)/dx over cos²(rake)."""
        return _fork_rate(self, travel) / math.cos(self.rake) ** 2


fork_carrying = lru_cache(maxsize=64)(ForkCarrying)
"""One and the same for the same springs: while a rear end is planned, or a fork raised in its clamps, they stay."""


@lru_cache(maxsize=256)
def _fork_rate(fork: ForkCarrying, travel: float) -> float:
    """Along the fork about a slider travel, N/mm."""
    h = 0.5
    low, high = max(travel - h, 0.0), min(travel + h, fork.stroke)
    less, more = fork.force(np.array([low, high])).tolist()
    return (more - less) / (high - low)


@lru_cache(maxsize=256)
def _fork_at(fork: ForkCarrying, axial: float) -> EndAt:
    """Under an axial force, N."""
    travel = sag(fork.springs, fork.stroke, axial)
    least, most = fork.force(np.array([0.0, fork.stroke])).tolist()
    return EndAt(travel, travel, 0.0, 1.0, axial <= least, axial > most)
