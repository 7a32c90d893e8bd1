"""Leaf packs, torsion bars and bags of an axle as documents."""

import math
from typing import Any, ClassVar, Literal

import numpy as np
from pydantic import Field, model_validator

from inclinum.core.document import Document
from inclinum.core.document.errors import DomainError
from inclinum.core.document.known import FREE_ANGLE_DEG, FREE_LENGTH_MM
from inclinum.core.springs import (
    AirBag,
    CoilSpring,
    LeafPack,
    Spring,
    bar_rate,
    leaf_rate,
)
from inclinum.core.springs.coil import STEEL_SHEAR_MODULUS
from inclinum.core.springs.fitted_spring import (
    AREA_READ_SHARE,
    BAR_LENGTH_READ_MM,
    BAR_READ_MM,
    EYES_READ_MM,
    LEAF_READ_MM,
    PRESSURE_READ,
    WIDTH_READ_MM,
    Coordinate,
    Dimension,
    FittedSpring,
    LongSpring,
    RateStep,
)
from inclinum.core.springs.leaf import STEEL_MODULUS


class LeafHelper(Document):
    """Helper leaves: what they add, and after how much deflection."""

    rate_n_per_mm: float = Field(gt=0, le=2000, examples=[20])
    contact_deflection_mm: float = Field(ge=0, le=500, examples=[60])
    thickness_mm: float = Field(
        default=0, ge=0, le=100, title="Thickness together", description="of the helper leaves: for the U-bolts' leg"
    )


class LeafPackData(LongSpring):
    """A leaf pack by its leaves, or by a rate that is known."""

    title: ClassVar[str] = "Leaf pack"
    coordinate: ClassVar[Coordinate] = Coordinate("arch")

    type: Literal["leaf_pack"] = "leaf_pack"
    free_length_tolerance_mm: float = Field(
        default=FREE_LENGTH_MM, ge=0, le=50, title="Free arch ±", json_schema_extra={"unit": "mm"}
    )
    leaves: int = Field(examples=[6], ge=1, le=20, title="Leaves")
    width_mm: float = Field(examples=[60.0], gt=10, le=200, title="Width")
    thickness_mm: float = Field(examples=[7.0], gt=1, le=40, title="Leaf thickness")
    length_mm: float = Field(examples=[1200.0], gt=200, le=2500, title="Eye to eye")
    free_arch_mm: float = Field(examples=[150.0], ge=-200, le=600, title="Free arch")
    arch_mm: float = Field(
        examples=[40.0],
        ge=-300, le=600, title="Arch at the reference height", description="from the line of the eyes to the seat",
        json_schema_extra={"unit": "mm"},
    )  # fmt: skip
    liner_mm: float = Field(
        default=0, ge=0, le=20, title="Liners", description="between two leaves, each: for the U-bolts' leg",
        json_schema_extra={"unit": "mm"},
    )  # fmt: skip
    helper: LeafHelper | None = Field(default=None, title="Helper leaves")

    def dimensions(self) -> tuple[Dimension, ...]:
        """Of k = 8·E·n·b·t³/(3·L³)."""
        return (
            Dimension(
                "leaf thickness",
                self.thickness_mm,
                LEAF_READ_MM,
                3,
                "Read every leaf with a micrometer, rust off, beside the centre bolt.",
            ),
            Dimension("width", self.width_mm, WIDTH_READ_MM, 1, "Read it with a calliper at three leaves."),
            Dimension("length eye to eye", self.length_mm, EYES_READ_MM, -3, "Lay the tape along the top leaf."),
        )

    def rate_steps(self) -> tuple[RateStep, ...]:
        """The helper leaves."""
        if self.helper is None:
            return ()
        return (
            RateStep("the helper leaves join", self.free_arch_mm - self.arch_mm - self.helper.contact_deflection_mm),
        )

    def spring(self) -> Spring:
        """The spring as the core computes with it."""
        rate = leaf_rate(self.leaves, self.width_mm, self.thickness_mm, self.length_mm, STEEL_MODULUS)
        if self.helper is None:
            return LeafPack(rate, self.free_arch_mm, arch_at_baseline=self.arch_mm)
        h = self.helper
        return LeafPack(rate, self.free_arch_mm, h.rate_n_per_mm, h.contact_deflection_mm, self.arch_mm)


