"""Tyres or wheels of another size: the axles stand at another height, nothing else moves."""

from typing import ClassVar, Literal, Self

from pydantic import Field

from inclinum.core.bike.changes.base import BikeChange
from inclinum.core.bike.machine import Bike


class Tyres(BikeChange):
    """Loaded radii of both wheels."""

    title: ClassVar[str] = "Tyres and wheels"
    removes: ClassVar[tuple[str, ...]] = ("tyres",)
    opens: ClassVar[frozenset[str]] = frozenset({"wheels"})
    place: ClassVar[str] = "Wheels"
    known_as: ClassVar[tuple[str, ...]] = ("wheel size", "tyre size")
    costs: ClassVar[str] = "gearing, ground clearance and speedometer go with it"
    equation: ClassVar[str] = "axle height follows the loaded radius"
    source: ClassVar[str] = "derived here: a sum of lengths"
    end: ClassVar = None
    provides: ClassVar[str] = "tyre radii"

    type: Literal["tyres"] = "tyres"
    front_radius_mm: float = Field(gt=100, le=450, title="Front radius, loaded", json_schema_extra={"step": 1})
    rear_radius_mm: float = Field(gt=100, le=450, title="Rear radius, loaded", json_schema_extra={"step": 1})

    @classmethod
    def start(cls, bike: Bike) -> Self:
        """As they are."""
        return cls(front_radius_mm=bike.front_tyre_radius_mm, rear_radius_mm=bike.rear_tyre_radius_mm)

    def apply(self, machine: Bike) -> Bike:
        """Both radii."""
        return machine.model_copy(
            update={"front_tyre_radius_mm": self.front_radius_mm, "rear_tyre_radius_mm": self.rear_radius_mm}
        )

    def summary(self) -> str:
        """Radii."""
        return f"front {self.front_radius_mm:g} mm, rear {self.rear_radius_mm:g} mm loaded radius"

    def parts(self, machine: Bike) -> list[str]:
        """Tyres."""
        _ = machine
        return [f"Tyres, {self.summary()}, of a size the rims and local rules allow"]

    def steps(self, machine: Bike) -> list[str]:
        """Clearances."""
        near = "guard, stay and chain" if machine.drive.kind == "chain" else "guard and stay"
        return [
            f"Tyres on, {self.summary()}, to pressure; turn each wheel by hand at both ends of travel: {near} clear."
        ]
