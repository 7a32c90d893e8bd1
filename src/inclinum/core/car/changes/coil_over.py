"""A complete coil-over: spring, open and closed length, stop and collar in one."""

from typing import Annotated, Any, ClassVar, Literal, Self

from pydantic import Field, model_validator

from inclinum.core.car.changes.bored import Bored
from inclinum.core.car.changes.on_unit import one_unit
from inclinum.core.car.stance import ride_corner
from inclinum.core.car.vehicle import Axle, Vehicle
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import AxleName, PartNumber
from inclinum.core.plan import Search, millimetres, named
from inclinum.core.springs.fitted import (
    BumpStopData,
    Coil,
    DamperData,
    ProgressiveCoilData,
    SpringTable,
    StackData,
    TopOutData,
)

UnitSpring = Annotated[Coil | ProgressiveCoilData | SpringTable | StackData, Field(discriminator="type")]
"""What a unit can carry between its collar and its top seat."""


class CoilOver(Bored):
    """Both struts or spring-damper units of an axle replaced by units with a collar."""

    renews_springs: ClassVar[bool] = True
    title: ClassVar[str] = "Coil-over units"
    removes: ClassVar[tuple[str, ...]] = ("damper",)
    moves_over: ClassVar[tuple[str, ...]] = ("top mount, where the unit has none",)
    opens: ClassVar[frozenset[str]] = frozenset({"unit"})
    deep: ClassVar[int] = 3
    place: ClassVar[str] = "Coil-over and collar"
    known_as: ClassVar[tuple[str, ...]] = ("coilovers", "height adjustable suspension", "complete unit")
    costs: ClassVar[str] = "spring, window and stop all at once; preload eats droop"
    provides: ClassVar[str] = "unit"
    also_meets: ClassVar[frozenset[str]] = frozenset({"coil", "stop height"})
    offered: ClassVar[bool] = False
    equation: ClassVar[str] = "room of the spring = unit length − (open length − collar to top seat)"
    source: ClassVar[str] = "derived here: the collar stands on the body, the top seat on the mount"

    type: Literal["coil_over"] = "coil_over"
    spring: UnitSpring
    extended_mm: float = Field(gt=50, le=2000, title="Open length", json_schema_extra={"unit": "mm", "step": 1})
    closed_mm: float = Field(gt=30, le=2000, title="Closed length", json_schema_extra={"unit": "mm", "step": 1})
    collar_to_top_mm: float = Field(
        gt=20,
        le=1500,
        title="Collar to top seat",
        description="with the unit fully open; less is more preload",
        json_schema_extra={"unit": "mm", "step": 1, "slider": [100, 400]},
    )
    stop_mm: float = Field(gt=0, le=300, title="Height of its stop", json_schema_extra={"unit": "mm", "step": 1})
    top_mount_mm: float = Field(
        default=0, ge=-60, le=60, title="Lower in its top mount", description="than the old unit in the old one",
        json_schema_extra={"unit": "mm", "step": 1},
    )  # fmt: skip
    top_out: TopOutData | None = Field(default=None, title="Top-out spring")
    clicks: int | None = Field(
        default=None, ge=0, le=60, title="Clicks from closed", description="to begin with, both sides alike"
    )
    part: PartNumber = Field(default="", title="Part number of the unit")

    @model_validator(mode="after")
    def _whole(self) -> Self:
        if self.closed_mm >= self.extended_mm:
            raise DomainError("the unit is longer closed than open")
        if self.closed_mm + self.stop_mm > self.extended_mm:
            raise DomainError("the stop is longer than the stroke of the unit")
        if self.collar_to_top_mm >= self.extended_mm:
            raise DomainError("the collar stands below the unit's own lower eye: measure it to the top seat once more")
        return self

    @classmethod
    def start(cls, name: AxleName, axle: Axle) -> Self:
        """Units like those fitted: same lengths, same spring, collar where the seat is."""
        one_unit(name, axle)
        if not isinstance(axle.spring, Coil | ProgressiveCoilData | SpringTable | StackData):
            raise DomainError(
                f"The {name} axle is sprung by {axle.spring.in_a_sentence}: put coils in first, then the units."
            )
        room = axle.damper.extended_mm + axle.top_spacer_mm - float(ride_corner(axle).spring_room_taken)
        most = axle.damper.extended_mm - axle.damper.closed_mm
        return cls(
            axle=name, spring=axle.spring.model_copy(update={"part": ""}), extended_mm=axle.damper.extended_mm,
            closed_mm=axle.damper.closed_mm, collar_to_top_mm=round(room, 1),
            stop_mm=min(axle.bump_stop.height_mm, most),
        )  # fmt: skip

    def changed(self, axle: Axle) -> dict[str, object]:
        """Spring, lengths, stop and seat; rings and isolators that were there are gone, plates on top stay."""
        one_unit(self.axle, axle)
        old = axle.bump_stop
        scale = self.stop_mm / old.height_mm
        spring = self.spring
        if isinstance(spring, StackData):
            # Its collar is turned until the stack has this room with the unit fully open.
            spring = spring.collar_up(spring.zero_mm - self.collar_to_top_mm)
        return {
            "spring": spring,
            "top_spacer_mm": axle.top_spacer_mm + self.top_mount_mm,
            "spring_offset_mm": self.extended_mm - self.collar_to_top_mm,
            "seat_spacer_mm": 0.0,
            "ring_above_mm": 0.0,
            "damper": DamperData.model_validate(
                {
                    "extended_mm": self.extended_mm, "closed_mm": self.closed_mm, "collar": True,
                    "strapped_mm": axle.damper.strapped_mm,
                    "upper_bolt_mm": axle.damper.upper_bolt_mm, "lower_bolt_mm": axle.damper.lower_bolt_mm,
                }
                | self.bores(axle.damper)
            ),
            "bump_stop": BumpStopData(
                height_mm=self.stop_mm, contact_mm=self.closed_mm + self.stop_mm,
                max_compression_mm=old.max_compression_mm * scale, coefficient=old.coefficient / scale**old.power,
                power=old.power,
            ),
            "top_out": self.top_out,
        }  # fmt: skip

    @property
    def preload_mm(self) -> float:
        """Shortening of the spring with the unit fully open, mm; negative where it hangs loose."""
        return float(self.spring.spring().free_length) - self.collar_to_top_mm

    def summary(self) -> str:
        """Spring, lengths and preload."""
        pre = round(self.preload_mm, 1)
        held = f"preload {millimetres(pre)}" if pre >= 0 else f"{millimetres(-pre)} loose when open"
        lengths = f"{self.extended_mm:g} open, {millimetres(self.closed_mm)} closed"
        return named(self.part, f"{self._spring}, {lengths}, {held}")

    @property
    def _spring(self) -> str:
        match self.spring:
            case Coil():
                return f"{self.spring.rate_n_per_mm:g} N/mm"
            case StackData():
                return f"{self.spring.tender.rate_n_per_mm:g} on {self.spring.main.rate_n_per_mm:g} N/mm"
            case _:
                return self.spring.title.lower()

    @property
    def size(self) -> float:
        """Of its lower eye below the collar when open, mm: the more, the higher."""
        return self.extended_mm - self.collar_to_top_mm

    def sized(self) -> str:
        """By the place of the collar."""
        return f"coil-over, collar {millimetres(round(self.collar_to_top_mm, 1))} from the top seat"

    def at(self, value: float) -> Self:
        """With the collar elsewhere."""
        return self.model_copy(update={"collar_to_top_mm": self.extended_mm - value})

    def met(self, need: str, value: Any) -> Self:
        """A unit on another coil, with another stop, or set otherwise."""
        match need:
            case "coil":
                changed = {"spring": value}
            case "stop height":
                changed = {"stop_mm": value}
            case _:
                return self.at(value)
        # Another unit than the one whose number stood there.
        return self.model_copy(update=changed | {"part": ""})

    def search(self, axle: Axle) -> Search | None:
        """Collars 60 mm down to 60 up in whole millimetres, as long as the spring is no solid block."""
        _ = axle
        most = self.extended_mm - self.spring.spring().solid_length - 10
        return Search(max(1.0, self.size - 60), max(min(most, self.size + 60), self.size), 1)

    def parts(self, machine: Vehicle) -> list[str]:
        """The pair."""
        sleeves = self.sleeve_parts(machine.axle(self.axle).damper)
        return [f"2 coil-over units {self.summary()} ({self.axle})", *sleeves]

    @property
    def told(self) -> str:
        """Where its collar is set."""
        return f"collar {millimetres(round(self.collar_to_top_mm, 1))}"

    def steps(self, machine: Vehicle) -> list[str]:
        """Set the collar on the bench."""
        _ = machine
        return [
            f"On the bench, unit fully open: collar {millimetres(round(self.collar_to_top_mm, 1))} from the top seat, "
            "both alike; collar lock tight, thread greased.",
            f"{self.extended_mm:g} mm open, {self.closed_mm:g} closed, stop {self.stop_mm:g}, top mount as ordered; "
            + (
                f"{self.clicks} clicks from closed, both alike."
                if self.clicks is not None
                else "clicks at their middle until it stands."
            ),
        ]
