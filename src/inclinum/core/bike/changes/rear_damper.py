"""A damper of another length or stroke."""

from typing import ClassVar, Literal, Self

from pydantic import Field

from inclinum.core.bike.changes.base import BikeChange
from inclinum.core.bike.changes.rear_preload import collar_figure, collar_step
from inclinum.core.bike.machine import Bike
from inclinum.core.document.names import PartNumber
from inclinum.core.plan import Search, named

FAR_MM = 30
"""How much shorter or longer one is looked for: more turns the rear end into another machine."""


def lengths_about(bike: Bike) -> Search:
    """Extended lengths that are looked through about the one there is, whole mm."""
    there = round(bike.damper.extended_mm)
    return Search(max(there - FAR_MM, 81), min(there + FAR_MM, 700), 1)


class RearDamperSwap(BikeChange):
    """Shorter or longer dampers."""

    title: ClassVar[str] = "Damper"
    place: ClassVar[str] = "Rear"
    known_as: ClassVar[tuple[str, ...]] = ("shock", "shorter damper")
    costs: ClassVar[str] = "another length turns the whole rear end"
    equation: ClassVar[str] = "eye to eye and stroke replaced; the axle follows the linkage's curve"
    source: ClassVar[str] = "derived here: virtual work on the plane linkage"
    end: ClassVar = "rear"
    provides: ClassVar[str] = "rear damper"
    removes: ClassVar[tuple[str, ...]] = ("rear damper",)
    moves_over: ClassVar[tuple[str, ...]] = ("rear spring with its seats", "eye bearings and seals, if sound")
    opens: ClassVar[frozenset[str]] = frozenset({"damper", "spring"})
    deep: ClassVar[int] = 3
    sets_collar: ClassVar[bool] = True

    type: Literal["rear_damper"] = "rear_damper"
    extended_mm: float = Field(gt=80, le=700, title="Eye to eye, extended", json_schema_extra={"step": 1})
    stroke_mm: float = Field(gt=5, le=300, title="Stroke", json_schema_extra={"step": 1})
    part: PartNumber = ""

    @classmethod
    def start(cls, bike: Bike) -> Self:
        """The lengths it has."""
        return cls(extended_mm=bike.damper.extended_mm, stroke_mm=bike.damper.stroke_mm)

    def apply(self, machine: Bike) -> Bike:
        """Extended length and stroke, the preload counted as before.

        Where another body's thread shows at zero is measured again once it is there.
        """
        lengths = {"extended_mm": self.extended_mm, "stroke_mm": self.stroke_mm}
        data = machine.damper.model_dump() | lengths
        if any(getattr(machine.damper, name) != value for name, value in lengths.items()):
            data["threads_at_zero_mm"] = None
        return machine.model_copy(update={"damper": type(machine.damper).model_validate(data)})

    @property
    def size(self) -> float:
        """Eye to eye, mm."""
        return self.extended_mm

    def at(self, value: tuple[float, float] | float) -> Self:
        """Of another length, mm, or of other lengths, extended and stroke: another one than the one named."""
        extended, stroke = value if isinstance(value, tuple) else (value, self.stroke_mm)
        return self.model_copy(update={"extended_mm": extended, "stroke_mm": stroke, "part": ""})

    def search(self, bike: Bike) -> Search | None:
        """Whole millimetres shorter or longer, with the stroke it has."""
        return lengths_about(bike)

    def figure(self, bike: Bike) -> str | None:
        """The collar."""
        return collar_figure(self.apply(bike))

    def summary(self) -> str:
        """Length and stroke."""
        return named(self.part, f"{self.extended_mm:g} mm eye to eye, stroke {self.stroke_mm:g} mm")

    def parts(self, machine: Bike) -> list[str]:
        """One or a pair."""
        return [f"{machine.damper.count} damper{'s' if machine.damper.count > 1 else ''}, {self.summary()}"]

    def steps(self, machine: Bike) -> list[str]:
        """Compare, and the collar as the plan has it after this damper."""
        return [
            f"New damper beside the old one, both forced out, {self.summary()}: eye widths, which end is up.",
            collar_step(self.apply(machine)),
        ]
