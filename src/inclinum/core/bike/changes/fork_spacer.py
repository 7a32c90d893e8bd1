"""The spacer over the fork springs cut to another length: preload, both legs equal."""

from typing import ClassVar, Literal, Self

from pydantic import Field

from inclinum.core.bike.changes.base import BikeChange
from inclinum.core.bike.changes.fork_springs import coils_of, with_springs
from inclinum.core.bike.machine import Bike
from inclinum.core.plan import Search

FAR_MM = 40.0
"""Searched so far either way of what is there."""


class ForkSpacer(BikeChange):
    """Spacers of both legs."""

    title: ClassVar[str] = "Fork spacer"
    place: ClassVar[str] = "Fork"
    known_as: ClassVar[tuple[str, ...]] = ("preload tube", "preload spacer")
    costs: ClassVar[str] = "less sag; the spring may bind that much sooner"
    equation: ClassVar[str] = "preload = spacer + free length − room; sag follows from k·(preload + x)"
    source: ClassVar[str] = "Hooke's law in each leg"
    end: ClassVar = "front"
    provides: ClassVar[str] = "fork spacer"
    opens: ClassVar[frozenset[str]] = frozenset({"inside the fork"})

    type: Literal["fork_spacer"] = "fork_spacer"
    spacer_mm: float = Field(ge=0, le=500, title="Spacer length", json_schema_extra={"step": 0.5})

    @classmethod
    def start(cls, bike: Bike) -> Self:
        """As it is."""
        return cls(spacer_mm=coils_of(bike).spacer_mm)

    def apply(self, machine: Bike) -> Bike:
        """Both legs."""
        return with_springs(machine, spacer_mm=self.spacer_mm, right_spacer_mm=None)

    def at(self, value: float) -> Self:
        """Cut to another length, mm."""
        return type(self)(spacer_mm=value)

    def sized(self) -> str:
        """By its length."""
        return f"spacers {self.spacer_mm:g} mm"

    def search(self, bike: Bike) -> Search | None:
        """Cut in half millimetres, as far either way as a spacer is usually cut."""
        _ = bike
        return Search(max(self.spacer_mm - FAR_MM, 0), min(self.spacer_mm + FAR_MM, 500), 0.5)

    def figure(self, bike: Bike) -> str | None:
        """Its length."""
        _ = bike
        return f"{self.spacer_mm:g} mm"

    def summary(self) -> str:
        """Length."""
        return f"{self.spacer_mm:g} mm, both legs"

    def parts(self, machine: Bike) -> list[str]:
        """A pair."""
        legs = coils_of(machine).legs
        return [f"{legs} spacer{'s' if legs > 1 else ''} {self.spacer_mm:g} mm, ends square, with washers"]

    def steps(self, machine: Bike) -> list[str]:
        """Cut square."""
        preload = coils_of(self.apply(machine)).preload() or 0.0
        return [
            f"Spacers cut square to {self.spacer_mm:g} mm and deburred: preload + room − spring, "
            f"{preload:.1f} mm of preload remains. Both legs equal."
        ]
