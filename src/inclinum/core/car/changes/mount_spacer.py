"""A spacer inside the top mount, on the rod: mount and spring seat as they were, the rod hangs lower."""

from typing import ClassVar, Literal, Self

from pydantic import Field

from inclinum.core.car.changes.base import Change
from inclinum.core.car.vehicle import Axle, Vehicle
from inclinum.core.card.order import Order, laid
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import AxleName, PartNumber, Side
from inclinum.core.plan import millimetres, named
from inclinum.core.quantity.words import signed


class MountSpacer(Change):
    """Spacers between top mount and rod shoulder, both sides."""

    title: ClassVar[str] = "Spacer inside the top mount"
    opens: ClassVar[frozenset[str]] = frozenset({"inside the unit"})
    place: ClassVar[str] = "Strut top"
    known_as: ClassVar[tuple[str, ...]] = ("rod spacer", "internal spacer")
    costs: ClassVar[str] = "takes thread of the rod; bump and droop ends move, the spring stays as it is"
    equation: ClassVar[str] = "damper n shorter at the same wheel travel: its window moves, the ride point does not"
    source: ClassVar[str] = "derived here: a sum of lengths; thread left over the nut is what the spacer may take"

    type: Literal["mount_spacer"] = "mount_spacer"
    thickness_mm: float = Field(
        ge=-30,
        le=60,
        title="Thickness",
        description="negative for one taken out",
        json_schema_extra={"unit": "mm", "step": 1, "slider": [0, 30]},
    )
    thread_over_nut_mm: float = Field(
        default=10,
        ge=0,
        le=80,
        title="Thread over the nut",
        description="of the rod, as it is now",
        json_schema_extra={"unit": "mm"},
    )
    part: PartNumber = ""

    @classmethod
    def start(cls, name: AxleName, axle: Axle) -> Self:
        """5 mm."""
        _ = axle
        return cls(axle=name, thickness_mm=5)

    def changed(self, axle: Axle) -> dict[str, object]:
        """The damper's lengths against its points.

        Raises:
            DomainError: the rod has less thread than the spacer takes.
        """
        if self.thickness_mm > self.thread_over_nut_mm:
            raise DomainError(
                f"The {self.axle} rods show {millimetres(self.thread_over_nut_mm)} of thread over the nut: a spacer of "
                f"{millimetres(self.thickness_mm)} leaves the nut none. Make it thinner, or take a plate on the tower."
            )
        found = axle.with_longer_unit(self.thickness_mm)
        return {name: part for name, part in found.items() if name != "spring_offset_mm"}

    def summary(self) -> str:
        """Thickness."""
        return named(self.part, f"{signed(self.thickness_mm)} mm on the rod")

    def parts(self, machine: Vehicle) -> list[str]:
        """The pair, with rod nuts."""
        _ = machine
        return [f"2 rod spacers {millimetres(self.thickness_mm)}, 2 rod nuts ({self.axle})"]

    def order(self, machine: Vehicle, side: Side | None) -> Order | None:
        """On the rod, under the mount."""
        _ = machine, side
        if self.thickness_mm <= 0:
            return None
        return laid("shoulder of the rod", ("spacer", self.thickness_mm), "top mount", "rod nut", new="spacer")

    @property
    def told(self) -> str:
        """Its thickness."""
        return f"{signed(self.thickness_mm)} mm"

    def steps(self, machine: Vehicle) -> list[str]:
        """Full nut."""
        _ = machine
        if self.thickness_mm < 0:
            return [
                f"{millimetres(-self.thickness_mm)} of spacer off the rod's shoulder, mount on; rod held at its nut."
            ]
        return [
            f"{millimetres(self.thickness_mm)} spacer on the rod's shoulder, mount over it; the nut has its full "
            "thread, with the rod held."
        ]
