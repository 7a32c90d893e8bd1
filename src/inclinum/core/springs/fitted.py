"""What hangs on an axle, as documents: springs of every kind, dampers, stops, bars."""

from abc import abstractmethod
from typing import Annotated, ClassVar, Literal, get_args

import numpy as np
from pydantic import Field, model_validator

from inclinum.core.document import Document
from inclinum.core.document.errors import DomainError
from inclinum.core.document.known import FREE_ANGLE_DEG, FREE_LENGTH_MM, RATE_PERCENT
from inclinum.core.document.names import PartNumber
from inclinum.core.springs import (
    AirBag,
    BumpStop,
    CoilGroup,
    CoilSpring,
    DualRateStack,
    LeafPack,
    ProgressiveCoil,
    Spring,
    StackSpring,
    TableStop,
    TopOut,
    bar_rate,
    leaf_rate,
    wire_rate,
    wire_solid_length,
)
from inclinum.core.springs.coil import STEEL_SHEAR_MODULUS
from inclinum.core.springs.leaf import STEEL_MODULUS

AGREE_SHARE = 0.15
"""How far a coil's stamp and its wire may be apart: a tenth of a millimetre of wire is three hundredths of its rate."""


class CoilWire(Document):
    """What callipers give of a coil that carries no stamp."""

    wire_mm: float = Field(gt=1, le=40, title="Wire diameter", examples=[12], json_schema_extra={"unit": "mm"})
    outside_mm: float = Field(gt=10, le=400, title="Outside diameter", examples=[120], json_schema_extra={"unit": "mm"})
    active_coils: float = Field(gt=0.5, le=40, title="Active coils", examples=[6])
    total_coils: float = Field(gt=0.5, le=44, title="All coils", examples=[7.5])

    def rate(self) -> float:
        """Rate of the coil, N/mm."""
        return wire_rate(self.wire_mm, self.outside_mm - self.wire_mm, self.active_coils)

    def solid(self) -> float:
        """Solid length, mm."""
        return wire_solid_length(self.wire_mm, self.total_coils)


class FittedSpring(Document):
    """Base of the springs an axle can have. A subclass adds a literal ``type`` and ``spring``."""

    title: ClassVar[str]
    is_coil: ClassVar[bool] = True
    """Whether it stands between two seats, can be loose on them and can go solid."""

    part: PartNumber = ""
    rate_tolerance_percent: float = Field(
        default=RATE_PERCENT, ge=0, le=50, title="Rate ±", json_schema_extra={"unit": "%"}
    )
    free_length_tolerance_mm: float = Field(
        default=FREE_LENGTH_MM, ge=0, le=50, title="Free length ±", json_schema_extra={"unit": "mm"}
    )

    @abstractmethod
    def spring(self) -> Spring:
        """The spring as the core computes with it."""

    @property
    def in_a_sentence(self) -> str:
        """Its kind with an article."""
        return f"{'an' if self.title[0] in 'AEIOU' else 'a'} {self.title[0].lower()}{self.title[1:]}"

    @property
    def free_length_tolerance(self) -> float:
        """± in the spring's own coordinate: mm, or rad of a torsion bar."""
        return self.free_length_tolerance_mm

    def is_same_part(self, other: "FittedSpring") -> bool:
        """Whether it is the spring that was fitted before, perhaps set otherwise: its errors are the same then."""
        return self == other


