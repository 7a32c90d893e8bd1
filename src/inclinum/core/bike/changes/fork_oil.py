"""Oil level in the fork: the air height over the oil, both legs equal."""

from typing import ClassVar, Literal, Self

from pydantic import Field

from inclinum.core.bike.changes.base import BikeChange
from inclinum.core.bike.changes.fork_springs import coils_of, with_springs
from inclinum.core.bike.machine import Bike
from inclinum.core.document.errors import DomainError


class ForkOil(BikeChange):
    """Air height from the tube's top to the oil, fork bottomed, spring out."""

    title: ClassVar[str] = "Fork oil level"
    place: ClassVar[str] = "Fork"
    known_as: ClassVar[tuple[str, ...]] = ("air gap", "oil height")
    costs: ClassVar[str] = "less air is stiffer near the end of the stroke"
    equation: ClassVar[str] = "P·V^n = const over the oil: V = A·(level − travel)"
    source: ClassVar[str] = "the gas law for a trapped volume, n by how fast it is squeezed"
    end: ClassVar = "front"
    provides: ClassVar[str] = "oil level"
    removes: ClassVar[tuple[str, ...]] = ("old fork oil",)
    opens: ClassVar[frozenset[str]] = frozenset({"fork caps"})
    deep: ClassVar[int] = 2

    type: Literal["fork_oil"] = "fork_oil"
    level_mm: float = Field(gt=10, le=600, title="Air height", json_schema_extra={"step": 1, "slider": [60, 250]})

    @classmethod
    def start(cls, bike: Bike) -> Self:
        """As it is, or what its volume comes to."""
        air = coils_of(bike).air
        if air is None:
            raise DomainError("Nothing is known of the air in this fork: give the tube's area and its oil level first.")
        level = air.oil_level_mm or air.volume(bike.fork.stroke_mm) / air.area_mm2 - bike.fork.stroke_mm
        return cls(level_mm=round(max(level, 11.0), 1))

    def apply(self, machine: Bike) -> Bike:
        """Both legs."""
        air = coils_of(machine).air
        if air is None:
            raise DomainError("Nothing is known of the air in this fork: give the tube's area and its oil level first.")
        return with_springs(machine, air=air.model_copy(update={"oil_level_mm": self.level_mm, "volume_mm3": None}))

    def figure(self, bike: Bike) -> str | None:
        """The air height."""
        _ = bike
        return f"{self.level_mm:g} mm of air"

    def summary(self) -> str:
        """Level."""
        return f"{self.level_mm:g} mm of air, fork bottomed, springs out"

    def steps(self, machine: Bike) -> list[str]:
        """Measure both."""
        _ = machine
        return [f"Oil to {self.level_mm:g} mm below the tube's top, fork bottomed, springs out, both legs equal."]
