"""One end of a two-wheeler as the sag bench looks at it: how it sinks, and which preload and spring would do.

Rear and fork answer the same questions, each from its own mechanics: a damper on a linkage, springs along a fork.
"""

import math
from abc import ABC, abstractmethod
from collections.abc import Sequence
from dataclasses import dataclass, replace
from typing import ClassVar

from inclinum.core.bike.job import SagWindow, ShelfSpring
from inclinum.core.bike.machine import End, RearSpring
from inclinum.core.bike.stance import BikeStance
from inclinum.core.document import Document
from inclinum.core.equilibrium.rear_and_fork import EndAt, ForkCarrying, RearCarrying
from inclinum.core.springs.fork import CoilForkSprings

NEAR = 0.6
"""A spring below this share of the rate wanted, or as far above it, is another machine's, and not offered."""


class SpringChoice(Document):
    """A spring on the shelf with the preload it would need and what it leaves."""

    part: str
    rate_n_per_mm: float
    preload_mm: float
    """Counted from the collar's zero."""
    preload_possible: bool
    unladen_sag_mm: float
    laden_sag_mm: float
    within: bool
    """Whether both sags lie in their windows."""
    on_shelf: int
    spring: RearSpring


class SprungEnd(ABC):
    """One end with the vertical loads it is judged under, N."""

    end: ClassVar[End]
    unladen_load: float
    laden_load: float

    @property
    def set_by_pressure(self) -> bool:
        """Whether air holds it up, and no coil."""
        return False

    @property
    def zero_question(self) -> str:
        """Empty, or what has to be asked before the preload can be believed."""
        return ""

    @property
    @abstractmethod
    def travel(self) -> float:
        """Whole, mm; of a fork along it, as everything of it here."""

    @property
    @abstractmethod
    def preload(self) -> float | None:
        """As planned, as it is counted, mm; None where there is none."""

    def counted(self, preload: float) -> float:
        """A preload as it is counted there, mm."""
        return preload

    @abstractmethod
    def at(self, load: float) -> EndAt:
        """At rest under a vertical load, N."""

    @abstractmethod
    def wheel_rate(self, sag: float) -> float:
        """Vertical, N/mm."""

    @abstractmethod
    def preload_for(self, target: float) -> tuple[float | None, float | None]:
        """Preload that gives a laden sag, and the spacer of a fork for it, mm; None where there is none."""

    @abstractmethod
    def unladen_on(self, preload: float) -> float:
        """Unladen sag with another preload, mm."""

    @abstractmethod
    def pressed(self, sag: float, load: float) -> tuple[float, float] | None:
        """At a sag under a load: what the travel shortens one spring by, mm, and what it has to push with, N."""

    @abstractmethod
    def rate_by_frequency(self, sag: float, wanted: float) -> float | None:
        """Rate of one spring at which the end has a wheel rate at its laden sag, N/mm; None where no spring does."""

    def choices(
        self, shelf: Sequence[ShelfSpring], by_sag: float | None, target: float, window: SagWindow
    ) -> tuple[SpringChoice | None, SpringChoice | None]:
        """Nearest springs of the shelf below and above the rate by sag."""
        _ = shelf, by_sag, target, window
        return None, None