class Coil(FittedSpring):
    """A coil spring by its stamp."""

    title: ClassVar[str] = "Coil"

    type: Literal["coil_spring"] = "coil_spring"
    rate_n_per_mm: float = Field(gt=0, le=2000, title="Rate", json_schema_extra={"unit": "N/mm"})
    free_length_mm: float = Field(gt=20, le=1500, title="Free length", json_schema_extra={"unit": "mm"})
    solid_length_mm: float = Field(gt=5, le=1500, title="Solid length", json_schema_extra={"unit": "mm"})
    active_coils: float | None = Field(default=None, gt=0.5, le=40, title="Active coils")
    wire: CoilWire | None = Field(
        default=None, title="By calliper", description="of a coil without a stamp; held against the stamp of one with"
    )

    @model_validator(mode="before")
    @classmethod
    def _by_its_wire(cls, given: object) -> object:
        """Rate and solid length of a coil that has no stamp: G·d⁴/(8·D³·n), and wire times all coils."""
        if not isinstance(given, dict) or given.get("wire") is None:
            return given
        wire = CoilWire.model_validate(given["wire"])
        counted = {"rate_n_per_mm": round(wire.rate(), 2), "solid_length_mm": round(wire.solid(), 1)}
        return counted | {"active_coils": wire.active_coils} | given

    @model_validator(mode="after")
    def _wire_and_stamp_agree(self) -> "Coil":
        if self.wire is None:
            return self
        stamped = (
            (self.rate_n_per_mm, self.wire.rate(), "N/mm"),
            (self.solid_length_mm, self.wire.solid(), "mm solid"),
        )
        for stamp, counted, unit in stamped:
            if abs(stamp - counted) > AGREE_SHARE * counted:
                raise DomainError(
                    f"its wire and coils give {counted:.1f} {unit}, it is told as {stamp:g}: which spring is it?"
                )
        return self

    @model_validator(mode="after")
    def _solid_is_shorter(self) -> "Coil":
        if self.solid_length_mm >= self.free_length_mm:
            raise DomainError(
                f"the spring is longer solid ({self.solid_length_mm:g} mm) than free ({self.free_length_mm:g} mm)"
            )
        return self

    def spring(self) -> CoilSpring:
        """The spring as the core computes with it."""
        return CoilSpring(self.rate_n_per_mm, self.free_length_mm, self.solid_length_mm, self.active_coils)


class CoilGroupData(Document):
    """Coils of one diameter and one clearance."""

    mean_diameter_mm: float = Field(gt=5, le=500, examples=[100])
    active_coils: float = Field(gt=0.1, le=40, examples=[2])
    clearance_per_coil_mm: float = Field(gt=0, le=200, title="Clearance of each coil", examples=[10])


class ProgressiveCoilData(FittedSpring):
    """A coil whose groups close in turn, from callipers."""

    title: ClassVar[str] = "Progressive coil"

    type: Literal["progressive_coil"] = "progressive_coil"
    wire_mm: float = Field(gt=1, le=40, title="Wire diameter", json_schema_extra={"unit": "mm"})
    groups: tuple[CoilGroupData, ...] = Field(min_length=1, max_length=12)
    free_length_mm: float = Field(gt=20, le=1500, title="Free length", json_schema_extra={"unit": "mm"})

    @model_validator(mode="after")
    def _closes_within_itself(self) -> "ProgressiveCoilData":
        if self._coil().total_shortening >= self.free_length_mm:
            raise DomainError("the coils' clearances add up to more than the free length")
        return self

    def _coil(self) -> ProgressiveCoil:
        groups = [
            CoilGroup(
                wire_rate(self.wire_mm, g.mean_diameter_mm, g.active_coils), g.active_coils * g.clearance_per_coil_mm
            )
            for g in self.groups
        ]
        return ProgressiveCoil(groups, self.free_length_mm)

    def spring(self) -> Spring:
        """The spring as the core computes with it."""
        return self._coil().spring()


class StackCoil(Document):
    """One coil of a stack."""

    rate_n_per_mm: float = Field(gt=0, le=2000, title="Rate", json_schema_extra={"unit": "N/mm"})
    free_length_mm: float = Field(gt=10, le=1500, title="Free length", json_schema_extra={"unit": "mm"})
    solid_length_mm: float = Field(gt=2, le=1500, title="Solid length", json_schema_extra={"unit": "mm"})

    @model_validator(mode="after")
    def _solid_is_shorter(self) -> "StackCoil":
        if self.solid_length_mm >= self.free_length_mm:
            raise DomainError("a spring of the stack is longer solid than free")
        return self


