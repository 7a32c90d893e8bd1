"""Rear preload: the collar, in turns from where it is or as the shortening of the spring."""

from typing import ClassVar, Literal, Self

from pydantic import Field

from inclinum.core.bike.bike import Bike
from inclinum.core.bike.changes.base import BikeChange


class RearPreload(BikeChange):
    """The collar set to a shortening of the spring at full extension."""

    title: ClassVar[str] = "Rear preload"
    end: ClassVar = "rear"

    type: Literal["rear_preload"] = "rear_preload"
    preload_mm: float = Field(
        ge=0, le=100, title="Preload", json_schema_extra={"unit": "mm", "step": 0.5, "slider": [0, 40]}
    )

    @classmethod
    def start(cls, bike: Bike) -> Self:
        """As it is."""
        return cls(preload_mm=max(bike.preload_mm, 0.0))

    def apply(self, bike: Bike) -> Bike:
        """Counted preload."""
        return bike.model_copy(update={"preload_mm": self.preload_mm})

    def summary(self) -> str:
        """Shortening."""
        return f"{self.preload_mm:g} mm of shortening"

    def steps(self, bike: Bike) -> list[str]:
        """Turns from zero, both sides alike where there are two."""
        turns = self.preload_mm / bike.damper.collar_pitch_mm
        both = ", both dampers alike" if bike.damper.count > 1 else ""
        return [
            f"Collar {turns:.2f} turns on from zero ({self.preload_mm:g} mm){both}; zero is where the spring just "
            "touches with the damper forced fully out. Note the threads that show."
        ]
