"""Shackles of another length: pack and axle turn about the fixed eye, about half of it arrives at the axle."""

from typing import ClassVar, Literal, Self

from pydantic import Field

from inclinum.core.car.changes.base import Change
from inclinum.core.car.changes.on_leaves import axle_placed, leaf_axle
from inclinum.core.car.vehicle import Axle, Vehicle
from inclinum.core.document.names import AxleName, PartNumber
from inclinum.core.plan import Search, named
from inclinum.core.quantity.words import signed


class Shackle(Change):
    """Both shackles of a leaf axle longer or shorter."""

    title: ClassVar[str] = "Shackles"
    removes: ClassVar[tuple[str, ...]] = ("shackle",)
    opens: ClassVar[frozenset[str]] = frozenset({"shackle"})
    place: ClassVar[str] = "Leaf packs"
    known_as: ClassVar[tuple[str, ...]] = ("lift shackle", "longer shackle", "drop shackle")
    costs: ClassVar[str] = "turns the axle with the pack: pinion, caster; leans over more"
    equation: ClassVar[str] = "Δz ≈ s·(fixed eye to axle)/(eye to eye), about half; the product turns the pack exactly"
    source: ClassVar[str] = "derived here: pack and axle as one about the fixed eye, the other eye on its new shackle"
    provides: ClassVar[str] = "shackle"

    type: Literal["shackle"] = "shackle"
    longer_mm: float = Field(
        ge=-80,
        le=120,
        title="Longer by",
        description="pin to pin; negative for shorter",
        json_schema_extra={"unit": "mm", "step": 1, "slider": [-40, 80]},
    )
    part: PartNumber = ""

    @classmethod
    def start(cls, name: AxleName, axle: Axle) -> Self:
        """20 mm longer."""
        leaf_axle(name, axle)
        return cls(axle=name, longer_mm=20)

    def changed(self, axle: Axle) -> dict[str, object]:
        """Every point of pack and axle, turned about the fixed eye."""
        leaf = leaf_axle(self.axle, axle)
        placed, turn = leaf.shackled(self.longer_mm)
        return axle_placed(axle, placed, turn)

    @property
    def size(self) -> float:
        """mm longer."""
        return self.longer_mm

    def sized(self) -> str:
        """By its length."""
        return f"shackles {signed(self.longer_mm)} mm"

    def at(self, value: float) -> Self:
        """By another length, mm."""
        return self.model_copy(update={"longer_mm": value})

    def search(self, axle: Axle) -> Search | None:
        """Sold up to 60 mm longer, in steps of 5, where a longer one lifts: the shackle hangs from its pivot."""
        points = leaf_axle(self.axle, axle).points
        return Search(5, 60, 5) if points.shackle_body[2] > points.shackle_eye[2] else None

    def summary(self) -> str:
        """By how much."""
        return named(self.part, self.told)

    def parts(self, machine: Vehicle) -> list[str]:
        """The set."""
        _ = machine
        return [f"2 pairs of shackle plates {self.summary()}, with pins and bushes ({self.axle})"]

    @property
    def told(self) -> str:
        """How much longer."""
        return f"{signed(self.longer_mm)} mm pin to pin"

    def steps(self, machine: Vehicle) -> list[str]:
        """Square, and hand tight."""
        _ = machine
        return [
            f"New shackles held beside the old: {signed(self.longer_mm)} mm pin to pin, plates square to each other.",
        ]

    def settled(self, machine: Vehicle) -> list[str]:
        """Angle at rest."""
        _ = machine
        return ["The shackle must not lie past straight down towards the pack, nor touch the frame in bump."]