class StackData(FittedSpring):
    """Tender and main coil with a divider, on a coil-over."""

    title: ClassVar[str] = "Tender and main coil"

    type: Literal["dual_rate_stack"] = "dual_rate_stack"
    tender: StackCoil
    main: StackCoil
    order: Literal["tender_at_collar", "tender_at_far_end"] = "tender_at_collar"
    preload_mm: float = Field(ge=0, le=400, title="Preload", json_schema_extra={"unit": "mm"})
    gap_mm: float = Field(ge=0, le=600, title="Divider to stop, fully extended", json_schema_extra={"unit": "mm"})
    length_extended_mm: float = Field(
        gt=20,
        le=2000,
        title="Stack at full extension",
        description="between its seats",
        json_schema_extra={"unit": "mm"},
    )

    def spring(self) -> Spring:
        """The spring as the core computes with it."""
        tender, main = (
            StackSpring(s.rate_n_per_mm, s.free_length_mm, s.solid_length_mm) for s in (self.tender, self.main)
        )
        return DualRateStack(tender, main, self.preload_mm, self.gap_mm, self.order).spring(self.length_extended_mm)


class LeafHelper(Document):
    """Helper leaves: what they add, and after how much deflection."""

    rate_n_per_mm: float = Field(gt=0, le=2000, examples=[20])
    contact_deflection_mm: float = Field(ge=0, le=500, examples=[60])


class LeafPackData(FittedSpring):
    """A leaf pack by its leaves, or by a rate that is known."""

    title: ClassVar[str] = "Leaf pack"
    is_coil: ClassVar[bool] = False

    type: Literal["leaf_pack"] = "leaf_pack"
    leaves: int = Field(ge=1, le=20, title="Leaves")
    width_mm: float = Field(gt=10, le=200, title="Width", json_schema_extra={"unit": "mm"})
    thickness_mm: float = Field(gt=1, le=40, title="Leaf thickness", json_schema_extra={"unit": "mm"})
    length_mm: float = Field(gt=200, le=2500, title="Eye to eye", json_schema_extra={"unit": "mm"})
    free_arch_mm: float = Field(ge=-200, le=600, title="Free arch", json_schema_extra={"unit": "mm"})
    arch_mm: float = Field(
        ge=-300, le=600, title="Arch at the reference height", description="from the line of the eyes to the seat",
        json_schema_extra={"unit": "mm"},
    )  # fmt: skip
    helper: LeafHelper | None = Field(default=None, title="Helper leaves")

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
    is_coil: ClassVar[bool] = False

    type: Literal["torsion_bar"] = "torsion_bar"
    diameter_mm: float = Field(gt=5, le=80, title="Diameter", json_schema_extra={"unit": "mm"})
    length_mm: float = Field(gt=100, le=2500, title="Active length", json_schema_extra={"unit": "mm"})
    free_angle_deg: float = Field(gt=-60, lt=85, title="Free angle below horizontal", json_schema_extra={"unit": "°"})
    free_angle_tolerance_deg: float = Field(
        default=FREE_ANGLE_DEG, ge=0, le=10, title="Free angle ±", json_schema_extra={"unit": "°"}
    )
    shear_modulus_n_per_mm2: float = Field(default=STEEL_SHEAR_MODULUS, gt=10_000, le=200_000)

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


class AirSpringData(FittedSpring):
    """An air bag at the height its levelling system holds."""

    title: ClassVar[str] = "Air spring"
    is_coil: ClassVar[bool] = False

    type: Literal["air_spring"] = "air_spring"
    height_mm: float = Field(gt=20, le=600, title="Height at the reference height", json_schema_extra={"unit": "mm"})
    area_mm2: float = Field(gt=100, le=200_000, title="Effective area", json_schema_extra={"unit": "mm²"})
    area_slope_mm2_per_mm: float = Field(default=0, ge=-1000, le=1000, title="Area change per mm of height")
    volume_mm3: float = Field(gt=1000, le=1e8, title="Volume", json_schema_extra={"unit": "mm³"})
    gauge_pressure_n_per_mm2: float = Field(gt=0.01, le=3, title="Gauge pressure", json_schema_extra={"unit": "N/mm²"})
    exponent: float = Field(default=1.0, ge=1, le=1.67, description="1.0 settled, 1.3 quick")

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


