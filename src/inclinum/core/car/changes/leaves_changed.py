"""Leaves added to a pack or taken out of it: its rate goes with their number."""

from typing import ClassVar, Literal, Self

from pydantic import Field

from inclinum.core.car.changes.on_leaves import UBolted, pack_of
from inclinum.core.car.vehicle import Axle, Vehicle
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import AxleName, PartNumber
from inclinum.core.plan import named
from inclinum.core.quantity.words import signed


class LeavesChanged(UBolted):
    """The same number of leaves added to both packs, or taken out."""

    title: ClassVar[str] = "Leaves added or out"
    opens: ClassVar[frozenset[str]] = frozenset({"pack"})
    place: ClassVar[str] = "Leaf packs"
    known_as: ClassVar[tuple[str, ...]] = ("add-a-leaf", "remove a leaf", "de-arch a leaf")
    costs: ClassVar[str] = "each leaf carries and stiffens; one out is missing when it is loaded"
    equation: ClassVar[str] = "k′ = k·(n + Δn)/n; the gathered pack's free arch is what was measured on the bench"
    source: ClassVar[str] = "beam of uniform strength, textbooks of strength of materials: rate grows with leaves"

    type: Literal["leaves_changed"] = "leaves_changed"
    leaves_by: int = Field(
        ge=-10, le=10, title="Leaves", description="more, or negative for fewer", json_schema_extra={"step": 1}
    )
    arch_by_mm: float = Field(
        default=0,
        ge=-200,
        le=200,
        title="Free arch by",
        description="of the gathered pack against the one that came off, measured on the bench",
        json_schema_extra={"unit": "mm", "step": 1, "slider": [-60, 60]},
    )
    part: PartNumber = ""

    @classmethod
    def start(cls, name: AxleName, axle: Axle) -> Self:
        """One leaf more, at the arch it has."""
        pack_of(name, axle)
        return cls(axle=name, leaves_by=1)

    def changed(self, axle: Axle) -> dict[str, object]:
        """Number and free arch."""
        pack = pack_of(self.axle, axle)
        left = pack.leaves + self.leaves_by
        if not 1 <= left <= 20:
            raise DomainError(f"The {self.axle} packs have {pack.leaves} leaves: {left} cannot be left.")
        arch = pack.free_arch_mm + self.arch_by_mm
        changed = pack.model_copy(update={"leaves": left, "free_arch_mm": arch, "part": self.part})
        return {"spring": changed} | self.u_bolted(axle)

    def summary(self) -> str:
        """Leaves and arch."""
        arch = f", free arch {signed(self.arch_by_mm)} mm" if self.arch_by_mm else ""
        return named(self.part, f"{signed(self.leaves_by, 'd')} each{arch}")

    def parts(self, machine: Vehicle) -> list[str]:
        """New leaves, and what is never used twice."""
        _ = machine
        new = (
            [f"{2 * self.leaves_by} leaves {self.part} ({self.axle})".replace("  ", " ")] if self.leaves_by > 0 else []
        )
        return [*new, f"2 centre bolts ({self.axle})"]

    @property
    def told(self) -> str:
        """How many."""
        return f"{signed(self.leaves_by, 'd')} in each pack" if self.leaves_by else ""

    def _gathered(self) -> str:
        n = abs(self.leaves_by)
        leaves = f"{n} {'leaf' if n == 1 else 'leaves'}"
        more = "more" if self.leaves_by > 0 else "fewer"
        count = f"{leaves} {more} in each pack" if n else "As many leaves as before"
        arch = f", free arch {signed(self.arch_by_mm)} mm against the old one's" if self.arch_by_mm else ""
        return f"{count}{arch}"

    def steps(self, machine: Vehicle) -> list[str]:
        """On the bench, in a vice."""
        _ = machine
        return [
            "Pack off and in a vice or press: two clamps over the leaves before the centre bolt comes out.",
            f"{self._gathered()}, in order of length; grease or liners as their maker says, new centre bolt, clips "
            "closed.",
        ]
