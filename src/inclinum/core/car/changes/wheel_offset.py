"""Wheels of another offset, or spacers behind them: the wheel stands further out."""

from typing import ClassVar, Literal, Self

import numpy as np
from pydantic import Field

from inclinum.core.car.changes.base import Change
from inclinum.core.car.vehicle import Axle, Vehicle
from inclinum.core.document.names import AxleName, PartNumber
from inclinum.core.kinematics.axles import SolidAxleLinkage
from inclinum.core.plan import millimetres, named
from inclinum.core.quantity.words import signed


class WheelOffset(Change):
    """Both wheels of an axle further out or in."""

    title: ClassVar[str] = "Wheel offset or spacers"
    opens: ClassVar[frozenset[str]] = frozenset({"wheel"})
    place: ClassVar[str] = "Wheels and load"
    known_as: ClassVar[tuple[str, ...]] = ("wheel spacers", "wider track", "offset", "ET")
    costs: ClassVar[str] = "longer lever on the spring: it sinks a little; scrub radius and arch"
    equation: ClassVar[str] = "the wheel centre n further out along its axis; ratio and scrub follow from the linkage"
    source: ClassVar[str] = "derived here: the load acts n further out"

    type: Literal["wheel_offset"] = "wheel_offset"
    out_mm: float = Field(
        ge=-80,
        le=100,
        title="Further out by",
        description="each wheel; negative for further in",
        json_schema_extra={"unit": "mm", "step": 1, "slider": [-30, 50]},
    )
    part: PartNumber = ""

    @classmethod
    def start(cls, name: AxleName, axle: Axle) -> Self:
        """15 mm out."""
        _ = axle
        return cls(axle=name, out_mm=15)

    def changed(self, axle: Axle) -> dict[str, object]:
        """Wheel centres."""
        found: dict[str, object] = {"wheel_out_mm": axle.wheel_out_mm + self.out_mm}
        for field in ("linkage", "right"):
            linkage = getattr(axle, field)
            if linkage is not None:
                at = linkage.named_points()
                names = (
                    ("wheel_centre_left", "wheel_centre_right")
                    if isinstance(linkage, SolidAxleLinkage)
                    else ("wheel_centre",)
                )
                found[field] = linkage.with_points(
                    {n: at[n] + np.array([0.0, self.out_mm if at[n][1] > 0 else -self.out_mm, 0.0]) for n in names}
                )
        return found

    def summary(self) -> str:
        """How much."""
        return named(self.part, self.told)

    def parts(self, machine: Vehicle) -> list[str]:
        """Wheels or spacers with bolts."""
        _ = machine
        what = "Wheels or spacers" if self.out_mm >= 0 else "Wheels"
        return [f"{what} {self.summary()}, with bolts of the right length ({self.axle})"]

    @property
    def told(self) -> str:
        """How much."""
        return f"{signed(self.out_mm)} mm each side"

    def steps(self, machine: Vehicle) -> list[str]:
        """Hub face, centre, thread."""
        _ = machine
        by = millimetres(abs(self.out_mm))
        where = (
            f"{by} further out at each side"
            if self.out_mm >= 0
            else f"{by} further in at each side, turned by hand: clear of arm, damper and hose from lock to lock"
        )
        return [
            f"Wheel {where}. Hub faces clean, centred on the hub and not on the bolts; as many turns of thread as "
            "before, or more."
        ]
