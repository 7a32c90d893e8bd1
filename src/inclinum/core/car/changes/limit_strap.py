"""A strap that ends droop before the damper does."""

from typing import ClassVar, Literal, Self

from pydantic import Field

from inclinum.core.car.changes.base import Change
from inclinum.core.car.vehicle import Axle, Vehicle
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import AxleName, PartNumber
from inclinum.core.plan import millimetres, named


class LimitStrap(Change):
    """A strap at each wheel of an axle."""

    title: ClassVar[str] = "Limit straps"
    opens: ClassVar[frozenset[str]] = frozenset({"hanging"})
    place: ClassVar[str] = "Dampers and stops"
    known_as: ClassVar[tuple[str, ...]] = ("droop strap", "check strap")
    costs: ClassVar[str] = "takes droop; spares joints, shafts and hoses"
    equation: ClassVar[str] = "droop ends where the damper is as long as when the strap is tight"
    source: ClassVar[str] = "derived here: looked up on the damper's length curve over travel"
    provides: ClassVar[str] = "droop"

    type: Literal["limit_strap"] = "limit_strap"
    damper_at_mm: float = Field(
        gt=50,
        le=2000,
        title="Tight at damper length",
        description="eye to eye when the strap is tight",
        json_schema_extra={"unit": "mm", "step": 1},
    )
    part: PartNumber = ""

    @classmethod
    def start(cls, name: AxleName, axle: Axle) -> Self:
        """10 mm before the damper is fully open."""
        return cls(axle=name, damper_at_mm=round(axle.damper.open_mm - 10))

    def changed(self, axle: Axle) -> dict[str, object]:
        """The longest the damper comes to be."""
        d = axle.damper
        if self.damper_at_mm >= d.open_mm:
            what = "dampers are fully open" if d.open_mm == d.extended_mm else "straps that are there are tight"
            raise DomainError(
                f"The {self.axle} {what} at {millimetres(d.open_mm)}: a strap that is tight at "
                f"{millimetres(self.damper_at_mm)} holds nothing. Make it shorter, or take it out."
            )
        if self.damper_at_mm <= d.closed_mm:
            raise DomainError(
                f"A strap that is tight at {millimetres(self.damper_at_mm)} leaves the {self.axle} dampers no stroke."
            )
        return {"damper": d.model_copy(update={"strapped_mm": self.damper_at_mm})}

    @property
    def size(self) -> float:
        """Damper length at which it is tight, mm."""
        return self.damper_at_mm

    def sized(self) -> str:
        """By where it is tight."""
        return f"limit straps tight at {millimetres(self.damper_at_mm)} of damper"

    def at(self, value: float) -> Self:
        """Tight at another damper length, mm."""
        return self.model_copy(update={"damper_at_mm": value})

    def summary(self) -> str:
        """Where it is tight."""
        return named(self.part, f"tight at {millimetres(self.damper_at_mm)} of damper")

    def parts(self, machine: Vehicle) -> list[str]:
        """The pair."""
        _ = machine
        return [named(self.part, f"2 limit straps with their brackets ({self.axle})")]

    @property
    def told(self) -> str:
        """Where it is tight."""
        return f"{millimetres(self.damper_at_mm)} eye to eye"

    def steps(self, machine: Vehicle) -> list[str]:
        """Set with the wheel hanging."""
        hanging = "axle" if machine.axle(self.axle).linkage.coupled else "wheels"
        return [
            f"Let the {hanging} hang until the damper is {millimetres(self.damper_at_mm)} eye to eye, strap tight "
            "there, both sides together; straps stretch, so nothing else may be tight first.",
        ]
