"""The fork tubes raised in their clamps: the front comes down, nothing else of the fork changes."""

from typing import ClassVar, Literal, Self

from pydantic import Field

from inclinum.core.bike.changes.base import BikeChange
from inclinum.core.bike.machine import Bike
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import Side
from inclinum.core.plan import Noted, Search


class ForkRaise(BikeChange):
    """Tubes above the top clamp."""

    title: ClassVar[str] = "Fork raise"
    place: ClassVar[str] = "Fork"
    known_as: ClassVar[tuple[str, ...]] = ("tubes through the clamps", "fork up")
    costs: ClassVar[str] = "steers quicker; guard and tyre come nearer the clamps"
    equation: ClassVar[str] = "front drops by r·cos(rake)"
    source: ClassVar[str] = "derived here: the clamps slide down the tube along the steering axis"
    end: ClassVar = "front"
    provides: ClassVar[str] = "fork raise"
    opens: ClassVar[frozenset[str]] = frozenset({"clamps"})

    type: Literal["fork_raise"] = "fork_raise"
    raised_mm: float = Field(
        ge=-60, le=120, title="Tubes above the top clamp", json_schema_extra={"step": 0.5, "slider": [0, 40]}
    )

    @classmethod
    def start(cls, bike: Bike) -> Self:
        """As it is."""
        if bike.fork.crown == "single":
            raise DomainError("A single-crown fork is pressed into its crown: it cannot be raised in clamps.")
        return cls(raised_mm=bike.fork.raised_mm)

    def apply(self, machine: Bike) -> Bike:
        """The raise, and what it takes from the clearance when bottomed."""
        if machine.fork.crown == "single":
            raise DomainError("A single-crown fork is pressed into its crown: it cannot be raised in clamps.")
        more = self.raised_mm - machine.fork.raised_mm
        fork = machine.fork.model_copy(
            update={
                "raised_mm": self.raised_mm,
                "bottomed_clearance_mm": machine.fork.bottomed_clearance_mm - more,
            }
        )
        return machine.model_copy(update={"fork": fork})

    def at(self, value: float) -> Self:
        """Raised to another length above the clamp, mm."""
        return type(self)(raised_mm=value)

    def sized(self) -> str:
        """By its length."""
        return f"tubes {self._place}"

    def search(self, bike: Bike) -> Search | None:
        """Within the clamp zone and the clearance when bottomed, in half millimetres."""
        return Search(bike.fork.raise_least_mm, max(bike.fork.most_raise, bike.fork.raise_least_mm), 0.5)

    def figure(self, bike: Bike) -> str | None:
        """Tube above the clamp."""
        _ = bike
        return self._place

    def summary(self) -> str:
        """How far."""
        return f"tubes {self._place}"

    @property
    def _place(self) -> str:
        return f"{abs(self.raised_mm):g} mm {'above' if self.raised_mm >= 0 else 'below'} the top clamp"

    def noted(self, machine: Bike, side: Side | None) -> tuple[Noted, ...]:
        """Tube above the clamp, the same at both legs."""
        _ = side
        return (Noted("tube", "tube above the top clamp", "mm", self.raised_mm - machine.fork.raised_mm),)

    def steps(self, machine: Bike) -> list[str]:
        """One clamp at a time."""
        _ = machine
        return [
            f"Clamps loose one leg at a time, tubes set {self._place}, both legs equal "
            "to half a millimetre; turn the bar lock to lock: nothing may touch."
        ]
