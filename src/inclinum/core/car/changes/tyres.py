"""Tyres of another size: the whole end stands higher above the ground, hub to arch stays."""

from typing import ClassVar, Literal, Self

from pydantic import Field

from inclinum.core.car.changes.base import Change
from inclinum.core.car.vehicle import Axle, Vehicle
from inclinum.core.document.names import AxleName, PartNumber
from inclinum.core.plan import millimetres, named
from inclinum.core.quantity.words import signed


class Tyres(Change):
    """Both tyres of an axle of another loaded radius."""

    title: ClassVar[str] = "Tyres"
    removes: ClassVar[tuple[str, ...]] = ("tyre",)
    opens: ClassVar[frozenset[str]] = frozenset({"wheel"})
    place: ClassVar[str] = "Wheels and load"
    known_as: ClassVar[tuple[str, ...]] = ("bigger tyres", "tyre size", "oversize tyres")
    costs: ClassVar[str] = "arch, guard and gearing: what the springs give in room the tyre takes"
    equation: ClassVar[str] = "the axle stands higher by the loaded radius; hub to arch stays"
    source: ClassVar[str] = "derived here: the wheel centre is a radius above the ground"

    type: Literal["tyres"] = "tyres"
    radius_mm: float = Field(
        gt=80,
        le=800,
        title="Loaded radius",
        description="hub to ground, on the vehicle",
        json_schema_extra={"unit": "mm", "step": 1, "slider": [250, 480]},
    )
    wider_mm: float = Field(
        default=0, ge=-100, le=200, title="Wider by", description="section, against the old one",
        json_schema_extra={"unit": "mm"},
    )  # fmt: skip
    part: PartNumber = ""

    @classmethod
    def start(cls, name: AxleName, axle: Axle) -> Self:
        """The radius it has."""
        return cls(axle=name, radius_mm=axle.tyre_radius_mm)

    def changed(self, axle: Axle) -> dict[str, object]:
        """Radius, and how much it grew."""
        grown = self.radius_mm - axle.tyre_radius_mm
        return {
            "tyre_radius_mm": self.radius_mm,
            "tyre_growth_mm": axle.tyre_growth_mm + grown,
            "tyre_wider_mm": axle.tyre_wider_mm + self.wider_mm,
        }

    def summary(self) -> str:
        """Radius."""
        wider = f", {signed(self.wider_mm)} mm wide" if self.wider_mm else ""
        return named(self.part, f"{self.told}{wider}")

    def parts(self, machine: Vehicle) -> list[str]:
        """The pair."""
        _ = machine
        return [f"2 tyres {self.summary()} ({self.axle})"]

    @property
    def told(self) -> str:
        """Its loaded radius."""
        return f"{millimetres(self.radius_mm)} loaded radius"

    def steps(self, machine: Vehicle) -> list[str]:
        """Load, speed, clearance."""
        _ = machine
        return [
            f"Tyre of {millimetres(self.radius_mm)} loaded radius: size, load and speed index as the papers allow; "
            "turned lock to lock and over full bump before it drives.",
        ]
