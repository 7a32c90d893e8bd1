"""Forks: springs, spacers and air of both legs, clamped at a height in the yokes, or a single crown."""

from abc import abstractmethod
from functools import cached_property
from typing import Annotated, ClassVar, Literal

import numpy as np
from pydantic import Field, model_validator

from inclinum.core.document import BY_CHANGES, Document
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import PartNumber
from inclinum.core.kinematics.rigid import Array
from inclinum.core.quantity.constants import ATMOSPHERE
from inclinum.core.quantity.root import cell, root
from inclinum.core.springs import CoilGroup, ProgressiveCoil, Spring
from inclinum.core.springs.coil import CoilSpring


class LegSpring(Document):
    """The spring of one leg: its rate, or the coils of a progressive one by group."""

    part: PartNumber = ""
    rate_n_per_mm: float = Field(gt=0.5, le=200, title="Rate")
    free_length_mm: float = Field(gt=50, le=900, title="Free length")
    solid_length_mm: float = Field(default=0, ge=0, le=800, title="Solid length")
    soft_share: float = Field(
        default=0, ge=0, lt=0.9, title="Close-wound share", description="of the free length; 0 for a linear spring"
    )
    soft_closes_mm: float = Field(
        default=0, ge=0, le=400, title="Close-wound coils touch after", description="shortening of the whole spring"
    )
    soft_rate_n_per_mm: float | None = Field(default=None, gt=0.2, le=200, title="Rate before that")
    coils_up: bool = Field(
        default=True, title="Close-wound coils up", description="either way up the force is the same"
    )
    rate_tolerance_percent: float | None = Field(
        default=None, ge=0, le=50, title="Rate ±", description="left empty: usual", json_schema_extra={"unit": "%"}
    )

    @model_validator(mode="after")
    def _two_rates(self) -> "LegSpring":
        if self.solid_length_mm >= self.free_length_mm:
            raise DomainError("the fork spring is longer solid than free")
        if self.soft_closes_mm and (self.soft_rate_n_per_mm is None or self.soft_rate_n_per_mm >= self.rate_n_per_mm):
            raise DomainError("a progressive fork spring is softer before its close-wound coils touch: give that rate")
        return self

    @cached_property
    def spring(self) -> Spring:
        """Force over its length."""
        if not self.soft_closes_mm or self.soft_rate_n_per_mm is None:
            return CoilSpring(self.rate_n_per_mm, self.free_length_mm, self.solid_length_mm)
        # Two groups in series: together the soft rate, the firm one alone the stamped rate.
        firm = self.rate_n_per_mm
        soft = 1 / (1 / self.soft_rate_n_per_mm - 1 / firm)
        closing = self.soft_rate_n_per_mm * self.soft_closes_mm
        room = self.free_length_mm - self.solid_length_mm
        groups = [CoilGroup(soft, closing / soft), CoilGroup(firm, max(room - closing / soft, 1.0))]
        return ProgressiveCoil(groups, self.free_length_mm).spring()

    def length_at(self, force: float) -> float:
        """Length under a force, mm."""
        soft = self.soft_rate_n_per_mm
        if not self.soft_closes_mm or soft is None:
            return self.free_length_mm - force / self.rate_n_per_mm
        closing = soft * self.soft_closes_mm
        firm = max(force - closing, 0.0) / self.rate_n_per_mm
        return self.free_length_mm - min(force, closing) / soft - firm

    @property
    def room_mm(self) -> float:
        """Shortening until its coils touch, mm."""
        return self.free_length_mm - self.solid_length_mm


