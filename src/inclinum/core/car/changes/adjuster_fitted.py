"""An adjuster that the axle did not come with: eccentric bolt, camber bolt, adjustable link, shims."""

from typing import ClassVar, Literal, Self

from inclinum.core.car.changes.base import Change
from inclinum.core.car.changes.geometry import titled
from inclinum.core.car.vehicle import AdjusterData, Axle, LinkAdjuster, SlotAdjuster, Vehicle
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import AxleName, PartNumber
from inclinum.core.kinematics.refit import frame_points, links, moving_points
from inclinum.core.plan import named


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
    equation: ClassVar[str] = "the alignment is solved with its range and steps beside those that are there"
    source: ClassVar[str] = "bounded least squares on the solved linkage"

    type: Literal["adjuster_fitted"] = "adjuster_fitted"
    adjuster: AdjusterData
    part: PartNumber = ""

    @classmethod
    def start(cls, name: AxleName, axle: Axle) -> Self:
        """A screwed link where there is one that has no adjuster yet, else an eccentric at the first pivot."""
        have = {a.name for a in axle.adjusters}
        taken = {a.outer for a in axle.adjusters if isinstance(a, LinkAdjuster)}
        free = [n for n in links(axle.linkage) if n not in taken]
        if axle.linkage.coupled:
            raise DomainError(
                f"The wheels of the {name} axle are set by the axle itself: change its links, wedges or track rod."
            )
        found: AdjusterData
        if free:
            found = LinkAdjuster(
                name=_unused("adjustable link", have), outer=free[0], min_mm=-10, max_mm=10, thread_pitch_mm=1.5
            )
        else:
            found = SlotAdjuster(
                name=_unused("eccentric bolt", have), point=frame_points(axle.linkage)[0], direction=(0, 1, 0),
                min_mm=-6, max_mm=6, step_mm=0.5,
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
                f"The wheels of the {self.axle} axle are set by the axle itself: change its links, wedges or track rod."
            )
        if self.adjuster.name in {a.name for a in axle.adjusters}:
            raise DomainError(
                f"The {self.axle} axle has an adjuster “{self.adjuster.name}” already: name this one otherwise."
            )
        at = self.adjuster.outer if isinstance(self.adjuster, LinkAdjuster) else self.adjuster.point
        if at not in axle.linkage.named_points():
            raise DomainError(f"The {self.axle} axle has no {at} for the adjuster “{self.adjuster.name}” to act on.")
        return {"adjusters": (*axle.adjusters, self.adjuster)}

    def summary(self) -> str:
        """Which, and its range."""
        a = self.adjuster
        return named(self.part, f"{a.name}, {a.min_mm:+g} to {a.max_mm:+g} mm")

    def parts(self, machine: Vehicle) -> list[str]:
        """The pair."""
        _ = machine
        return [f"2 × {self.summary()} ({self.axle})"]

    def steps(self, machine: Vehicle) -> list[str]:
        """Set to its middle; the rack decides."""
        _ = machine
        return [f"{self.adjuster.name.capitalize()} in, set to its middle and only hand tight until it is on the rack."]


def _unused(name: str, taken: set[str]) -> str:
    return next(n for n in (name, *(f"{name} {i}" for i in range(2, 20))) if n not in taken)
