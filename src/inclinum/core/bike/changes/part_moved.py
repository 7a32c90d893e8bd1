"""A part in the way moved, cut or taken off: the gap it leaves grows."""

from typing import ClassVar, Literal, Self

from pydantic import Field

from inclinum.core.bike.changes.base import BikeChange
from inclinum.core.bike.machine import Bike
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import Name


class PartMoved(BikeChange):
    """What touches at full bump, or hangs lowest, moved out of the way, cut back or taken off."""

    title: ClassVar[str] = "Part moved or cut"
    place: ClassVar[str] = "Fit"
    known_as: ClassVar[tuple[str, ...]] = ("mudguard cut", "guard moved", "bracket removed", "exhaust moved", "trim")
    costs: ClassVar[str] = "what is cut stays cut"
    equation: ClassVar[str] = "its gap grows by what it is moved or cut; taken off, there is none"
    source: ClassVar[str] = "derived here: a gap is between two parts"
    end: ClassVar = None

    type: Literal["part_moved"] = "part_moved"
    part_name: Name = Field(title="Part")
    how: Literal["moved", "cut", "taken_off"] = Field(default="moved", title="How")
    by_mm: float = Field(
        default=10, ge=0, le=300, title="By", description="away from what it meets",
        json_schema_extra={"unit": "mm", "step": 1, "slider": [0, 60]},
    )  # fmt: skip

    @classmethod
    def start(cls, bike: Bike) -> Self:
        """The first part that has a gap, by 10 mm."""
        names = _named(bike)
        if not names:
            raise DomainError(
                "This machine has no gaps at full bump and no clearance points that are named: enter one, and the part "
                "there can be moved."
            )
        return cls(part_name=names[0])

    @property
    def stays(self) -> bool:
        """What is cut stays cut."""
        return self.how == "cut"

    def apply(self, machine: Bike) -> Bike:
        """Its gap, or its height above the ground.

        Raises:
            DomainError: there is no such part on this machine.
        """
        names = _named(machine)
        if self.part_name not in names:
            raise DomainError(
                f"This machine has no “{self.part_name}” that meets anything; there are {', '.join(names)}."
            )
        if self.how == "taken_off":
            return machine.model_copy(
                update={
                    "far_ends": tuple(g for g in machine.far_ends if g.name != self.part_name),
                    "clearances": tuple(c for c in machine.clearances if c.name != self.part_name),
                }
            )
        return machine.model_copy(
            update={
                "far_ends": tuple(
                    g.model_copy(update={"gap_mm": g.gap_mm + self.by_mm}) if g.name == self.part_name else g
                    for g in machine.far_ends
                ),
                "clearances": tuple(
                    c.model_copy(update={"height_mm": c.height_mm + self.by_mm}) if c.name == self.part_name else c
                    for c in machine.clearances
                ),
            }
        )

    def choices(self, machine: Bike) -> dict[str, list[tuple[str, str]]]:
        """Parts that have a gap or a height."""
        return {"part_name": [(n, n) for n in _named(machine)]}

    def summary(self) -> str:
        """Which, how, by how much."""
        if self.how == "taken_off":
            return f"{self.part_name}: taken off"
        return f"{self.part_name}: {self.how}{' back' if self.how == 'cut' else ''} by {self.by_mm:g} mm"

    def figure(self, bike: Bike) -> str | None:
        """How far."""
        _ = bike
        return None if self.how == "taken_off" else f"{self.by_mm:g} mm"

    def steps(self, machine: Bike) -> list[str]:
        """Mark, cut, edge."""
        _ = machine
        if self.how == "cut":
            return [
                f"{self.part_name}: mark {self.by_mm:g} mm, tape the line, cut, edge rounded and sealed. It stays cut: "
                "ask the owner first, write it on the record."
            ]
        done = "taken off, its screws kept" if self.how == "taken_off" else f"moved by {self.by_mm:g} mm, all screws in"
        return [f"{self.part_name}: {done}; nothing rubs over the whole travel and lock to lock."]


def _named(bike: Bike) -> list[str]:
    return [*(g.name for g in bike.far_ends), *(c.name for c in bike.clearances)]
