"""One wheel's adjusters solved together at a planned travel."""

from typing import Annotated, Any, Literal

import numpy as np
from pydantic import Field, model_validator

from inclinum.core.document import Document
from inclinum.core.document.errors import DomainError
from inclinum.core.kinematics.adjusting import AlignmentProblem, LinkLength, Slot
from inclinum.core.kinematics.points import PointName
from inclinum.core.part_sheets.axle import AxleSheet, given_at_right
from inclinum.core.part_sheets.base import Answer, Sheet

QuantityKey = Literal["camber_deg", "toe_deg", "caster_deg"]
Direction = tuple[float, float, float]


class EccentricBolt(Document):
    """A pivot that moves e·sin(value) along its slot; value in degrees."""

    type: Literal["eccentric_bolt"] = "eccentric_bolt"
    name: str = Field(min_length=1, max_length=60)
    point: str = Field(max_length=60)
    eccentricity_mm: float = Field(gt=0, le=40)
    slot_direction: Direction
    min: float = Field(default=-90, ge=-90, le=0)
    max: float = Field(default=90, ge=0, le=90)
    unit: Literal["deg"] = "deg"

    def adjuster(self) -> Slot:
        """Solved in e·sin φ: the slope in φ itself vanishes at the stops."""
        low, high = (self.eccentricity_mm * float(np.sin(np.radians(v))) for v in (self.min, self.max))
        return Slot(self.name, self.point, self.slot_direction, low, high)

    def value(self, moved: float) -> float:
        """Setting that moves the pivot so far, degrees."""
        return float(np.degrees(np.arcsin(np.clip(moved / self.eccentricity_mm, -1, 1))))


class SlotBolt(Document):
    """A point that slides along a slot; value in mm."""

    type: Literal["slot"] = "slot"
    name: str = Field(min_length=1, max_length=60)
    point: str = Field(max_length=60)
    slot_direction: Direction
    min: float = Field(ge=-100, le=0)
    max: float = Field(ge=0, le=100)
    unit: Literal["mm"] = "mm"

    def adjuster(self) -> Slot:
        """As the solve uses it."""
        return Slot(self.name, self.point, self.slot_direction, self.min, self.max)

    def value(self, moved: float) -> float:
        """The move itself."""
        return moved


class LengthChange(Document):
    """A link made longer or shorter; value in mm."""

    type: Literal["link_length"] = "link_length"
    name: str = Field(min_length=1, max_length=60)
    link: tuple[PointName, PointName] = Field(description="chassis-side and wheel-side point")
    min: float = Field(ge=-100, le=0)
    max: float = Field(ge=0, le=100)
    unit: Literal["mm"] = "mm"

    def adjuster(self) -> LinkLength:
        """As the solve uses it: this one link, also where others end in the same joint."""
        return LinkLength(self.name, f"{self.link[0]} to {self.link[1]}", self.min, self.max)

    def value(self, moved: float) -> float:
        """The change itself."""
        return moved


AnyAdjuster = Annotated[EccentricBolt | SlotBolt | LengthChange, Field(discriminator="type")]


class AlignmentSheet(Sheet):
    """Bounded least squares on the corner, body level.

    Source: weighted bounded least squares on the solved corner, W·(targets − angles(settings)), by
    ``kinematics.adjusting``; angles as ISO 8855. Valid where the linkage has a pose.
    """

    kind: Literal["alignment"] = "alignment"
    corner: AxleSheet
    planned_travel_mm: float = Field(default=0, ge=-300, le=300)
    adjusters: tuple[AnyAdjuster, ...] = Field(min_length=1, max_length=12)
    targets: dict[QuantityKey, float] = Field(min_length=1, max_length=6)
    weights: dict[QuantityKey, float] = Field(default={}, max_length=6)

    @model_validator(mode="before")
    @classmethod
    def _slots_as_left(cls, data: Any) -> Any:
        try:
            if not given_at_right(data["corner"]):
                return data
            adjusters = []
            for adjuster in data["adjusters"]:
                if "slot_direction" in adjuster:
                    x, y, z = adjuster["slot_direction"]
                    adjuster = adjuster | {"slot_direction": [x, -y, z]}
                adjusters.append(adjuster)
        except (AttributeError, KeyError, TypeError, IndexError, ValueError):
            return data  # what is wrong with it is told by the fields themselves
        return data | {"adjusters": adjusters}

    @model_validator(mode="after")
    def _parts_belong(self) -> "AlignmentSheet":
        points, corner = self.corner.linkage.named_points(), self.corner.corner()
        for a in self.adjusters:
            for name in a.link if isinstance(a, LengthChange) else (a.point,):
                if name not in points:
                    raise DomainError(f"the adjuster “{a.name}” moves {name}, which this suspension does not have")
            if not isinstance(a, LengthChange) and not np.linalg.norm(a.slot_direction):
                raise DomainError(f"the slot of “{a.name}” has no direction")
        if "caster_deg" in self.targets and corner.steering_axis is None:
            raise DomainError("a caster target needs a steering axis, or a declared reference_line")
        return self

    def answer(self) -> Answer:
        """Settings, what they achieve, what remains, and which adjuster is at its stop."""

        def bare(angles: dict[QuantityKey, float]) -> dict:
            return {k.removesuffix("_deg"): v for k, v in angles.items()}

        problem = AlignmentProblem(
            self.corner.corner(),
            self.planned_travel_mm,
            [a.adjuster() for a in self.adjusters],
            {k: float(np.radians(v)) for k, v in bare(self.targets).items()},
            bare(self.weights),
        )
        solution = problem.solve()

        def degrees(angles: dict) -> dict[str, float]:
            return {f"{q}_deg": float(np.degrees(v)) for q, v in angles.items()}

        before, achieved = degrees(solution.before), degrees(solution.achieved)
        neutral = problem.corner.sweep(self.planned_travel_mm).kingpin_inclination
        if solution.kingpin_inclination is not None and neutral is not None:
            before["kingpin_inclination_deg"] = float(np.degrees(neutral[0]))
            achieved["kingpin_inclination_deg"] = float(np.degrees(solution.kingpin_inclination))
        return {
            "adjusters": {a.name: a.value(solution.values[a.name]) for a in self.adjusters},
            "moves_mm": solution.values,
            "achieved": achieved,
            "before": before,
            "remaining": degrees(solution.remaining),
            "at_stop": solution.at_stop,
            "weighted_cost": solution.weighted_cost,
        }
