"""Seat foam taken off, or put on."""

from typing import ClassVar, Literal, Self

from pydantic import Field

from inclinum.core.bike.changes.base import BikeChange
from inclinum.core.bike.machine import Bike
from inclinum.core.document.errors import DomainError


class SeatFoam(BikeChange):
    """The seat lower by so much foam."""

    title: ClassVar[str] = "Seat foam"
    place: ClassVar[str] = "Seat and stands"
    known_as: ClassVar[tuple[str, ...]] = ("lower seat", "cut seat")
    costs: ClassVar[str] = "cut foam does not come back"
    equation: ClassVar[str] = "seat height less by what is taken off"
    source: ClassVar[str] = "derived here: a sum of lengths"
    end: ClassVar = None
    reversible: ClassVar[bool] = False
    provides: ClassVar[str] = "seat height"

    type: Literal["seat_foam"] = "seat_foam"
    lower_mm: float = Field(ge=-60, le=120, title="Lower by", json_schema_extra={"step": 1, "slider": [0, 40]})

    @classmethod
    def start(cls, bike: Bike) -> Self:
        """A centimetre."""
        return cls(lower_mm=min(10.0, bike.seat.foam_mm))

    def apply(self, machine: Bike) -> Bike:
        """Height and what foam is left."""
        if self.lower_mm > machine.seat.foam_mm:
            raise DomainError(f"The seat has {machine.seat.foam_mm:g} mm of foam to give, not {self.lower_mm:g}.")
        seat = machine.seat.model_copy(
            update={
                "height_mm": machine.seat.height_mm - self.lower_mm,
                "foam_mm": machine.seat.foam_mm - self.lower_mm,
            }
        )
        return machine.model_copy(update={"seat": seat})

    def at(self, value: float) -> Self:
        """Lower by another thickness, mm."""
        return type(self)(lower_mm=value)

    def summary(self) -> str:
        """How much."""
        return f"{abs(self.lower_mm):g} mm {'off' if self.lower_mm >= 0 else 'on'}"

    def figure(self, bike: Bike) -> str | None:
        """What comes off or goes on."""
        _ = bike
        return self.summary()

    def steps(self, machine: Bike) -> list[str]:
        """Cover."""
        _ = machine
        return [f"Seat foam: {self.summary()}, cover back without folds, seat latched."]