class TrappedAir(Document):
    """The air over the oil of one leg, closed in at full extension."""

    area_mm2: float = Field(gt=50, le=10_000, title="Inner area of the tube")
    volume_mm3: float | None = Field(default=None, gt=1000, le=3e6, title="Volume at full extension")
    oil_level_mm: float | None = Field(
        default=None, gt=10, le=600, title="Oil level",
        description="air height from the tube's top to the oil, fork bottomed, spring out",
    )  # fmt: skip
    pressure_n_per_mm2: float = Field(default=ATMOSPHERE, gt=0.05, le=2, title="Absolute pressure, extended")
    exponent: float = Field(default=1.3, ge=1, le=1.67, title="Exponent")

    @model_validator(mode="after")
    def _one_of_both(self) -> "TrappedAir":
        if (self.volume_mm3 is None) == (self.oil_level_mm is None):
            raise DomainError("give the volume at full extension or the oil level, one of them")
        return self

    def volume(self, stroke: float) -> float:
        """At full extension, mm³: the air height grows by the stroke as the fork extends."""
        return self.volume_mm3 if self.volume_mm3 is not None else self.area_mm2 * ((self.oil_level_mm or 0.0) + stroke)

    def force(self, x: Array | float, stroke: float) -> Array:
        """Of one leg, N: A·(p0·(V0/(V0 − A·x))^n − p0).

        Args:
            x: slider travel from full extension, mm.
            stroke: of the fork, mm.

        Source: polytropic change of a trapped gas; the outside air pushes back with p0.
        """
        v0 = self.volume(stroke)
        left = np.maximum(v0 - self.area_mm2 * np.asarray(x, dtype=float), 1e-3 * v0)
        p0 = self.pressure_n_per_mm2
        return self.area_mm2 * (p0 * (v0 / left) ** self.exponent - p0)


class ForkSprings(Document):
    """Base of what holds a fork up. A subclass adds a literal ``type``."""

    title: ClassVar[str]

    @abstractmethod
    def force(self, x: Array | float, stroke: float) -> Array:
        """Axial force of the whole fork over slider travel from full extension, N."""

    def preload(self) -> float | None:
        """Per leg, mm; None where there is none."""
        return None


class CoilForkSprings(ForkSprings):
    """A coil in each leg on a spacer, with the air over the oil."""

    title = "Coil springs"
    type: Literal["coil"] = "coil"
    left: LegSpring
    right: LegSpring | None = Field(default=None, title="Right leg, where it differs")
    legs: Literal[1, 2] = Field(default=2, description="with a spring in them")
    spacer_mm: float = Field(ge=0, le=500, title="Spacer")
    right_spacer_mm: float | None = Field(default=None, ge=0, le=500, title="Right spacer, where it differs")
    available_mm: float = Field(
        gt=50, le=1200, title="Room for spring and spacer", description="at full extension, caps on"
    )
    max_preload_mm: float | None = Field(default=None, gt=0, le=200, title="Preload at most")
    air: TrappedAir | None = Field(default=None, title="Air over the oil")

    def leg_preload(self, side: Literal["left", "right"] = "left") -> float:
        """Spacer + spring − room, mm."""
        spring = self.right if side == "right" and self.right else self.left
        spacer = self.right_spacer_mm if side == "right" and self.right_spacer_mm is not None else self.spacer_mm
        return spacer + spring.free_length_mm - self.available_mm

    def preload(self) -> float:
        """Of the left leg, mm."""
        return self.leg_preload("left")

    def spacer_for(self, preload: float) -> float:
        """Length to cut a spacer to, mm: preload + room − spring."""
        return preload + self.available_mm - self.left.free_length_mm

    def force(self, x: Array | float, stroke: float) -> Array:
        """Both springs and the air of both legs."""
        x = np.asarray(x, dtype=float)
        total = np.zeros_like(x)
        for n, side in enumerate(("left", "right")):
            if n < self.legs:
                spring = self.right if side == "right" and self.right else self.left
                at = spring.free_length_mm - (self.leg_preload(side) + x)  # type: ignore[arg-type]
                total = total + spring.spring.force(at)
        return total if self.air is None else total + 2 * self.air.force(x, stroke)


