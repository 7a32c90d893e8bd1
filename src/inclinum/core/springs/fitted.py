"""What hangs on an axle, as documents: springs of every kind, dampers, stops, bars."""

import math
from abc import abstractmethod
from dataclasses import dataclass
from typing import Annotated, ClassVar, Literal, Self, get_args

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
    PiecewiseSpring,
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

WIRE_READ_MM, OUTSIDE_READ_MM, COILS_READ = 0.05, 0.5, 0.1
LEAF_READ_MM, WIDTH_READ_MM, EYES_READ_MM = 0.1, 0.5, 5.0
BAR_READ_MM, BAR_LENGTH_READ_MM = 0.05, 2.0
AREA_READ_SHARE, PRESSURE_READ = 0.03, 0.01
PRESSED_PERCENT = 2.0
"""How well calliper, tape, gauge and press read a spring, where nobody says otherwise."""
AGREE_SHARE = 0.15
"""How far a coil's stamp and its wire may be apart: a tenth of a millimetre of wire is three hundredths of its rate."""


class CoilWire(Document):
    """What callipers give of a coil that carries no stamp."""

    wire_mm: float = Field(gt=1, le=40, title="Wire diameter", examples=[12])
    outside_mm: float = Field(gt=10, le=400, title="Outside diameter", examples=[120])
    active_coils: float = Field(gt=0.5, le=40, title="Active coils", examples=[6])
    total_coils: float = Field(gt=0.5, le=44, title="All coils", examples=[7.5])

    def rate(self) -> float:
        """Rate of the coil, N/mm."""
        return wire_rate(self.wire_mm, self.outside_mm - self.wire_mm, self.active_coils)

    def solid(self) -> float:
        """Solid length, mm."""
        return wire_solid_length(self.wire_mm, self.total_coils)


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

    part: PartNumber = ""
    rate_tolerance_percent: float | None = Field(
        default=None, ge=0, le=50, title="Rate ±", description="left empty: as its dimensions are read, or usual",
        json_schema_extra={"unit": "%"},
    )  # fmt: skip
    free_length_tolerance_mm: float = Field(
        default=FREE_LENGTH_MM, ge=0, le=50, title="Free length ±", json_schema_extra={"unit": "mm"}
    )

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
    def free_length_tolerance(self) -> float:
        """± in the spring's own coordinate: mm, or rad of a torsion bar."""
        return self.free_length_tolerance_mm

    def is_same_part(self, other: "FittedSpring") -> bool:
        """Whether it is the spring that was fitted before, perhaps set otherwise: its errors are the same then."""
        return self == other


class SeatedSpring(FittedSpring):
    """Base of the springs that stand between two seats and centre on them by their inside."""

    is_coil: ClassVar[bool] = True

    inside_mm: float | None = Field(
        default=None, gt=10, le=400, title="Inside diameter", description="at its ends: held against the seats",
        json_schema_extra={"unit": "mm"},
    )  # fmt: skip


def _wire_dimensions(wire: float, mean: float, coils: float) -> tuple[Dimension, ...]:
    """Of a coil by calliper: the mean diameter is the outside one less a wire."""
    return (
        Dimension(
            "wire diameter",
            wire,
            WIRE_READ_MM,
            4 + 3 * wire / mean,
            "Read it with a micrometer at three places, paint scraped off.",
        ),
        Dimension("outside diameter", mean, OUTSIDE_READ_MM, -3, "Read it at three coils, across and across again."),
        Dimension(
            "number of active coils", coils, COILS_READ, -1, "Count to a tenth, from where the wire leaves its seat."
        ),
    )


class Coil(SeatedSpring):
    """A coil spring by its stamp."""

    title: ClassVar[str] = "Coil"

    type: Literal["coil_spring"] = "coil_spring"
    rate_n_per_mm: float = Field(examples=[28.0], gt=0, le=2000, title="Rate")
    free_length_mm: float = Field(
        examples=[330.0], gt=20, le=1500, title="Free length", json_schema_extra={"unit": "mm"}
    )
    solid_length_mm: float = Field(
        examples=[140.0], gt=5, le=1500, title="Solid length", json_schema_extra={"unit": "mm"}
    )
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

    def dimensions(self) -> tuple[Dimension, ...]:
        """Wire, diameter and coils, where it is by its wire and not by its stamp."""
        w = self.wire
        if w is None or abs(self.rate_n_per_mm - w.rate()) > 0.01 * w.rate():
            return ()
        return _wire_dimensions(w.wire_mm, w.outside_mm - w.wire_mm, w.active_coils)

    def spring(self) -> CoilSpring:
        """The spring as the core computes with it."""
        return CoilSpring(self.rate_n_per_mm, self.free_length_mm, self.solid_length_mm, self.active_coils)


