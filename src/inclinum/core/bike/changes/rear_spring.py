"""Another rear spring: rate, length, stroke, inner diameter, and the seat washer that goes with it."""

from typing import ClassVar, Literal, Self

from pydantic import Field

from inclinum.core.bike.bike import Bike, RearSpring
from inclinum.core.bike.changes.base import BikeChange, named


class RearSpringSwap(BikeChange):
    """The spring of the damper, or of both, replaced."""

    title: ClassVar[str] = "Rear spring"
    end: ClassVar = "rear"

    type: Literal["rear_spring"] = "rear_spring"
    spring: RearSpring
    preload_mm: float | None = Field(
        default=None, ge=0, le=100, title="Preload", description="as before when left empty",
        json_schema_extra={"unit": "mm"},
    )  # fmt: skip

    @classmethod
    def start(cls, bike: Bike) -> Self:
        """The fitted spring itself: nothing changes until its numbers do."""
        return cls(spring=bike.spring.model_copy(update={"part": ""}))

    def apply(self, bike: Bike) -> Bike:
        """Spring and, where stated, its preload."""
        preload = bike.preload_mm if self.preload_mm is None else self.preload_mm
        return bike.model_copy(update={"spring": self.spring, "preload_mm": preload})

    def summary(self) -> str:
        """Rate, length and washer."""
        s = self.spring
        washer = f", {s.seat_washer_mm:g} mm washer" if s.seat_washer_mm else ""
        return named(s.part, f"{s.rate_n_per_mm:g} N/mm, free {s.free_length_mm:g} mm, stroke {s.stroke_mm:g}{washer}")

    def parts(self, bike: Bike) -> list[str]:
        """One a damper, with its washer."""
        return [f"{bike.damper.count} rear spring{'s' if bike.damper.count > 1 else ''}, {self.summary()}"]

    def steps(self, bike: Bike) -> list[str]:
        """Compare and seat."""
        _ = bike
        return [
            "New spring beside the old one: check rate, free length and inner diameter against the order.",
            "Seat the spring with its own washer; collar down to touch with the damper forced fully out: that is zero.",
        ]
