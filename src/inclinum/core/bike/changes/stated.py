"""A change that nothing here computes, with the rise somebody states for it."""

from typing import ClassVar, Literal, Self

from pydantic import Field

from inclinum.core.bike.changes.base import BikeChange
from inclinum.core.bike.machine import ENDS, Bike, End


class BikeStated(BikeChange):
    """What a seller or a shop states of one end, taken as stated: marked so wherever its number shows."""

    title: ClassVar[str] = "Stated change"
    place: ClassVar[str] = "Stated"
    known_as: ClassVar[tuple[str, ...]] = ("other", "kit figure", "maker's claim")
    costs: ClassVar[str] = "its height is taken as stated; springs, sags and stops stay as they were"
    stated: ClassVar[bool] = True
    equation: ClassVar[str] = "Δz as stated"
    source: ClassVar[str] = "whoever states it"
    end: ClassVar = None

    type: Literal["bike_stated"] = "bike_stated"
    axle: End = Field(default="rear", title="End")
    what: str = Field(min_length=1, max_length=80, title="What")
    rise_mm: float = Field(
        ge=-150,
        le=150,
        title="Rise stated",
        description="of the body at that axle; negative for a drop",
        json_schema_extra={"unit": "mm", "step": 1, "slider": [-60, 60]},
    )
    tolerance_mm: float = Field(default=5, ge=0, le=100, title="Stated to ±", json_schema_extra={"unit": "mm"})
    goes_back: bool = Field(default=True, title="Can be put back")

    @property
    def where(self) -> End:
        """Its end."""
        return self.axle

    @classmethod
    def ends(cls) -> tuple[End, ...]:
        """Either."""
        return ENDS

    @classmethod
    def start(cls, bike: Bike) -> Self:
        """Nothing yet: what is stated is typed."""
        _ = bike
        return cls(what="as its seller states", rise_mm=0)

    @property
    def stays(self) -> bool:
        """Whether the machine cannot be put back as it came."""
        return not self.goes_back

    def apply(self, machine: Bike) -> Bike:
        """Just the height."""
        field = "stated_front_mm" if self.axle == "front" else "stated_rear_mm"
        return machine.model_copy(update={field: getattr(machine, field) + self.rise_mm})

    def rise_tolerance(self) -> float:
        """As stated, mm."""
        return self.tolerance_mm

    def summary(self) -> str:
        """What, marked."""
        return f"{self.what}: {self.rise_mm:+g} ± {self.tolerance_mm:g} mm, stated, not computed"

    def parts(self, machine: Bike) -> list[str]:
        """By its name."""
        _ = machine
        return [f"{self.what} ({self.axle})"]

    def steps(self, machine: Bike) -> list[str]:
        """By its maker's sheet."""
        _ = machine
        return [
            f"{self.what}: as its maker's sheet says. Its {self.rise_mm:+g} mm is stated, not computed: read it after."
        ]