class CoilGroupData(Document):
    """Coils of one diameter and one clearance."""

    mean_diameter_mm: float = Field(gt=5, le=500, examples=[100])
    active_coils: float = Field(gt=0.1, le=40, examples=[2])
    clearance_per_coil_mm: float = Field(gt=0, le=200, title="Clearance of each coil", examples=[10])


EXAMPLE_GROUPS = [
    {"mean_diameter_mm": 110.0, "active_coils": coils, "clearance_per_coil_mm": clearance}
    for coils, clearance in ((2.0, 6.0), (4.0, 18.0))
]


class ProgressiveCoilData(SeatedSpring):
    """A coil whose groups close in turn, from callipers."""

    title: ClassVar[str] = "Progressive coil"

    type: Literal["progressive_coil"] = "progressive_coil"
    wire_mm: float = Field(examples=[13.0], gt=1, le=40, title="Wire diameter")
    groups: tuple[CoilGroupData, ...] = Field(
        examples=[
            [
                {"mean_diameter_mm": 110.0, "active_coils": 2.0, "clearance_per_coil_mm": 6.0},
                {"mean_diameter_mm": 110.0, "active_coils": 4.0, "clearance_per_coil_mm": 18.0},
            ]
        ],
        min_length=1,
        max_length=12,
    )
    free_length_mm: float = Field(
        examples=[320.0], gt=20, le=1500, title="Free length", json_schema_extra={"unit": "mm"}
    )

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

    def dimensions(self) -> tuple[Dimension, ...]:
        """The wire, which all groups share, and diameter and coils of the softest one: it gives most."""
        soft = min(self.groups, key=lambda g: wire_rate(self.wire_mm, g.mean_diameter_mm, g.active_coils))
        return _wire_dimensions(self.wire_mm, soft.mean_diameter_mm, soft.active_coils)

    def rate_steps(self) -> tuple[RateStep, ...]:
        """Every group that closes before the last one."""
        return tuple(
            RateStep(f"{self.groups[c.group].active_coils:g} coils lie together", self.free_length_mm - c.shortening)
            for c in self._coil().closings[:-1]
        )

    def spring(self) -> Spring:
        """The spring as the core computes with it."""
        return self._coil().spring()


class StackCoil(Document):
    """One coil of a stack."""

    rate_n_per_mm: float = Field(examples=[50.0], gt=0, le=2000, title="Rate")
    free_length_mm: float = Field(
        examples=[180.0], gt=10, le=1500, title="Free length", json_schema_extra={"unit": "mm"}
    )
    solid_length_mm: float = Field(
        examples=[80.0], gt=2, le=1500, title="Solid length", json_schema_extra={"unit": "mm"}
    )

    @model_validator(mode="after")
    def _solid_is_shorter(self) -> "StackCoil":
        if self.solid_length_mm >= self.free_length_mm:
            raise DomainError("a spring of the stack is longer solid than free")
        return self


class StackData(SeatedSpring):
    """Tender and main coil with a divider, on a coil-over."""

    title: ClassVar[str] = "Tender and main coil"

    type: Literal["dual_rate_stack"] = "dual_rate_stack"
    tender: StackCoil
    main: StackCoil
    order: Literal["tender_at_collar", "tender_at_far_end"] = "tender_at_collar"
    preload_mm: float = Field(
        examples=[8.0],
        ge=-300, le=400, title="Preload", description="negative where it hangs loose, fully extended",
        json_schema_extra={"unit": "mm"},
    )  # fmt: skip
    gap_mm: float = Field(
        examples=[40.0], ge=0, le=600, title="Divider to stop, fully extended", json_schema_extra={"unit": "mm"}
    )
    length_extended_mm: float = Field(
        examples=[352.0],
        gt=20,
        le=2000,
        title="Stack at full extension",
        description="between its seats, with the damper forced right out",
        json_schema_extra={"unit": "mm"},
    )
    hidden_mm: float = Field(
        default=0, ge=0, le=150, title="Hidden by a negative spring",
        description="preload and gap were set with the damper only hanging: how much further it can be forced out",
        json_schema_extra={"unit": "mm"},
    )  # fmt: skip

    def stack(self) -> DualRateStack:
        """Both coils between their seats, as the core computes with them."""
        tender, main = (
            StackSpring(s.rate_n_per_mm, s.free_length_mm, s.solid_length_mm) for s in (self.tender, self.main)
        )
        return DualRateStack(tender, main, self.preload_mm, self.gap_mm, self.order)

    @property
    def zero_mm(self) -> float:
        """Length of the stack where preload and gap were set, mm."""
        return self.length_extended_mm - self.hidden_mm

    def is_same_part(self, other: FittedSpring) -> bool:
        """Its coils are, wherever collar and ring stand."""
        if not isinstance(other, StackData):
            return False
        mine = {"preload_mm", "gap_mm", "length_extended_mm", "hidden_mm"}
        return self.model_dump(exclude=mine) == other.model_dump(exclude=mine)

    def collar_up(self, by: float) -> Self:
        """More preload on a stack with less room; the ring stays on the body, so the divider moves away from it."""
        set_up = self.stack().with_preload(by)
        return self.model_copy(
            update={
                "preload_mm": set_up.preload, "gap_mm": set_up.gap, "length_extended_mm": self.length_extended_mm - by
            }
        )  # fmt: skip

    def rate_steps(self) -> tuple[RateStep, ...]:
        """The crossover, and what brings it about."""
        stack = self.stack()
        at, how = stack.crossover
        what = {"stop": "the divider meets its ring"}.get(how, f"the {how.replace('solid', 'coil is solid')}")
        return (RateStep(what, self.zero_mm - at),)

    def coils_left(self, length: float) -> tuple[tuple[str, float], ...]:
        """Tender and main."""
        stack, pressed = self.stack(), self.zero_mm - length
        return tuple(
            (name, stack.left_in(coil, pressed)) for name, coil in (("tender", stack.tender), ("main", stack.main))
        )

    def spring(self) -> Spring:
        """The spring as the core computes with it: its zero is where preload and gap were set."""
        return self.stack().spring(self.zero_mm)


