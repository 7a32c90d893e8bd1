"""A change that nothing here computes, with the rise somebody states for it."""

from typing import ClassVar, Literal, Self

from pydantic import Field

from inclinum.core.car.changes.base import Change
from inclinum.core.car.vehicle import Axle, Vehicle
from inclinum.core.document.names import AxleName


class Stated(Change):
    """What a seller or a shop states, taken as stated: marked so wherever its number shows."""

    title: ClassVar[str] = "Stated change"
    place: ClassVar[str] = "Stated"
    known_as: ClassVar[tuple[str, ...]] = ("other", "body lift", "kit figure", "maker's claim")
    costs: ClassVar[str] = "its height is taken as stated; springs, loads and stops stay as they were"
    stated: ClassVar[bool] = True
    equation: ClassVar[str] = "Δz as stated"
    source: ClassVar[str] = "whoever states it"

    type: Literal["stated"] = "stated"
    what: str = Field(min_length=1, max_length=80, title="What")
    rise_mm: float = Field(
        ge=-200,
        le=200,
        title="Rise stated",
        description="of the body at this axle; negative for a drop",
        json_schema_extra={"unit": "mm", "step": 1, "slider": [-60, 80]},
    )
    tolerance_mm: float = Field(default=5, ge=0, le=100, title="Stated to ±", json_schema_extra={"unit": "mm"})
    goes_back: bool = Field(default=True, title="Can be put back")

    @classmethod
    def start(cls, name: AxleName, axle: Axle) -> Self:
        """20 mm of something."""
        _ = name, axle
        return cls(axle=name, what="as its seller states", rise_mm=20)

    @property
    def stays(self) -> bool:
        """Whether the vehicle cannot be put back as it came."""
        return not self.goes_back

    def changed(self, axle: Axle) -> dict[str, object]:
        """Just the height."""
        return {"stated_mm": axle.stated_mm + self.rise_mm}

    def summary(self) -> str:
        """What, marked."""
        return f"{self.what}: {self.rise_mm:+g} ± {self.tolerance_mm:g} mm, stated, not computed"

    def rise_tolerance(self) -> float:
        """As stated."""
        return self.tolerance_mm

    def parts(self, machine: Vehicle) -> list[str]:
        """By its name."""
        _ = machine
        return [f"{self.what} ({self.axle})"]

    def steps(self, machine: Vehicle) -> list[str]:
        """By its maker's sheet."""
        _ = machine
        return [
            f"{self.what}: as its maker's sheet says. Its {self.rise_mm:+g} mm is stated, not computed: read it after."
        ]