@dataclass(frozen=True)
class SprungRear(SprungEnd):
    """The rear, on its linkage."""

    standing: BikeStance
    unladen_load: float
    laden_load: float
    end: ClassVar[End] = "rear"

    @property
    def _r(self) -> RearCarrying:
        return self.standing.rear

    @property
    def travel(self) -> float:
        return self._r.travel_at_full_stroke

    @property
    def preload(self) -> float:
        return self.standing.bike.preload_mm

    def counted(self, preload: float) -> float:
        return self.standing.bike.counted(preload)

    def at(self, load: float) -> EndAt:
        return self._r.at(load)

    def wheel_rate(self, sag: float) -> float:
        return self._r.wheel_rate(sag)

    def preload_for(self, target: float) -> tuple[float | None, None]:
        return self._r.preload_for(self.laden_load, target), None

    def unladen_on(self, preload: float) -> float:
        return self._r.on_spring(preload=preload).at(self.unladen_load).sag

    def pressed(self, sag: float, load: float) -> tuple[float, float]:
        r = self._r
        length, ratio, _ = r.sweep.curve.at(float(r.extended_rise + sag))
        return r.extended - float(length), load / float(ratio) / r.count - r.gas

    def rate_by_frequency(self, sag: float, wanted: float) -> float | None:
        """(k_wheel − F·dMR/dz)/(count·MR²)."""
        r = self._r
        _, ratio, slope = r.sweep.curve.at(float(r.extended_rise + sag))
        push = self.laden_load / float(ratio)
        rate = (wanted - push * float(slope)) / (r.count * float(ratio) ** 2)
        return rate if rate > 0 else None

    @property
    def zero_question(self) -> str:
        d = self.standing.bike.damper
        if d.zero_found == "hanging" and d.hidden_mm is None:
            return (
                "The preload's zero was found with the damper hanging: how much longer does it get when forced out? "
                "A top-out spring hides that much."
            )
        return ""

    def choices(
        self, shelf: Sequence[ShelfSpring], by_sag: float | None, target: float, window: SagWindow
    ) -> tuple[SpringChoice | None, SpringChoice | None]:
        middle = by_sag or self.standing.bike.spring.rate_n_per_mm
        near = [s for s in shelf if NEAR <= s.spring.rate_n_per_mm / middle <= 1 / NEAR]
        near.sort(key=lambda s: s.spring.rate_n_per_mm)
        below = [s for s in near if s.spring.rate_n_per_mm <= middle][-1:]
        above = [s for s in near if s.spring.rate_n_per_mm > middle][:1]
        softer, stiffer = (self._choice(s, target, window) for s in (below, above))
        return softer, stiffer

    def _choice(self, nearest: Sequence[ShelfSpring], target: float, window: SagWindow) -> SpringChoice | None:
        """A spring of the shelf set to the laden target, as far as it may be wound up; None where there is none."""
        if not nearest:
            return None
        shelf, spring, travel = nearest[0], nearest[0].spring, self.travel
        end = self._r.on_spring(rate=spring.rate_n_per_mm)
        preload = end.preload_for(self.laden_load, target)
        if preload is None:
            return None
        most = spring.max_preload_mm
        held = end.on_spring(preload=max(preload, 0.0) if most is None else min(max(preload, 0.0), most))
        free = held.at(self.unladen_load).sag
        sunk = target if held.preload == preload else held.at(self.laden_load).sag
        return SpringChoice(
            part=spring.part,
            rate_n_per_mm=spring.rate_n_per_mm,
            preload_mm=self.counted(held.preload),
            preload_possible=preload >= 0 and (most is None or preload <= most),
            unladen_sag_mm=free,
            laden_sag_mm=sunk,
            within=window.unladen_low * travel <= free <= window.unladen_high * travel
            and window.laden_low * travel <= sunk <= window.laden_high * travel,
            on_shelf=shelf.count,
            spring=spring,
        )


@dataclass(frozen=True)
class SprungFork(SprungEnd):
    """The fork, coils or air."""

    front: ForkCarrying
    unladen_load: float
    laden_load: float
    end: ClassVar[End] = "front"

    @property
    def _coils(self) -> CoilForkSprings | None:
        return self.front.springs if isinstance(self.front.springs, CoilForkSprings) else None

    @property
    def set_by_pressure(self) -> bool:
        return self._coils is None

    @property
    def travel(self) -> float:
        return self.front.stroke

    @property
    def preload(self) -> float | None:
        return self.front.springs.preload()

    def at(self, load: float) -> EndAt:
        return self.front.at(load)

    def wheel_rate(self, sag: float) -> float:
        return self.front.wheel_rate(sag)

    def _air(self, sag: float) -> float:
        """What the air over the oil of both legs pushes with, N."""
        assert self._coils is not None
        return 0.0 if self._coils.air is None else 2 * float(self._coils.air.force(sag, self.travel))

    def preload_for(self, target: float) -> tuple[float | None, float | None]:
        springs, pressed = self._coils, self.pressed(target, self.laden_load)
        if springs is None or pressed is None or not 0 < target < self.travel or pressed[1] <= 0:
            return None, None
        # The spring that pushes so much, and the spacer that holds it there.
        preload = springs.left.free_length_mm - springs.left.length_at(pressed[1]) - target
        return preload, springs.spacer_for(preload)

    def unladen_on(self, preload: float) -> float:
        springs = self._coils
        assert springs is not None
        spacer = springs.spacer_for(preload)
        set_so = springs.model_copy(update={"spacer_mm": spacer, "right_spacer_mm": None})
        return replace(self.front, springs=set_so).at(self.unladen_load).sag

    def pressed(self, sag: float, load: float) -> tuple[float, float] | None:
        if self._coils is None:
            return None
        return sag, (load * math.cos(self.front.rake) - self._air(sag)) / self._coils.legs

    def rate_by_frequency(self, sag: float, wanted: float) -> float | None:
        """Vertical to along the fork by cos², less what the air adds."""
        if self._coils is None:
            return None
        low, high = max(sag - 1.0, 0.0), sag + 1.0
        air = (self._air(high) - self._air(low)) / (high - low)
        rate = (wanted * math.cos(self.front.rake) ** 2 - air) / self._coils.legs
        return rate if rate > 0 else None