SpringData = Annotated[
    Coil | ProgressiveCoilData | StackData | LeafPackData | TorsionBarData | AirSpringData,
    Field(discriminator="type"),
]
SPRINGS: dict[str, type[FittedSpring]] = {k.model_fields["type"].default: k for k in get_args(get_args(SpringData)[0])}
"""Every kind of spring by its name in a job file."""


class DamperData(Document):
    """A damper's lengths, between the two points the linkage names."""

    extended_mm: float = Field(gt=50, le=2000, title="Extended length")
    closed_mm: float = Field(gt=30, le=2000, title="Closed length")
    rod_hidden_mm: float = Field(
        default=0, ge=0, le=400, description="rod still showing when the damper is fully closed"
    )

    @model_validator(mode="after")
    def _opens(self) -> "DamperData":
        if self.closed_mm >= self.extended_mm:
            raise DomainError("the damper is longer closed than extended")
        return self


class BumpStopData(Document):
    """A bump stop, on the damper rod or over the axle: where it is first touched, and its force from there."""

    height_mm: float = Field(gt=0, le=300, title="Height of the stop")
    contact_mm: float | None = Field(
        default=None,
        gt=30,
        le=2000,
        title="Touched at damper length",
        description="damper length at which a stop on the damper is first touched",
    )
    contact_travel_mm: float | None = Field(
        default=None,
        gt=-300,
        le=400,
        title="Or at wheel travel",
        description="wheel travel at which a stop over the axle is first touched",
    )
    max_compression_mm: float = Field(gt=0, le=250, title="Squeezed at most")
    coefficient: float = Field(default=1.5, gt=0, le=1e5, description="c in F = c·x^p, N/mm^p")
    power: float = Field(default=2, ge=1, le=6)
    table: tuple[tuple[float, float], ...] = Field(
        default=(), max_length=60, title="Rows of mm squeezed and N", description="wins over coefficient and power"
    )

    @model_validator(mode="after")
    def _one_place_and_a_rising_table(self) -> "BumpStopData":
        if (self.contact_mm is None) == (self.contact_travel_mm is None):
            raise DomainError("give contact_mm for a stop on the damper, or contact_travel_mm for one over the axle")
        if self.table:
            if len(self.table) < 2 or self.table[0] != (0, 0):
                raise DomainError("a stop's table starts with 0, 0 and has at least two rows")
            for (x0, f0), (x1, f1) in zip(self.table, self.table[1:], strict=False):
                if x1 <= x0 or f1 < f0:
                    raise DomainError(f"the stop's table does not rise at {x1:g} mm")
        return self

    @property
    def on_damper(self) -> bool:
        """Whether it sits on the damper."""
        return self.contact_mm is not None

    def stop(self) -> BumpStop | TableStop:
        """As the core computes with it."""
        if self.table:
            x, f = zip(*self.table, strict=True)
            return TableStop(x, f)
        return BumpStop(self.max_compression_mm, self.coefficient, self.power)


class TopOutData(Document):
    """A top-out spring inside the damper."""

    rate_n_per_mm: float = Field(gt=0, le=2000, examples=[60])
    contact_mm: float = Field(
        gt=30, le=2000, title="Felt from damper length", examples=[400],
        description="damper length from which on it pulls back",
    )  # fmt: skip

    def top_out(self) -> TopOut:
        """As the core computes with it."""
        return TopOut(self.rate_n_per_mm, self.contact_mm)
