"""An adjuster that the axle did not come with: eccentric bolt, camber bolt, adjustable link, shims."""

from typing import ClassVar, Literal, Self

import numpy as np
from pydantic import Field, model_validator

from inclinum.core.car.adjusters import adjuster_of
from inclinum.core.car.changes.base import Change
from inclinum.core.car.changes.geometry import parted, titled
from inclinum.core.car.stance import axle_corner
from inclinum.core.car.vehicle import (
    AdjusterData,
    AngleName,
    Axle,
    EccentricAdjuster,
    LinkAdjuster,
    Vehicle,
    WheelAdjuster,
)
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import AxleName, PartNumber
from inclinum.core.kinematics.refit import frame_points, links, moving_points
from inclinum.core.plan import named
from inclinum.core.quantity.words import signed


class AdjusterFitted(Change):
    """One more way to set a wheel angle, at both wheels of an axle."""

    title: ClassVar[str] = "Adjuster fitted"
    place: ClassVar[str] = "Arms and subframe"
    known_as: ClassVar[tuple[str, ...]] = (
        "eccentric bolt",
        "camber bolt",
        "caster plate",
        "shims",
        "adjustable bush",
        "toe eccentric",
        "adjustable link",
    )
    costs: ClassVar[str] = "moves nothing by itself: the alignment has it to set from then on"
    equation: ClassVar[str] = (
        "the alignment is solved with its range and steps beside those that are there, or in the place of one of the "
        "same part"
    )
    source: ClassVar[str] = "bounded least squares on the solved linkage"

    type: Literal["adjuster_fitted"] = "adjuster_fitted"
    adjuster: WheelAdjuster
    range_deg: float | None = Field(
        default=None, gt=0, le=10, title="Maker's range ±",
        description="of an angle, where that is what is known: then the mm follow from the linkage",
        json_schema_extra={"unit": "°"},
    )  # fmt: skip
    of_angle: AngleName = Field(default="camber", title="Of which angle")
    part: PartNumber = ""

    @model_validator(mode="after")
    def _of_an_angle(self) -> Self:
        if self.range_deg is None and self.of_angle != "camber":
            raise DomainError("an angle is named and no range of it given: give the range, or leave the angle alone")
        return self

    @classmethod
    def start(cls, name: AxleName, axle: Axle) -> Self:
        """A screwed link where there is one that has no adjuster yet, else an eccentric at the first pivot."""
        have = {a.name for a in axle.adjusters}
        taken = {a.outer for a in axle.adjusters if isinstance(a, LinkAdjuster)}
        free = [n for n in links(axle.linkage) if n not in taken]
        if axle.linkage.coupled:
            raise DomainError(
                f"The wheels of the {name} axle are set by the axle itself: change its links or wedges, "
                "or set its track rod, which is among its figures."
            )
        found: WheelAdjuster
        if free:
            found = LinkAdjuster(
                name=_unused("adjustable link", have), outer=free[0], min_mm=-10, max_mm=10, thread_pitch_mm=1.5
            )
        else:
            found = EccentricAdjuster(
                name=_unused("eccentric bolt", have), point=frame_points(axle.linkage)[0], direction=(0, 1, 0),
                eccentricity_mm=6,
            )  # fmt: skip
        return cls(axle=name, adjuster=found)

    def choices(self, machine: Vehicle) -> dict[str, list[tuple[str, str]]]:
        """Points and links it can act on."""
        linkage = machine.axle(self.axle).linkage
        return {
            "point": titled((*frame_points(linkage), *moving_points(linkage))),
            "outer": titled(tuple(links(linkage))),
        }

    def changed(self, axle: Axle) -> dict[str, object]:
        """The list of adjusters."""
        if axle.linkage.coupled:
            raise DomainError(
                f"The wheels of the {self.axle} axle are set by the axle itself: change its links or wedges, "
                "or set its track rod, which is among its figures."
            )
        if self.adjuster.name in {a.name for a in axle.adjusters}:
            raise DomainError(
                f"The {self.axle} axle has an adjuster “{self.adjuster.name}” already: name this one otherwise."
            )
        at = self.adjuster.outer if isinstance(self.adjuster, LinkAdjuster) else self.adjuster.point
        if at not in axle.linkage.named_points():
            raise DomainError(f"The {self.axle} axle has no {at} for the adjuster “{self.adjuster.name}” to act on.")
        return {"adjusters": (*(a for a in axle.adjusters if not self._replaces(a)), self._ranged(axle))}

    def _replaces(self, there: AdjusterData) -> bool:
        """Whether it goes in where an adjuster is: that one's thread or cam then lies on the bench."""
        new = self.adjuster
        if isinstance(new, LinkAdjuster) and isinstance(there, LinkAdjuster):
            return new.outer == there.outer
        if isinstance(new, EccentricAdjuster) and isinstance(there, EccentricAdjuster):
            return new.point == there.point
        return False

    def _ranged(self, axle: Axle) -> WheelAdjuster:
        """The adjuster with the range its maker tells as an angle, where so.

        Raises:
            DomainError: that adjuster does not move that angle.

        Source: derived here: the angle per mm is the solved linkage's, at the reference height.
        """
        if self.range_deg is None:
            return self.adjuster
        if isinstance(self.adjuster, EccentricAdjuster):
            raise DomainError("an eccentric's range is its eccentricity: leave the maker's degrees out")
        low, high = (_reached(axle, self.adjuster, self.of_angle, self.range_deg, way) for way in (-1, 1))
        if low is None or high is None:
            raise DomainError(
                f"The adjuster “{self.adjuster.name}” of the {self.axle} axle does not move {self.of_angle} by "
                f"{self.range_deg:g}° either way: choose another angle or another place, or give its range in mm."
            )
        return self.adjuster.model_copy(update={"min_mm": -round(low, 2), "max_mm": round(high, 2)})

    def summary(self) -> str:
        """Which, and its range."""
        a = self.adjuster
        told = (
            f"±{self.range_deg:g}° of {self.of_angle}"
            if self.range_deg
            else f"{signed(a.min_mm)} to {signed(a.max_mm)} mm"
        )
        return named(self.part, f"{a.name}, {told}")

    def parts(self, machine: Vehicle) -> list[str]:
        """The pair."""
        _ = machine
        return [f"2 × {self.summary()} ({self.axle})"]

    def opened(self, machine: Vehicle) -> frozenset[str]:
        """The bolt it takes the place of; a link that is screwed goes in whole, by both its ends."""
        if not isinstance(self.adjuster, LinkAdjuster):
            return frozenset({f"point:{self.adjuster.point}"})
        return parted(machine.axle(self.axle).linkage, self.adjuster.outer)

    def steps(self, machine: Vehicle) -> list[str]:
        """Set to its middle; the rack decides."""
        _ = machine
        return [f"{self.adjuster.name.capitalize()} in, set to its middle and only hand tight until it is on the rack."]


MOST_MM, TRIED = 60.0, 61
"""How far an adjuster is looked along, and in how many places."""


def _reached(axle: Axle, adjuster: WheelAdjuster, angle: AngleName, wanted: float, way: int) -> float | None:
    """How far an adjuster goes one way until an angle of the left wheel has changed by so much, mm; None where never.

    Args:
        wanted: degrees, positive.
        way: 1 or -1.
    """
    along = np.linspace(0.0, MOST_MM, TRIED)
    tried = adjuster_of(adjuster, axle.linkage).effect(way * along)
    motion = axle_corner(axle).sweep(np.zeros(1), adjusted=tried)
    value = getattr(motion, angle)
    if value is None:
        return None
    changed = np.abs(np.degrees(np.ravel(value) - np.ravel(value)[0]))
    past = np.flatnonzero((changed >= wanted) & np.ravel(motion.reachable))
    if not past.size:
        return None
    n = int(past[0])
    return float(np.interp(wanted, changed[n - 1 : n + 1], along[n - 1 : n + 1]))


def _unused(name: str, taken: set[str]) -> str:
    return next(n for n in (name, *(f"{name} {i}" for i in range(2, 20))) if n not in taken)
