"""The pack on the other side of the axle: under it or over it."""

from typing import ClassVar, Literal, Self

from pydantic import Field

from inclinum.core.car.changes.on_leaves import UBolted, axle_placed, leaf_axle
from inclinum.core.car.vehicle import Axle, Vehicle
from inclinum.core.card.fabrication import Routine, routine
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import AxleName
from inclinum.core.plan import millimetres


class OverAxle(UBolted):
    """Packs of a leaf axle hung over or under the axle tube instead."""

    title: ClassVar[str] = "Packs over or under the axle"
    opens: ClassVar[frozenset[str]] = frozenset({"pack"})
    place: ClassVar[str] = "Leaf packs"
    known_as: ClassVar[tuple[str, ...]] = ("spring over conversion", "axle flip", "underslung")
    reversible: ClassVar[bool] = False
    costs: ClassVar[str] = "new spring seats are welded to the tube; the axle winds up more above its packs"
    equation: ClassVar[str] = "Δz = ± h, the tube and what lies between the old seat and the new one"
    source: ClassVar[str] = "derived here: a sum of lengths; the packs keep their arch"

    type: Literal["over_axle"] = "over_axle"
    between_mm: float = Field(
        gt=20,
        le=400,
        title="Seat to seat",
        description="from the pack's seat now to its seat on the other side",
        json_schema_extra={"unit": "mm", "step": 1, "slider": [60, 220]},
    )

    @classmethod
    def start(cls, name: AxleName, axle: Axle) -> Self:
        """As far above the axle as it is below it now, or the other way round."""
        points = leaf_axle(name, axle).points
        return cls(axle=name, between_mm=max(25, round(2 * abs(points.seat[2] - points.wheel_centre[2]))))

    def changed(self, axle: Axle) -> dict[str, object]:
        """The axle moved across its packs."""
        leaf = leaf_axle(self.axle, axle)
        up = self.between_mm if leaf.over_axle else -self.between_mm
        placed = leaf.axle_moved(up)
        if placed.over_axle == leaf.over_axle:
            side = "over" if leaf.over_axle else "under"
            raise DomainError(
                f"With {millimetres(self.between_mm)} from seat to seat the {self.axle} packs still lie "
                f"{side} the axle."
            )
        return axle_placed(axle, placed) | self.u_bolted(axle)

    def summary(self) -> str:
        """How far."""
        return f"{millimetres(self.between_mm)} from seat to seat"

    def parts(self, machine: Vehicle) -> list[str]:
        """Seats, plates."""
        _ = machine
        return [f"2 weld-on spring seats, 4 plates ({self.axle})"]

    def steps(self, machine: Vehicle) -> list[str]:
        """A welder's work, at the right pinion angle."""
        _ = machine
        return [
            "Seats tacked with the axle at its new angle on its packs, pinion as measured; breathers, seals cool.",
        ]

    def fabrication(self) -> Routine:
        """Seats on the tube."""
        return routine("cut_and_welded", f"Spring seats of the {self.axle} axle tube")

    def settled(self, machine: Vehicle) -> list[str]:
        """What else the axle carries."""
        _ = machine
        return [
            "Brake hoses, bump stops, damper mounts and the steering's drag link are looked at anew before it drives."
        ]
