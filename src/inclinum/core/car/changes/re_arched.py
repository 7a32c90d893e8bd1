"""Leaf packs set to another arch in the press."""

from typing import ClassVar, Literal, Self

from pydantic import Field

from inclinum.core.car.changes.base import Change
from inclinum.core.car.changes.on_leaves import pack_of
from inclinum.core.car.vehicle import Axle, Vehicle
from inclinum.core.document.names import AxleName
from inclinum.core.plan import Search
from inclinum.core.quantity.words import signed


class ReArched(Change):
    """Both packs of an axle arched anew, or flattened."""

    title: ClassVar[str] = "Packs re-arched"
    opens: ClassVar[frozenset[str]] = frozenset({"pack"})
    place: ClassVar[str] = "Leaf packs"
    known_as: ClassVar[tuple[str, ...]] = ("re-arch", "reset springs", "de-arched", "flattened")
    costs: ClassVar[str] = "cold-set leaves settle again; a spring maker's work"
    reversible: ClassVar[bool] = False
    equation: ClassVar[str] = "free arch + Δ: the same force bends it as far, the arch at rest is Δ more"
    source: ClassVar[str] = "derived here: the rate stays, the free end moves"
    provides: ClassVar[str] = "free arch"

    type: Literal["re_arched"] = "re_arched"
    by_mm: float = Field(
        ge=-200,
        le=200,
        title="Free arch by",
        description="negative for flattened",
        json_schema_extra={"unit": "mm", "step": 1, "slider": [-60, 60]},
    )

    @classmethod
    def start(cls, name: AxleName, axle: Axle) -> Self:
        """20 mm more."""
        pack_of(name, axle)
        return cls(axle=name, by_mm=20)

    def changed(self, axle: Axle) -> dict[str, object]:
        """The free arch."""
        pack = pack_of(self.axle, axle)
        return {"spring": pack.model_copy(update={"free_arch_mm": pack.free_arch_mm + self.by_mm})}

    @property
    def size(self) -> float:
        """mm."""
        return self.by_mm

    def sized(self) -> str:
        """By the arch."""
        return f"packs re-arched by {signed(self.by_mm)} mm"

    def at(self, value: float) -> Self:
        """By another arch, mm."""
        return self.model_copy(update={"by_mm": value})

    def search(self, axle: Axle) -> Search | None:
        """Set in steps of 5 mm, 60 either way."""
        _ = axle
        return Search(-60, 60, 5)

    def summary(self) -> str:
        """By how much."""
        return self.told

    def parts(self, machine: Vehicle) -> list[str]:
        """What is never used twice."""
        _ = machine
        return [f"2 centre bolts ({self.axle})"]

    @property
    def told(self) -> str:
        """By how much."""
        return f"free arch {signed(self.by_mm)} mm"

    def steps(self, machine: Vehicle) -> list[str]:
        """Measure before and after."""
        _ = machine
        return [
            "Free arch of both packs read on the bench before they go to the press, and again when they are back: "
            f"{signed(self.by_mm)} mm, left and right within 3 mm.",
        ]
