"""Shorter fork parts inside: less stroke, a lower front; or the bottom-out parts left out, which is refused."""

from typing import ClassVar, Literal, Self

from pydantic import Field

from inclinum.core.bike.changes.base import BikeChange
from inclinum.core.bike.machine import Bike
from inclinum.core.document.errors import DomainError
from inclinum.core.plan import Search


class ForkTravel(BikeChange):
    """Internal spacers that keep the fork from extending as far."""

    title: ClassVar[str] = "Shorter fork inside"
    place: ClassVar[str] = "Fork"
    known_as: ClassVar[tuple[str, ...]] = ("lowering spacers inside", "shortened fork")
    costs: ClassVar[str] = "takes travel"
    equation: ClassVar[str] = "full extension shortens by s, and the front drops by s·cos(rake)"
    source: ClassVar[str] = "derived here: the legs' own length"
    end: ClassVar = "front"
    provides: ClassVar[str] = "fork length"
    opens: ClassVar[frozenset[str]] = frozenset({"inside the fork"})
    deep: ClassVar[int] = 3

    type: Literal["fork_travel"] = "fork_travel"
    shorter_mm: float = Field(ge=0, le=150, title="Shorter by", json_schema_extra={"step": 1, "slider": [0, 60]})
    bottom_out_parts: bool = Field(default=True, title="Bottom-out parts stay in")

    @classmethod
    def start(cls, bike: Bike) -> Self:
        """A little."""
        _ = bike
        return cls(shorter_mm=10)

    def apply(self, machine: Bike) -> Bike:
        """Stroke and room for the springs go; the front stands lower by it at full extension."""
        fork = machine.fork
        if self.shorter_mm >= fork.stroke_mm - 20:
            raise DomainError(
                f"A fork with {fork.stroke_mm:g} mm of stroke cannot be made {self.shorter_mm:g} mm shorter."
            )
        fields: dict[str, object] = {
            "stroke_mm": fork.stroke_mm - self.shorter_mm,
            "shortened_mm": fork.shortened_mm + self.shorter_mm,
            "bottom_out_parts": fork.bottom_out_parts and self.bottom_out_parts,
        }
        if fork.springs.type == "coil":
            fields["springs"] = fork.springs.model_copy(
                update={"available_mm": fork.springs.available_mm - self.shorter_mm}
            )
        return machine.model_copy(update={"fork": fork.model_copy(update=fields)})

    def at(self, value: float) -> Self:
        """Shorter by another length, mm."""
        return type(self)(shorter_mm=value, bottom_out_parts=self.bottom_out_parts)

    def sized(self) -> str:
        """By its length."""
        return f"fork {self.shorter_mm:g} mm shorter inside"

    def search(self, bike: Bike) -> Search | None:
        """Made in whole millimetres."""
        return Search(0, max(min(60, bike.fork.stroke_mm - 30), 0), 1)

    def mended(self) -> Self | None:
        """The same with the bottom-out parts in; None where they are."""
        return None if self.bottom_out_parts else self.model_copy(update={"bottom_out_parts": True})

    def summary(self) -> str:
        """How much."""
        left_out = "" if self.bottom_out_parts else ", bottom-out parts left out"
        return f"{self.shorter_mm:g} mm shorter{left_out}"

    def parts(self, machine: Bike) -> list[str]:
        """Spacers."""
        _ = machine
        return [f"Internal travel spacers {self.shorter_mm:g} mm, both legs, from the fork's maker or supplier"]

    def figure(self, bike: Bike) -> str | None:
        """The spacers."""
        _ = bike
        return f"{self.shorter_mm:g} mm"

    def steps(self, machine: Bike) -> list[str]:
        """Inside."""
        _ = machine
        parts = "back in their places" if self.bottom_out_parts else "left out, as planned"
        return [f"Travel spacers of {self.shorter_mm:g} mm on both damper rods, bottom-out parts {parts}."]
