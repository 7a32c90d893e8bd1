"""Another link: the rocker's rod hole at another distance, a rod of another length."""

import math
from typing import ClassVar, Literal, Self

from pydantic import Field

from inclinum.core.bike.changes.base import BikeChange
from inclinum.core.bike.machine import Bike
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import PartNumber
from inclinum.core.kinematics.rear_end import RearEnd, RockerOnArm, RockerOnFrame
from inclinum.core.plan import Search, named

LINKED = (RockerOnFrame, RockerOnArm)

FAR_MM = 25.0
"""Beyond this a rod is another linkage, not a way to a height."""
LEAST_STEP_MM = 0.5
"""Rods are made and cut to half a millimetre."""


def holes(rear: RearEnd) -> tuple[float, float]:
    """Distance of rocker pivot and rod hole, and length of the rod, mm.

    Raises:
        ValueError: this rear end has no rod.
    """
    if not isinstance(rear, LINKED):
        raise DomainError(f"A rear end of the kind “{rear.title.lower()}” has no link to change.")
    p = rear.named()
    one, other = rear.rods[0]
    return math.dist(p["rod_rocker"], p["rocker_pivot"]), math.dist(p[one], p[other])


class RearLink(BikeChange):
    """A lowering or raising link by its hole distance and rod length."""

    title: ClassVar[str] = "Link"
    place: ClassVar[str] = "Rear"
    known_as: ClassVar[tuple[str, ...]] = ("lowering link", "dog bones", "tie links")
    costs: ClassVar[str] = "the leverage curve changes with it"
    equation: ClassVar[str] = "two circles: hole about the rocker's pivot, rod about its other end"
    source: ClassVar[str] = "derived here: plane geometry of a four-bar"
    end: ClassVar = "rear"
    provides: ClassVar[str] = "rod"
    removes: ClassVar[tuple[str, ...]] = ("link rods",)
    opens: ClassVar[frozenset[str]] = frozenset({"link", "damper eyes"})
    tools: ClassVar[tuple[str, ...]] = ("Drifts for the sleeves, grease gun",)

    type: Literal["rear_link"] = "rear_link"
    hole_mm: float = Field(
        gt=5, le=300, title="Rocker pivot to rod hole", json_schema_extra={"unit": "mm", "step": 0.5}
    )
    rod_mm: float = Field(gt=20, le=500, title="Rod, hole to hole", json_schema_extra={"unit": "mm", "step": 0.5})
    part: PartNumber = ""

    @classmethod
    def start(cls, bike: Bike) -> Self:
        """The holes it has."""
        hole, rod = holes(bike.rear)
        return cls(hole_mm=round(hole, 1), rod_mm=round(rod, 1))

    def apply(self, machine: Bike) -> Bike:
        """The swing arm held where it is drawn: the rod turns the rocker to where both lengths are met."""
        rear = machine.rear
        holes(rear)
        # A point of the plane is x + iz here: a turn is a product.
        p = {name: complex(*at) for name, at in rear.named().items()}
        arm_end = p["rod_arm"] if isinstance(rear, RockerOnFrame) else p["rod_frame"]
        pivot, was = p["rocker_pivot"], p["rod_rocker"]
        now = _meeting(pivot, self.hole_mm, arm_end, self.rod_mm, was)
        turn = (now - pivot) / (was - pivot)
        # The damper's hole keeps its angle to the rod's hole: on the rocker it turns with it.
        damper = pivot + turn / abs(turn) * (p["damper_rocker"] - pivot)
        moved = {"rod_rocker": (now.real, now.imag), "damper_rocker": (damper.real, damper.imag)}
        return machine.model_copy(update={"rear": rear.moved(moved)})

    def at(self, value: float) -> Self:
        """With a rod of another length, hole to hole, mm; the hole stays."""
        return type(self)(hole_mm=self.hole_mm, rod_mm=value)

    def sized(self) -> str:
        """By its rod."""
        return f"rod {self.rod_mm:g} mm hole to hole"

    def search(self, bike: Bike) -> Search | None:
        """By its rod, as far as it is still this linkage."""
        _, rod = holes(bike.rear)
        return Search(max(rod - FAR_MM, 21), min(rod + FAR_MM, 499), LEAST_STEP_MM)

    def figure(self, bike: Bike) -> str | None:
        """Both distances."""
        _ = bike
        return f"hole {self.hole_mm:g} · rod {self.rod_mm:g} mm"

    def summary(self) -> str:
        """Both distances."""
        return named(self.part, f"hole {self.hole_mm:g} mm, rod {self.rod_mm:g} mm")

    def parts(self, machine: Bike) -> list[str]:
        """The link."""
        _ = machine
        return [f"Link, {self.summary()}, with its sleeves, seals and bolts"]

    def steps(self, machine: Bike) -> list[str]:
        """Rollers, sleeves, seals."""
        _ = machine
        return [
            "Push the sleeves out only as far as needed: the needle rollers stay in their sleeves. Count them.",
            f"Hole to hole of the new link against the order: {self.summary()}.",
            "Fit the link, bolt heads with their flats against the casting, grease until it shows at the seals.",
        ]


def _meeting(pivot: complex, radius: float, end: complex, length: float, near: complex) -> complex:
    """Where a circle about the pivot meets one about the rod's end, of the two the one nearer to where it was.

    Raises:
        ValueError: they do not meet.
    """
    away = end - pivot
    distance = abs(away)
    along = (radius**2 - length**2 + distance**2) / (2 * distance)
    square = radius**2 - along**2
    if square <= 0:
        raise DomainError(
            f"A rod of {length:g} mm does not reach a rocker hole {radius:g} mm from its pivot: its other end is "
            f"{distance:.0f} mm away. Take a rod between {abs(distance - radius):.0f} and {distance + radius:.0f} mm."
        )
    unit = away / distance
    across = 1j * unit * math.sqrt(square)
    return min((pivot + along * unit + s * across for s in (1, -1)), key=lambda q: abs(q - near))
