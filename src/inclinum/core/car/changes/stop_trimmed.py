"""A bump stop cut shorter: touched later, and it takes less."""

from typing import ClassVar, Literal, Self

from pydantic import Field

from inclinum.core.car.changes.base import Change
from inclinum.core.car.changes.bump_stop import resized
from inclinum.core.car.vehicle import Axle, Vehicle
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import AxleName
from inclinum.core.plan import millimetres


class StopTrimmed(Change):
    """Both bump stops of an axle cut."""

    title: ClassVar[str] = "Bump stops cut"
    opens: ClassVar[frozenset[str]] = frozenset({"stop"})
    deep: ClassVar[int] = 2
    place: ClassVar[str] = "Dampers and stops"
    known_as: ClassVar[tuple[str, ...]] = ("trimmed stops", "cut jounce bumpers")
    costs: ClassVar[str] = "what is cut off takes no energy any more, and does not grow again"
    reversible: ClassVar[bool] = False
    equation: ClassVar[str] = "h′ = h − n; at the same share of its height the same force: energy in proportion to h′"
    source: ClassVar[str] = "derived here: ∫F dx of a stop of the same stuff and shape"

    type: Literal["stop_trimmed"] = "stop_trimmed"
    by_mm: float = Field(gt=0, le=200, title="Cut off", json_schema_extra={"unit": "mm", "step": 1, "slider": [1, 60]})

    @classmethod
    def start(cls, name: AxleName, axle: Axle) -> Self:
        """A quarter of its height."""
        return cls(axle=name, by_mm=max(1, round(axle.bump_stop.height_mm / 4)))

    def changed(self, axle: Axle) -> dict[str, object]:
        """The stop as one of that height."""
        left = axle.bump_stop.height_mm - self.by_mm
        if left < LEAST_LEFT_MM:
            raise DomainError(
                f"The {self.axle} stops are {millimetres(axle.bump_stop.height_mm)} high: "
                f"{millimetres(self.by_mm)} off leaves nothing to stop on. Cut less, or fit other stops."
            )
        return {"bump_stop": resized(axle.bump_stop, left)}

    def energy_left(self, height: float) -> float:
        """Share of its energy that a stop of a height, mm, still takes up to where it is solid."""
        return (height - self.by_mm) / height

    def summary(self) -> str:
        """How much."""
        return f"{millimetres(self.by_mm)} off"

    @property
    def told(self) -> str:
        """What comes off."""
        return f"{millimetres(self.by_mm)} off"

    def steps(self, machine: Vehicle) -> list[str]:
        """Record the cut."""
        height = machine.axle(self.axle).bump_stop.height_mm
        return [
            f"Cut {millimetres(self.by_mm)} off at a ring, square, from {millimetres(height)} to "
            f"{millimetres(height - self.by_mm)}: it takes {self.energy_left(height):.0%} of the energy it took. "
            "Write the cut on the job.",
        ]


LEAST_LEFT_MM = 5.0
"""What has to be left of a stop."""
