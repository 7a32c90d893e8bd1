"""What a hardpoint that sits elsewhere has in common, whatever part it is on."""

from abc import abstractmethod
from typing import ClassVar, Self, cast

import numpy as np
from pydantic import Field

from inclinum.core.car.changes.base import Change
from inclinum.core.car.changes.geometry import moved, only_one, shift, titled
from inclinum.core.car.vehicle import Axle, Vehicle
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import AxleName, PartNumber
from inclinum.core.kinematics import AnyLinkage, pair_name
from inclinum.core.kinematics.kinds import Linkage
from inclinum.core.kinematics.rigid import Array
from inclinum.core.plan import millimetres, named


class PointMoved(Change):
    """Base of the changes that move one point, at both sides; a subclass says which points it can be."""

    place: ClassVar[str] = "Arms and subframe"
    equation: ClassVar[str] = "links keep their lengths: the linkage solved with the point moved, wheel at its height"
    source: ClassVar[str] = "constraints of rigid bodies, textbooks of multibody dynamics; solved by the product"
    part_is: ClassVar[str]
    """What is bought for it."""

    point: str = Field(max_length=60, title="Which", description="point of the suspension")
    forward_mm: float = Field(default=0, ge=-150, le=150, title="Forward", json_schema_extra={"unit": "mm", "step": 1})
    out_mm: float = Field(default=0, ge=-150, le=150, title="Outward", json_schema_extra={"unit": "mm", "step": 1})
    up_mm: float = Field(
        default=0, ge=-200, le=200, title="Up", description="negative for further down",
        json_schema_extra={"unit": "mm", "step": 1, "slider": [-100, 60]},
    )  # fmt: skip
    part: PartNumber = ""

    @classmethod
    @abstractmethod
    def among(cls, linkage: Linkage) -> tuple[str, ...]:
        """Points it can move."""

    @classmethod
    def start(cls, name: AxleName, axle: Axle) -> Self:
        """The first point there is, 10 mm down."""
        names = cls.among(axle.linkage)
        if not names:
            raise DomainError(f"The {name} axle has no point for the change “{cls.title.lower()}”.")
        return cls.model_validate({"axle": name, "point": names[0], "up_mm": -10})

    def choices(self, machine: Vehicle) -> dict[str, list[tuple[str, str]]]:
        """Points it can move."""
        return {"point": titled(self.among(machine.axle(self.axle).linkage))}

    def changed(self, axle: Axle) -> dict[str, object]:
        """The linkage, and the wheel's angles where its points now hold."""
        if self.point not in self.among(axle.linkage):
            there = ", ".join(title for _, title in titled(self.among(axle.linkage)))
            raise DomainError(
                f"The change “{self.title}” does not move {pair_name(self.point)} of the {self.axle} axle, but one "
                f"of: {there}."
            )
        # Out is away from the middle of the vehicle, whichever side of it a point is on.
        was = axle.linkage.named_points()[self.point]
        by = shift(self.forward_mm, (-1 if was[1] < 0 else 1) * self.out_mm, self.up_mm)
        found = moved(axle, {self.point: by})
        went = np.array(cast("AnyLinkage", found["linkage"]).named_points()[self.point]) - was
        for n, way in enumerate(("forward or back", "out or in", "up or down")):
            # A point that went less than half of the way may have been held: then no answer tells what was typed.
            if abs(went[n]) < abs(by[n]) / 2 and self._without(axle, by, n) == found["linkage"]:
                raise DomainError(
                    f"{pair_name(self.point).capitalize()} of the {self.axle} axle does not go {way}: what it holds "
                    "keeps its place that way, and nothing would change. Leave that at 0."
                )
        return found

    def _without(self, axle: Axle, by: Array, n: int) -> object:
        """The linkage with the point left where it is in one direction."""
        rest = np.where(np.arange(3) == n, 0.0, by)
        return moved(axle, {self.point: rest})["linkage"] if rest.any() else axle.linkage

    def across(self, machine: Vehicle) -> bool:
        """A rod's across a solid axle, or a link's in its middle."""
        return only_one(machine.axle(self.axle).linkage, self.point)

    def opened(self, machine: Vehicle) -> frozenset[str]:
        """The point itself."""
        _ = machine
        return frozenset({f"point:{self.point}"})

    @property
    def way(self) -> str:
        """Where to, in words."""
        words = [
            f"{millimetres(abs(by))} {more if by > 0 else less}"
            for by, more, less in (
                (self.forward_mm, "forward", "back"), (self.out_mm, "out", "in"), (self.up_mm, "up", "down"),
            )
            if by
        ]  # fmt: skip
        return ", ".join(words) or "as it was"

    @property
    def told(self) -> str:
        """Where to."""
        return self.way

    def summary(self) -> str:
        """Which, and where to."""
        return named(self.part, f"{pair_name(self.point)}: {self.way}")

    def parts(self, machine: Vehicle) -> list[str]:
        """The pair, or the one."""
        count = 1 if self.across(machine) else 2
        return [f"{count} × {self.part_is}, {self.summary()} ({self.axle})"]
