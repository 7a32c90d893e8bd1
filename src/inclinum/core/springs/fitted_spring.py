"""What every spring of an axle is, as a document: how it is drawn, judged, and how well it is known."""

import math
from abc import abstractmethod
from dataclasses import dataclass
from typing import ClassVar, Self

from pydantic import Field

from inclinum.core.document import Document
from inclinum.core.document.known import FREE_LENGTH_MM, RATE_PERCENT
from inclinum.core.document.names import PartNumber
from inclinum.core.springs import (
    Spring,
)

WIRE_READ_MM, OUTSIDE_READ_MM, COILS_READ = 0.05, 0.5, 0.1
LEAF_READ_MM, WIDTH_READ_MM, EYES_READ_MM = 0.1, 0.5, 5.0
BAR_READ_MM, BAR_LENGTH_READ_MM = 0.05, 2.0
AREA_READ_SHARE, PRESSURE_READ = 0.03, 0.01
PRESSED_PERCENT = 2.0
"""How well calliper, tape, gauge and press read a spring, where nobody says otherwise."""
AGREE_SHARE = 0.15
"""How far a coil's stamp and its wire may be apart: a tenth of a millimetre of wire is three hundredths of its rate."""


@dataclass(frozen=True)
class Dimension:
    """Something read of a spring that its rate follows from.

    Args:
        what: in words.
        value, plus_minus: as it was read, and how well it is read by the usual tool, in one unit.
        power: of the rate in it: a wire's diameter counts four times.
        better: how it is read better, in a sentence.
    """

    what: str
    value: float
    plus_minus: float
    power: float
    better: str

    @property
    def percent(self) -> float:
        """What it spreads the rate by, ± %; to the first order."""
        return 100 * abs(self.power) * self.plus_minus / self.value


@dataclass(frozen=True)
class RateStep:
    """What makes a spring stiffer at a stroke, and its length there, in the spring's own coordinate."""

    what: str
    length: float


@dataclass(frozen=True)
class Coordinate:
    """What a spring's force follows from.

    Args:
        free: what it has with nothing on it, in words; it loses of that as it ages.
        unit: it is told in.
        per: told units in one unit of the core: mm, or rad.
        most_lost: in units of the core. A spring that lost more is broken, or another one.
    """

    free: str
    unit: str = "mm"
    per: float = 1.0
    most_lost: float = 150.0


class FittedSpring(Document):
    """Base of the springs an axle can have. A subclass adds a literal ``type`` and ``spring``."""

    title: ClassVar[str]
    is_coil: ClassVar[bool] = False
    """Whether it stands between two seats, can be loose on them and can go solid."""
    told_percent: ClassVar[float] = RATE_PERCENT
    """± of a rate that follows from no dimensions."""
    better_told: ClassVar[str] = (
        "Set it on a press or under known weights: two loads and two lengths tell its rate to 1 or 2 %."
    )
    """How a rate that follows from no dimensions is known better."""

    coordinate: ClassVar[Coordinate] = Coordinate("length")

    part: PartNumber = ""
    rate_tolerance_percent: float | None = Field(
        default=None, ge=0, le=50, title="Rate ±", description="left empty: as its dimensions are read, or usual",
        json_schema_extra={"unit": "%"},
    )  # fmt: skip

    @abstractmethod
    def spring(self) -> Spring:
        """The spring as the core computes with it."""

    def dimensions(self) -> tuple[Dimension, ...]:
        """What its rate follows from, where it was measured and not told."""
        return ()

    @property
    def rate_spread(self) -> float:
        """± of its rate as a share of it: as told, else as its dimensions are read.

        Source: propagation of independent errors, to the first order: (Δk/k)² = Σ (p·Δx/x)² for k ∝ Π xᵖ.
        """
        if self.rate_tolerance_percent is not None:
            return self.rate_tolerance_percent / 100
        read = self.dimensions()
        return math.hypot(*(d.percent for d in read)) / 100 if read else self.told_percent / 100

    @property
    def better(self) -> str:
        """What to measure next to know its rate better, in a sentence."""
        read = self.dimensions()
        if self.rate_tolerance_percent is not None or not read:
            return self.better_told
        most = max(read, key=lambda d: d.percent)
        return f"Most of it is the {most.what}, ± {most.percent:.1f} % of the rate. {most.better}"

    @property
    def in_a_sentence(self) -> str:
        """Its kind with an article."""
        return f"{'an' if self.title[0] in 'AEIOU' else 'a'} {self.title[0].lower()}{self.title[1:]}"

    def collar_up(self, by: float) -> Self:
        """The same with the seat on the damper's body turned up its thread, mm, what else sits there staying put."""
        _ = by
        return self

    def rate_steps(self) -> tuple[RateStep, ...]:
        """Where its rate changes at a stroke, in the order it is pressed."""
        return ()

    def coils_left(self, length: float) -> tuple[tuple[str, float], ...]:
        """Of each coil its name (empty of a single one) and how far it is from solid at a length, mm."""
        return (("", length - self.spring().solid_length),)

    @property
    @abstractmethod
    def free_length_tolerance(self) -> float:
        """± of what it has with nothing on it, in its own coordinate: mm, or rad of a torsion bar."""

    def is_same_part(self, other: "FittedSpring") -> bool:
        """Whether it is the spring that was fitted before, perhaps set otherwise: its errors are the same then."""
        return self == other


class LongSpring(FittedSpring):
    """Base of the springs that are pressed along a length."""

    free_length_tolerance_mm: float = Field(
        default=FREE_LENGTH_MM, ge=0, le=50, title="Free length ±", json_schema_extra={"unit": "mm"}
    )

    @property
    def free_length_tolerance(self) -> float:
        """± of its free length, mm."""
        return self.free_length_tolerance_mm


class SeatedSpring(LongSpring):
    """Base of the springs that stand between two seats and centre on them by their inside."""

    is_coil: ClassVar[bool] = True

    inside_mm: float | None = Field(
        default=None, gt=10, le=400, title="Inside diameter", description="at its ends: held against the seats",
        json_schema_extra={"unit": "mm"},
    )  # fmt: skip
