"""A block between leaf pack and axle: the axle hangs that much lower in the body, under an underslung pack higher."""

from typing import ClassVar, Literal, Self

from pydantic import Field

from inclinum.core.car.changes.on_leaves import UBolted, axle_placed, leaf_axle
from inclinum.core.car.vehicle import Axle, Vehicle
from inclinum.core.card.order import Order, laid
from inclinum.core.document.known import MADE_TO_MM
from inclinum.core.document.names import AxleName, PartNumber, Side
from inclinum.core.plan import Search, millimetres, named
from inclinum.core.springs.leaf import block_rise


class Block(UBolted):
    """A pair of blocks with longer U-bolts."""

    title: ClassVar[str] = "Block"
    opens: ClassVar[frozenset[str]] = frozenset({"axle clamp"})
    set_in: ClassVar[str] = "mm"
    place: ClassVar[str] = "Leaf packs"
    known_as: ClassVar[tuple[str, ...]] = ("lift block", "lowering block")
    costs: ClassVar[str] = "the axle winds up more on a higher seat"
    equation: ClassVar[str] = "Δz = h over the axle, −h under it: the pack carries what it carried, at the same arch"
    source: ClassVar[str] = "derived here: every point of the axle moves by h against the pack's seat"
    provides: ClassVar[str] = "block"
    adds: ClassVar[bool] = True

    type: Literal["block"] = "block"
    height_mm: float = Field(
        ge=5,
        le=120,
        title="Height",
        description="at the centre bolt",
        json_schema_extra={"unit": "mm", "step": 1, "slider": [10, 80]},
    )
    tolerance_mm: float = Field(default=MADE_TO_MM, ge=0, le=10, title="Height ±", json_schema_extra={"unit": "mm"})
    part: PartNumber = ""

    @classmethod
    def start(cls, name: AxleName, axle: Axle) -> Self:
        """A 25 mm block."""
        leaf_axle(name, axle)
        return cls(axle=name, height_mm=25)

    def changed(self, axle: Axle) -> dict[str, object]:
        """Points of the axle moved against the packs; they hold where the body stands as much higher.

        A stop between frame and axle is met as much later.
        """
        leaf = leaf_axle(self.axle, axle)
        rise = block_rise(self.height_mm, spring_over_axle=leaf.over_axle)
        placed = axle_placed(axle, leaf.axle_moved(-rise))
        return placed | {"blocks_mm": axle.blocks_mm + self.height_mm} | self.u_bolted(axle)

    @property
    def size(self) -> float:
        """mm."""
        return self.height_mm

    def sized(self) -> str:
        """By its height."""
        return f"block {millimetres(round(self.height_mm, 2))}"

    def at(self, value: float) -> Self:
        """Of another height, mm."""
        return self.model_copy(update={"height_mm": value})

    def search(self, axle: Axle) -> Search | None:
        """Sold from 10 to 100 mm in steps of 5; none under a steered axle, and one under the axle lowers."""
        leaf = leaf_axle(self.axle, axle)
        return Search(10, 100, 5) if leaf.over_axle and leaf.steering is None else None

    def summary(self) -> str:
        """Height."""
        return named(self.part, f"{millimetres(self.height_mm)} between pack and axle")

    def parts(self, machine: Vehicle) -> list[str]:
        """Blocks."""
        _ = machine
        return [named(self.part, f"2 blocks {millimetres(self.height_mm)} ({self.axle})")]

    def order(self, machine: Vehicle, side: Side | None) -> Order | None:
        """Between axle and pack, with what lies there already."""
        _ = side
        axle = machine.axle(self.axle)
        there = ("block that is there", max(axle.blocks_mm, 0.0))
        order = ("axle tube", there, ("block", self.height_mm), "pack")
        last = len(self.steps(machine)) - 1
        return laid(*(order if leaf_axle(self.axle, axle).over_axle else order[::-1]), new="block", step=last)

    def steps(self, machine: Vehicle) -> list[str]:
        """One side at a time, pin in its hole."""
        steered = leaf_axle(self.axle, machine.axle(self.axle)).steering is not None
        return [
            *(
                [
                    "This axle steers: a block lets braking and steering wind it up, and many codes forbid it. "
                    "Ask whoever inspects it before it is ordered."
                ]
                if steered
                else []
            ),
            f"Set the {millimetres(self.height_mm)} block, its pin in the axle's seat, the centre bolt's head in the "
            "block. Never a block on top of another one.",
        ]

    def room_tolerance(self) -> float:
        """± of its height: on a leaf pack it works as one of the pack's own place."""
        return self.tolerance_mm
