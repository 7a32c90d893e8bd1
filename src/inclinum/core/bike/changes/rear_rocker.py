"""Another rocker by its three hole distances: the rod's and the damper's from its pivot, and theirs from each other."""

from typing import ClassVar, Literal, Self

import numpy as np
from pydantic import Field

from inclinum.core.bike.changes.base import BikeChange
from inclinum.core.bike.changes.rear_link import LINKED, RearLink, holes
from inclinum.core.bike.machine import Bike
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import PartNumber
from inclinum.core.kinematics.rear_end import RearEnd
from inclinum.core.kinematics.rigid import Array
from inclinum.core.plan import named


def rocker_holes(rear: RearEnd) -> tuple[float, float, float]:
    """Pivot to rod hole, pivot to damper hole, and the two holes apart, mm.

    Raises:
        DomainError: this rear end has no rocker that a rod turns.
    """
    if not isinstance(rear, LINKED):
        raise DomainError(f"A rear end of the kind “{rear.title.lower()}” has no rocker to change.")
    p = rear.arrays()
    pivot, rod, damper = p["rocker_pivot"], p["rod_rocker"], p["damper_rocker"]
    return tuple(float(np.linalg.norm(a - b)) for a, b in ((rod, pivot), (damper, pivot), (rod, damper)))  # type: ignore[return-value]


class RearRocker(BikeChange):
    """The rocker of the rear linkage replaced, rod and damper as they are."""

    title: ClassVar[str] = "Rocker"
    place: ClassVar[str] = "Rear"
    known_as: ClassVar[tuple[str, ...]] = ("bell crank", "linkage plates", "rocker arm", "lowering rocker")
    costs: ClassVar[str] = "height and leverage curve both change with it"
    equation: ClassVar[str] = "a triangle by its three sides: the damper's hole from the pivot and from the rod's hole"
    source: ClassVar[str] = "derived here: law of cosines; the rod turns it to where its length is met"
    end: ClassVar = "rear"
    removes: ClassVar[tuple[str, ...]] = ("rocker",)
    moves_over: ClassVar[tuple[str, ...]] = ("rocker bearings and seals, if sound",)
    opens: ClassVar[frozenset[str]] = frozenset({"link", "damper eyes"})
    tools: ClassVar[tuple[str, ...]] = ("Drifts for the sleeves, grease gun",)

    type: Literal["rear_rocker"] = "rear_rocker"
    rod_hole_mm: float = Field(gt=5, le=300, title="Pivot to rod hole", json_schema_extra={"unit": "mm", "step": 0.5})
    damper_hole_mm: float = Field(
        gt=5, le=300, title="Pivot to damper hole", json_schema_extra={"unit": "mm", "step": 0.5}
    )
    apart_mm: float = Field(
        gt=1, le=500, title="Rod hole to damper hole", json_schema_extra={"unit": "mm", "step": 0.5}
    )
    part: PartNumber = ""

    @classmethod
    def start(cls, bike: Bike) -> Self:
        """The rocker it has."""
        rod, damper, apart = (round(d, 1) for d in rocker_holes(bike.rear))
        return cls(rod_hole_mm=rod, damper_hole_mm=damper, apart_mm=apart)

    def apply(self, machine: Bike) -> Bike:
        """Rod hole where rod and rocker meet, damper hole by the triangle, on the side of the rod's it was on.

        Raises:
            DomainError: three distances that make no triangle, or a rod that does not reach.
        """
        rear = machine.rear
        rocker_holes(rear)
        _, rod = holes(rear)
        p = rear.arrays()
        pivot, was = p["rocker_pivot"], p["damper_rocker"] - p["rocker_pivot"]
        side = np.sign(_cross(p["rod_rocker"] - pivot, was)) or 1.0
        turned = RearLink(hole_mm=self.rod_hole_mm, rod_mm=rod).apply(machine).rear.arrays()["rod_rocker"]
        toward = (turned - pivot) / self.rod_hole_mm
        along = (self.rod_hole_mm**2 + self.damper_hole_mm**2 - self.apart_mm**2) / (2 * self.rod_hole_mm)
        square = self.damper_hole_mm**2 - along**2
        if square < 0:
            low, high = abs(self.rod_hole_mm - self.damper_hole_mm), self.rod_hole_mm + self.damper_hole_mm
            raise DomainError(
                f"A rocker whose holes are {self.rod_hole_mm:g} and {self.damper_hole_mm:g} mm from its pivot has them "
                f"between {low:.1f} and {high:.1f} mm apart, not {self.apart_mm:g} mm: measure the three again."
            )
        across = side * np.array([-toward[1], toward[0]]) * np.sqrt(square)
        moved = {"rod_rocker": turned, "damper_rocker": pivot + along * toward + across}
        return machine.model_copy(update={"rear": rear.moved(moved)})

    def figure(self, bike: Bike) -> str | None:
        """The three distances."""
        _ = bike
        return f"{self.rod_hole_mm:g} · {self.damper_hole_mm:g} · {self.apart_mm:g} mm"

    def summary(self) -> str:
        """The three distances."""
        return named(
            self.part,
            f"holes {self.rod_hole_mm:g} (rod) and {self.damper_hole_mm:g} mm (damper) from its pivot, "
            f"{self.apart_mm:g} mm apart",
        )

    def parts(self, machine: Bike) -> list[str]:
        """The rocker."""
        _ = machine
        return [f"Rocker, {self.summary()}, with its bearings, sleeves, seals and bolts"]

    def steps(self, machine: Bike) -> list[str]:
        """Measure, press, which way round."""
        _ = machine
        return [
            f"The new rocker beside the old one, which way round marked; its three distances against the order: "
            f"{self.summary()}.",
            "Bearings pressed by their outer rings, sleeves and seals in, greased; it swings freely before the "
            "rod is on.",
        ]


def _cross(a: Array, b: Array) -> float:
    return float(a[0] * b[1] - a[1] * b[0])
