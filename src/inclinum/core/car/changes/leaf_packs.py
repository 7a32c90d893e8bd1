"""Other leaf packs: their leaves, free arch and helper."""

from typing import ClassVar, Literal

from inclinum.core.car.changes.on_leaves import UBolted
from inclinum.core.car.changes.other_spring import OtherSpring
from inclinum.core.car.vehicle import Axle, Vehicle
from inclinum.core.plan import millimetres, named
from inclinum.core.springs.fitted import LeafPackData


class LeafPacks(OtherSpring, UBolted):
    """Both leaf packs of an axle renewed."""

    title: ClassVar[str] = "Leaf packs"
    opens: ClassVar[frozenset[str]] = frozenset({"pack"})
    known_as: ClassVar[tuple[str, ...]] = ("renewed packs", "heavy duty leaves", "new springs, leaf")
    place: ClassVar[str] = "Leaf packs"
    equation: ClassVar[str] = "k = 8·E·n·b·t³/(3·L³); free arch − F/k is the arch at rest"
    source: ClassVar[str] = "beam of uniform strength, textbooks of strength of materials"
    kind: ClassVar[str] = "leaf_pack"

    type: Literal["leaf_packs"] = "leaf_packs"
    spring: LeafPackData

    def changed(self, axle: Axle) -> dict[str, object]:
        """The packs, on new U-bolts."""
        return super().changed(axle) | self.u_bolted(axle)

    def summary(self) -> str:
        """Leaves and free arch."""
        s = self.spring
        helper = f", helper {s.helper.rate_n_per_mm:g} N/mm" if s.helper else ""
        text = f"{s.leaves} leaves {s.width_mm:g} × {s.thickness_mm:g}, free arch {millimetres(s.free_arch_mm)}{helper}"
        return named(s.part, text)

    def parts(self, machine: Vehicle) -> list[str]:
        """Packs, and what is never used twice."""
        return [
            *super().parts(machine),
            f"Centre bolts, eye and shackle bushes ({self.axle})",
        ]

    @property
    def told(self) -> str:
        """What it is told by on the bench."""
        return f"{self.spring.leaves} leaves, free arch {millimetres(self.spring.free_arch_mm)}"

    def steps(self, machine: Vehicle) -> list[str]:
        """Fixed eye first, shackle last, pin in its hole."""
        _ = machine
        return [
            f"Lay the new pack beside the old one, {self.told}: eyes, centre bolt and arch; it may lie with its long "
            "end either way.",
        ]
