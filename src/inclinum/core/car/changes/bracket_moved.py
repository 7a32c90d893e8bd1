"""A bracket, bush or mount of the frame elsewhere: dropped, offset, or on another hole."""

from typing import ClassVar, Literal, Self

from pydantic import Field

from inclinum.core.car.changes.base import Change
from inclinum.core.car.changes.geometry import moved, shift, titled
from inclinum.core.car.vehicle import Axle, Vehicle
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import AxleName, PartNumber
from inclinum.core.kinematics import point_name
from inclinum.core.kinematics.refit import frame_points
from inclinum.core.plan import millimetres, named


class BracketMoved(Change):
    """A mount on the frame moved, at both sides."""

    title: ClassVar[str] = "Bracket, bush or mount moved"
    place: ClassVar[str] = "Arms and subframe"
    known_as: ClassVar[tuple[str, ...]] = (
        "drop bracket",
        "offset bush",
        "damper mount",
        "caster bush",
        "camber plate",
        "top mount moved",
        "arm pivot",
        "lateral rod bracket",
    )
    costs: ClassVar[str] = "angles and ratios change with it; brackets on a frame are a welder's or a maker's work"
    equation: ClassVar[str] = (
        "links keep their lengths: the linkage is solved with the point moved, wheel at its height"
    )
    source: ClassVar[str] = "constraints of rigid bodies, textbooks of multibody dynamics; solved by the product"

    type: Literal["bracket_moved"] = "bracket_moved"
    point: str = Field(max_length=60, title="Which", description="point of the frame")
    forward_mm: float = Field(default=0, ge=-150, le=150, title="Forward", json_schema_extra={"unit": "mm", "step": 1})
    out_mm: float = Field(default=0, ge=-150, le=150, title="Outward", json_schema_extra={"unit": "mm", "step": 1})
    up_mm: float = Field(
        default=0,
        ge=-200,
        le=200,
        title="Up",
        description="negative for a bracket that reaches down",
        json_schema_extra={"unit": "mm", "step": 1, "slider": [-100, 60]},
    )
    part: PartNumber = ""

    @classmethod
    def start(cls, name: AxleName, axle: Axle) -> Self:
        """The first mount there is, nothing moved yet."""
        _ = name
        return cls(axle=name, point=frame_points(axle.linkage)[0], up_mm=-10)

    def choices(self, machine: Vehicle) -> dict[str, list[tuple[str, str]]]:
        """Points of the frame."""
        return {"point": titled(frame_points(machine.axle(self.axle).linkage))}

    def changed(self, axle: Axle) -> dict[str, object]:
        """The linkage, and the wheel's angles where its points now hold."""
        if self.point not in frame_points(axle.linkage):
            there = ", ".join(point_name(n) for n, _ in titled(frame_points(axle.linkage)))
            raise DomainError(f"{point_name(self.point)} is no mount on the frame of the {self.axle} axle: {there}.")
        return moved(axle, {self.point: shift(self.forward_mm, self.out_mm, self.up_mm)})

    def summary(self) -> str:
        """Which, and where to."""
        return named(self.part, f"{point_name(self.point)}: {in_words(self.forward_mm, self.out_mm, self.up_mm)}")

    def parts(self, machine: Vehicle) -> list[str]:
        """The pair."""
        _ = machine
        return [f"2 brackets or bushes, {self.summary()} ({self.axle})"]

    def steps(self, machine: Vehicle) -> list[str]:
        """Which way it faces."""
        _ = machine
        return [
            f"{point_name(self.point).capitalize()} moved {in_words(self.forward_mm, self.out_mm, self.up_mm)} against "
            "where it was, both sides as mirror images: mark which way an offset bush faces before it is pressed.",
        ]


def in_words(forward: float, out: float, up: float) -> str:
    """A displacement in words."""
    words = [
        f"{millimetres(abs(v))} {more if v > 0 else less}"
        for v, more, less in ((forward, "forward", "back"), (out, "out", "in"), (up, "up", "down"))
        if v
    ]
    return ", ".join(words) or "as it was"