class AirForkSprings(ForkSprings):
    """One air chamber with a negative spring, as single-crown forks have it."""

    title = "Air spring"
    type: Literal["air"] = "air"
    area_mm2: float = Field(gt=50, le=5000, title="Piston area")
    volume_mm3: float = Field(gt=1000, le=1e6, title="Volume at full extension")
    gauge_n_per_mm2: float = Field(gt=0.01, le=3, title="Gauge pressure, extended")
    exponent: float = Field(default=1.2, ge=1, le=1.67, title="Exponent")
    negative_n: float = Field(default=0, ge=0, le=5000, title="Negative spring, extended")
    negative_over_mm: float = Field(default=20, gt=1, le=200, title="It ends after")

    @model_validator(mode="after")
    def _holds_open(self) -> "AirForkSprings":
        if self.negative_n > self.area_mm2 * self.gauge_n_per_mm2:
            raise DomainError("the negative spring is stronger than the air: the fork would not extend")
        return self

    def force(self, x: Array | float, stroke: float) -> Array:
        """Chamber less negative spring."""
        x = np.asarray(x, dtype=float)
        absolute = self.gauge_n_per_mm2 + ATMOSPHERE
        left = np.maximum(self.volume_mm3 - self.area_mm2 * x, 1e-3 * self.volume_mm3)
        push = self.area_mm2 * (absolute * (self.volume_mm3 / left) ** self.exponent - ATMOSPHERE)
        return push - self.negative_n * np.clip(1 - x / self.negative_over_mm, 0.0, 1.0)


AnyForkSprings = Annotated[CoilForkSprings | AirForkSprings, Field(discriminator="type")]


class Fork(Document):
    """A fork in its clamps."""

    crown: Literal["double", "single"] = Field(default="double", description="a single crown is not raised in clamps")
    springs: AnyForkSprings
    stroke_mm: float = Field(gt=20, le=400, title="Stroke")
    raised_mm: float = Field(default=0, ge=-60, le=120, title="Tubes above the top clamp")
    raise_least_mm: float = Field(default=0, ge=-60, le=120, title="Clamp zone from")
    raise_most_mm: float = Field(default=0, ge=-60, le=160, title="Clamp zone to", description="where the tube steps")
    bottomed_clearance_mm: float = Field(
        default=60, ge=-50, le=300, title="Clearance bottomed", description="wheel or mudguard to lower clamp, as it is"
    )
    clearance_wanted_mm: float = Field(default=10, ge=0, le=100, title="Clearance wanted")
    bottom_out_parts: bool = Field(default=True, title="Bottom-out parts in", description="what keeps metal from metal")
    shortened_mm: float = Field(
        default=0, ge=0, le=200, description="by spacers inside, from how it came", json_schema_extra=BY_CHANGES
    )
    opened_from: Literal["above", "below"] = Field(
        default="above", title="Its inside is reached from", description="above by its caps, below by its foot bolts"
    )
    top_out_hidden_mm: float = Field(default=0, ge=0, le=60, title="Hidden by the top-out spring")

    @cached_property
    def most_raise(self) -> float:
        """Highest the tubes may stand: the clamp zone, or where bottomed clearance is used up, mm."""
        by_clearance = self.raised_mm + self.bottomed_clearance_mm - self.clearance_wanted_mm
        return min(self.raise_most_mm, by_clearance)

    def force(self, x: Array | float) -> Array:
        """Axial force over slider travel from full extension, N."""
        return self.springs.force(x, self.stroke_mm)


def sag(springs: ForkSprings, stroke: float, axial: float) -> float:
    """Slider travel at which a fork carries an axial force, mm: 0 topped out, its stroke when it cannot carry it.

    Args:
        springs: in it.
        stroke: of its slider, mm.
        axial: N.
    """
    grid = np.linspace(0.0, stroke, 34)
    force = springs.force(grid, stroke)
    if force[0] >= axial:
        return 0.0
    if force[-1] < axial:
        return stroke
    return root(lambda x: float(springs.force(x, stroke)) - axial, *cell(grid, force, axial)[:2])
