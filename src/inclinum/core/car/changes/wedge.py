"""A wedge between pack and axle: the axle turns about its centre bolt, for pinion or caster."""

import math
from typing import ClassVar, Literal, Self

from pydantic import Field

from inclinum.core.car.changes.base import Change
from inclinum.core.car.changes.on_leaves import axle_placed, leaf_axle
from inclinum.core.car.vehicle import Axle, Vehicle
from inclinum.core.document.names import AxleName, PartNumber
from inclinum.core.plan import named


class Wedge(Change):
    """A pair of wedges under leaf packs."""

    title: ClassVar[str] = "Wedges"
    opens: ClassVar[frozenset[str]] = frozenset({"axle clamp"})
    place: ClassVar[str] = "Leaf packs"
    known_as: ClassVar[tuple[str, ...]] = ("degree shim", "caster wedge", "pinion shim")
    costs: ClassVar[str] = "turns pinion and caster together"
    equation: ClassVar[str] = "the axle turns by the wedge's angle about its centre bolt"
    source: ClassVar[str] = "derived here: the axle's pad lies on the wedge"

    provides: ClassVar[str] = "wedge"
    offered: ClassVar[bool] = False

    type: Literal["wedge"] = "wedge"
    angle_deg: float = Field(
        gt=0, le=12, title="Angle", json_schema_extra={"unit": "°", "step": 0.5, "slider": [0.5, 8]}
    )
    thick_end: Literal["front", "rear"] = Field(default="rear", title="Thick end")
    part: PartNumber = ""

    @classmethod
    def start(cls, name: AxleName, axle: Axle) -> Self:
        """2°, thick end to the rear."""
        leaf_axle(name, axle)
        return cls(axle=name, angle_deg=2)

    def changed(self, axle: Axle) -> dict[str, object]:
        """The axle turned under or over its packs.

        Over the axle a wedge that is thick at the rear presses the pad down there: the axle's front comes up.
        """
        leaf = leaf_axle(self.axle, axle)
        nose_up = math.radians(self.angle_deg) * (1 if self.thick_end == "rear" else -1) * (1 if leaf.over_axle else -1)
        return axle_placed(axle, leaf.axle_turned(nose_up), nose_up)

    def at(self, value: float) -> Self:
        """So thick at the rear end, °; negative at the front one."""
        return self.model_copy(update={"angle_deg": abs(value), "thick_end": "rear" if value > 0 else "front"})

    def summary(self) -> str:
        """Angle and which way round."""
        return named(self.part, self.told)

    def parts(self, machine: Vehicle) -> list[str]:
        """The pair, with longer centre bolts."""
        _ = machine
        return [f"2 wedges {self.angle_deg:g}° {self.part} with centre bolts ({self.axle})".replace("  ", " ")]

    @property
    def told(self) -> str:
        """Its angle, and which way round."""
        return f"{self.angle_deg:g}°, thick end to the {self.thick_end}"

    def steps(self, machine: Vehicle) -> list[str]:
        """Which way round."""
        _ = machine
        return [
            f"{self.angle_deg:g}° wedge between the pack and what it stands on, thick end to the {self.thick_end}, on "
            "the centre bolt; both sides alike."
        ]