class SpringTable(SeatedSpring):
    """A coil known by what a press read: forces at lengths."""

    title: ClassVar[str] = "Coil by force table"
    told_percent: ClassVar[float] = PRESSED_PERCENT
    better_told: ClassVar[str] = "Read the press again near the length it rides at, closing and opening."

    type: Literal["spring_table"] = "spring_table"
    free_length_mm: float = Field(
        examples=[320.0], gt=20, le=1500, title="Free length", json_schema_extra={"unit": "mm"}
    )
    solid_length_mm: float = Field(
        examples=[140.0], gt=5, le=1500, title="Solid length", json_schema_extra={"unit": "mm"}
    )
    rows: tuple[tuple[float, float], ...] = Field(
        min_length=1, max_length=60, title="Rows of length in mm and force in N", examples=[((250.0, 2500.0),)],
        description="from the longest to the shortest",
    )  # fmt: skip

    @model_validator(mode="after")
    def _rises(self) -> "SpringTable":
        last = (self.free_length_mm, 0.0)
        for length, force in self.rows:
            if length >= last[0] or force <= last[1]:
                raise DomainError(f"the force table does not rise from {last[0]:g} mm to {length:g} mm")
            last = (length, force)
        if self.solid_length_mm > last[0]:
            raise DomainError(f"a spring that is solid at {self.solid_length_mm:g} mm was not read at {last[0]:g} mm")
        return self

    def spring(self) -> Spring:
        """Straight between the rows; below the last one it goes on as between the last two."""
        pressed = (0.0, *(self.free_length_mm - length for length, _ in self.rows))
        forces = (0.0, *(force for _, force in self.rows))
        last = (forces[-1] - forces[-2]) / (pressed[-1] - pressed[-2])
        return PiecewiseSpring(self.free_length_mm, pressed, forces, last, self.solid_length_mm)


class LeafHelper(Document):
    """Helper leaves: what they add, and after how much deflection."""

    rate_n_per_mm: float = Field(gt=0, le=2000, examples=[20])
    contact_deflection_mm: float = Field(ge=0, le=500, examples=[60])
    thickness_mm: float = Field(
        default=0, ge=0, le=100, title="Thickness together", description="of the helper leaves: for the U-bolts' leg"
    )


class LeafPackData(FittedSpring):
    """A leaf pack by its leaves, or by a rate that is known."""

    title: ClassVar[str] = "Leaf pack"

    type: Literal["leaf_pack"] = "leaf_pack"
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


class AirSpringData(FittedSpring):
    """An air bag at the height its levelling system holds."""

    title: ClassVar[str] = "Air spring"

    type: Literal["air_spring"] = "air_spring"
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


SpringData = Annotated[
    Coil | ProgressiveCoilData | StackData | SpringTable | LeafPackData | TorsionBarData | AirSpringData,
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
    upper_bolt_mm: float | None = Field(
        default=None, gt=3, le=60, title="Upper bolt", description="what its upper eye or pin goes on, diameter"
    )
    lower_bolt_mm: float | None = Field(default=None, gt=3, le=60, title="Lower bolt", description="the same below")
    upper_bore_mm: float | None = Field(default=None, gt=3, le=60, title="Upper eye", description="its bore")
    lower_bore_mm: float | None = Field(default=None, gt=3, le=60, title="Lower eye", description="its bore")

    collar: bool = Field(
        default=False, title="Its spring stands on a collar", description="screwed back, it frees the spring by hand"
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
