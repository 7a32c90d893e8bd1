"""Coils of an axle as documents: by stamp or wire, progressive, tender and main, by a table."""

from typing import ClassVar, Literal, Self

from pydantic import Field, model_validator

from inclinum.core.document import Document
from inclinum.core.document.errors import DomainError
from inclinum.core.springs import (
    CoilGroup,
    CoilSpring,
    DualRateStack,
    PiecewiseSpring,
    ProgressiveCoil,
    Spring,
    StackSpring,
    wire_rate,
    wire_solid_length,
)
from inclinum.core.springs.fitted_spring import (
    AGREE_SHARE,
    COILS_READ,
    OUTSIDE_READ_MM,
    PRESSED_PERCENT,
    WIRE_READ_MM,
    Dimension,
    FittedSpring,
    RateStep,
    SeatedSpring,
)


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
