"""A foot, fork or extension that makes a damper or a unit longer between its eyes."""

from typing import ClassVar, Literal, Self

from pydantic import Field

from inclinum.core.car.changes.base import Change
from inclinum.core.car.vehicle import Axle, Vehicle
from inclinum.core.document.names import AxleName, PartNumber
from inclinum.core.kinematics.mounts import stand_together
from inclinum.core.plan import millimetres, named
from inclinum.core.quantity.words import signed


class DamperExtension(Change):
    """Extensions on both dampers of an axle, or under both of its units."""

    title: ClassVar[str] = "Damper extensions"
    opens: ClassVar[frozenset[str]] = frozenset({"damper foot"})
    place: ClassVar[str] = "Dampers and stops"
    known_as: ClassVar[tuple[str, ...]] = ("shock extender", "eye extension", "longer fork", "shortened body")
    costs: ClassVar[str] = "a damper keeps its stroke, closed that much sooner; a unit lifts the body with it"
    equation: ClassVar[str] = "open, closed and stop length + n; where the spring stands on it, its seats too"
    source: ClassVar[str] = "derived here: a sum of lengths"

    type: Literal["damper_extension"] = "damper_extension"
    longer_mm: float = Field(
        ge=-150,
        le=200,
        title="Longer by",
        description="eye to eye; negative for a shortened body",
        json_schema_extra={"unit": "mm", "step": 1, "slider": [-60, 80]},
    )
    part: PartNumber = ""

    @classmethod
    def start(cls, name: AxleName, axle: Axle) -> Self:
        """10 mm."""
        _ = axle
        return cls(axle=name, longer_mm=10)

    def changed(self, axle: Axle) -> dict[str, object]:
        """Lengths; the spring goes along where it stands on the damper."""
        found = axle.with_longer_unit(self.longer_mm)
        if not (axle.spring.is_coil and stand_together(axle.linkage)):
            del found["spring_offset_mm"]
        return found

    def summary(self) -> str:
        """By how much."""
        return named(self.part, self.told)

    def parts(self, machine: Vehicle) -> list[str]:
        """The pair."""
        _ = machine
        what = "damper extensions" if self.longer_mm >= 0 else "shortened dampers"
        return [f"2 {what} {self.summary()} ({self.axle})"]

    @property
    def told(self) -> str:
        """How much longer."""
        return f"{signed(self.longer_mm)} mm eye to eye"

    def steps(self, machine: Vehicle) -> list[str]:
        """Full thread."""
        _ = machine
        by = f"{millimetres(abs(self.longer_mm))}"
        if self.longer_mm < 0:
            return [f"Shortened damper beside the old one: {by} shorter eye to eye, both alike; eyes in line."]
        return [f"{by} extension home on its full thread or sleeve, lock nut or bolt as its maker says; eyes in line."]