class TorsionBarData(FittedSpring):
    """A round bar on an arm's pivot; its free angle is the arm's below horizontal with nothing on it."""

    title: ClassVar[str] = "Torsion bar"
    coordinate: ClassVar[Coordinate] = Coordinate("free angle", "°", math.degrees(1.0), 0.6)

    type: Literal["torsion_bar"] = "torsion_bar"
    diameter_mm: float = Field(examples=[24.0], gt=5, le=80, title="Diameter")
    length_mm: float = Field(examples=[600.0], gt=100, le=2500, title="Active length")
    free_angle_deg: float = Field(
        examples=[25.0], gt=-60, lt=85, title="Free angle below horizontal", json_schema_extra={"unit": "°"}
    )
    free_angle_tolerance_deg: float = Field(
        default=FREE_ANGLE_DEG, ge=0, le=10, title="Free angle ±", json_schema_extra={"unit": "°"}
    )
    shear_modulus_n_per_mm2: float = Field(default=STEEL_SHEAR_MODULUS, gt=10_000, le=200_000)

    @model_validator(mode="before")
    @classmethod
    def _older_files(cls, data: Any) -> Any:
        # They have the ± of a length beside it, which a bar in its splines does not have and nothing ever read.
        return {k: v for k, v in data.items() if k != "free_length_tolerance_mm"} if isinstance(data, dict) else data

    def dimensions(self) -> tuple[Dimension, ...]:
        """Of k = G·π·d⁴/(32·l)."""
        return (
            Dimension("diameter", self.diameter_mm, BAR_READ_MM, 4, "Read it with a micrometer at three places."),
            Dimension(
                "active length", self.length_mm, BAR_LENGTH_READ_MM, -1, "Measure between the roots of both splines."
            ),
        )

    def spring(self) -> Spring:
        """Torque over angle: the coordinate is the arm's angle below horizontal, rad."""
        return CoilSpring(
            bar_rate(self.diameter_mm, self.length_mm, self.shear_modulus_n_per_mm2),
            float(np.radians(self.free_angle_deg)),
            -float("inf"),
        )

    def is_same_part(self, other: FittedSpring) -> bool:
        """A bar turned in its splines is still the same bar."""
        return (
            isinstance(other, TorsionBarData)
            and self.model_copy(update={"free_angle_deg": other.free_angle_deg}) == other
        )

    @property
    def free_length_tolerance(self) -> float:
        """± of the free angle, rad."""
        return float(np.radians(self.free_angle_tolerance_deg))


class AirSpringData(LongSpring):
    """An air bag at the height its levelling system holds."""

    title: ClassVar[str] = "Air spring"
    coordinate: ClassVar[Coordinate] = Coordinate("height")

    type: Literal["air_spring"] = "air_spring"
    free_length_tolerance_mm: float = Field(
        default=FREE_LENGTH_MM, ge=0, le=50, title="Height ±", json_schema_extra={"unit": "mm"}
    )
    height_mm: float = Field(
        examples=[170.0], gt=20, le=600, title="Height at the reference height", json_schema_extra={"unit": "mm"}
    )
    area_mm2: float = Field(
        examples=[7000.0], gt=100, le=200_000, title="Effective area", json_schema_extra={"unit": "mm²"}
    )
    area_slope_mm2_per_mm: float = Field(default=0, ge=-1000, le=1000, title="Area change per mm of height")
    volume_mm3: float = Field(examples=[1200000.0], gt=1000, le=1e8, title="Volume")
    gauge_pressure_n_per_mm2: float = Field(
        examples=[0.6], gt=0.01, le=3, title="Gauge pressure", json_schema_extra={"unit": "N/mm²"}
    )
    exponent: float = Field(default=1.0, ge=1, le=1.67, description="1.0 settled, 1.3 quick")

    def dimensions(self) -> tuple[Dimension, ...]:
        """Of F = p·A."""
        return (
            Dimension(
                "effective area",
                self.area_mm2,
                AREA_READ_SHARE * self.area_mm2,
                1,
                "Weigh the wheel at a known pressure: load on the bag over pressure is its area.",
            ),
            Dimension(
                "pressure", self.gauge_pressure_n_per_mm2, PRESSURE_READ, 1, "Put a test gauge on the line at height."
            ),
        )

    @model_validator(mode="after")
    def _keeps_its_area(self) -> "AirSpringData":
        if self.area_mm2 - abs(self.area_slope_mm2_per_mm) * self.height_mm <= 0:
            raise DomainError("the bag's area falls to nothing within its own height: check the slope")
        return self

    def spring(self) -> Spring:
        """The bag with its valves closed."""
        return AirBag(
            self.height_mm, self.area_mm2, self.area_slope_mm2_per_mm, self.volume_mm3, self.gauge_pressure_n_per_mm2,
            self.exponent,
        )  # fmt: skip
