"""The height an air suspension is held at: another sensor link, or its calibration."""

from typing import ClassVar, Literal, Self

from pydantic import Field

from inclinum.core.car.changes.base import Change
from inclinum.core.car.vehicle import Axle, Vehicle
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import AxleName, PartNumber, Side
from inclinum.core.plan import Noted, Search, named
from inclinum.core.quantity.words import signed
from inclinum.core.springs.fitted import AirSpringData


class AirHeight(Change):
    """Level sensors of an axle on air set to another height."""

    title: ClassVar[str] = "Level of the air suspension"
    place: ClassVar[str] = "Air"
    known_as: ClassVar[tuple[str, ...]] = ("sensor links", "lowering links", "height calibration", "ride height valve")
    costs: ClassVar[str] = "pressure follows; what bump gains droop loses, and the system may take it for a fault"
    equation: ClassVar[str] = "the valve adds or lets out air until the sensor stands as before: Δz as set"
    source: ClassVar[str] = "derived here: a level valve holds the height, whatever the load within its pressure"
    provides: ClassVar[str] = "level"

    type: Literal["air_height"] = "air_height"
    rise_mm: float = Field(
        ge=-150,
        le=150,
        title="Body held",
        description="higher at this axle; negative for lower",
        json_schema_extra={"unit": "mm", "step": 1, "slider": [-60, 60]},
    )
    by: Literal["sensor link", "calibration"] = Field(default="sensor link", title="Set by")
    tolerance_mm: float = Field(default=3, ge=0, le=50, title="Held within ±", json_schema_extra={"unit": "mm"})
    part: PartNumber = ""

    @classmethod
    def start(cls, name: AxleName, axle: Axle) -> Self:
        """20 mm up."""
        _on_air(name, axle)
        return cls(axle=name, rise_mm=20)

    def changed(self, axle: Axle) -> dict[str, object]:
        """The level."""
        _on_air(self.axle, axle)
        return {"levelled_mm": axle.levelled_mm + self.rise_mm}

    @property
    def size(self) -> float:
        """mm."""
        return self.rise_mm

    def sized(self) -> str:
        """By the height."""
        return f"level {signed(self.rise_mm)} mm"

    def at(self, value: float) -> Self:
        """Another height, mm."""
        return self.model_copy(update={"rise_mm": value})

    def search(self, axle: Axle) -> Search | None:
        """Whole millimetres, 80 either way."""
        _ = axle
        return Search(-80, 80, 1)

    def summary(self) -> str:
        """How much, and how."""
        return named(self.part, f"{signed(self.rise_mm)} mm by {self.by}")

    def rise_tolerance(self) -> float:
        """Of the sensor and its valve."""
        return self.tolerance_mm

    def parts(self, machine: Vehicle) -> list[str]:
        """Links, where links do it."""
        _ = machine
        return [f"2 sensor links {self.summary()} ({self.axle})"] if self.by == "sensor link" else []

    @property
    def told(self) -> str:
        """The height."""
        return f"{signed(self.rise_mm)} mm"

    def steps(self, machine: Vehicle) -> list[str]:
        """The sensors, or what is told the control."""
        _ = machine
        if self.by == "calibration":
            return [
                f"Level {signed(self.rise_mm)} mm by the control's own calibration, on level ground, as its maker says."
            ]
        return [
            f"Sensor links of the length that levels it {self.told} from where it did; their arms stay off dead centre "
            "over the whole travel, left and right alike."
        ]

    def noted(self, machine: Vehicle, side: Side | None) -> tuple[Noted, ...]:
        """The height it levels to."""
        _ = machine, side
        return (Noted("level", "level, by this change alone, hub to arch", "mm", self.rise_mm),)

    def settled(self, machine: Vehicle) -> list[str]:
        """The height it finds."""
        _ = machine
        return [f"Read back the height it levels to, loaded and empty: {signed(self.rise_mm)} mm by this change."]


def _on_air(name: AxleName, axle: Axle) -> None:
    if not isinstance(axle.spring, AirSpringData):
        raise DomainError(f"The {name} axle holds no level: it is sprung by {axle.spring.in_a_sentence}, not by air.")
