"""A bracket, bush or mount of the frame elsewhere: dropped, offset, or on another hole."""

from typing import ClassVar, Literal, Self

from pydantic import Field

from inclinum.core.car.changes.point_moved import PointMoved
from inclinum.core.car.vehicle import Vehicle
from inclinum.core.card.fabrication import Routine, routine
from inclinum.core.kinematics import pair_name
from inclinum.core.kinematics.kinds import Linkage
from inclinum.core.kinematics.refit import frame_points


class BracketMoved(PointMoved):
    """A mount on the frame moved, at both sides."""

    title: ClassVar[str] = "Bracket, bush or mount moved"
    known_as: ClassVar[tuple[str, ...]] = (
        "drop bracket", "offset bush", "damper mount", "caster bush", "camber plate", "top mount moved", "arm pivot",
        "lateral rod bracket",
    )  # fmt: skip
    costs: ClassVar[str] = "angles and ratios change with it; brackets on a frame are a welder's or a maker's work"
    part_is: ClassVar[str] = "bracket or bush"

    provides: ClassVar[str] = "bracket"
    offered: ClassVar[bool] = False

    on_brackets: ClassVar[bool] = True

    type: Literal["bracket_moved"] = "bracket_moved"
    how: Literal["bolted_on", "cut_and_welded"] = Field(
        default="bolted_on", title="Fixed how", description="bolted or pressed in, or cut and welded to the frame"
    )

    def fabrication(self) -> Routine:
        """As it is said."""
        return routine(self.how, f"{self.axle.capitalize()} {pair_name(self.point)}")

    @classmethod
    def among(cls, linkage: Linkage) -> tuple[str, ...]:
        """Points of the frame."""
        return frame_points(linkage)

    def at(self, value: tuple[str, float]) -> Self:
        """Which point, and how much higher, mm."""
        return self.model_copy(update={"point": value[0], "up_mm": value[1]})

    def steps(self, machine: Vehicle) -> list[str]:
        """Which way it faces."""
        mirrored = "" if self.across(machine) else ", both sides as mirror images"
        return [
            f"{pair_name(self.point).capitalize()} moved {self.way}{mirrored}: mark which way an offset bush faces "
            "before it is pressed.",
        ]
