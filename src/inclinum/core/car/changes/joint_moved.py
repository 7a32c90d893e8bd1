"""A ball joint or a mount on arm, upright or axle elsewhere: extended joint, offset eye, other hole."""

from typing import ClassVar, Literal, Self

from pydantic import Field

from inclinum.core.car.changes.base import Change
from inclinum.core.car.changes.bracket_moved import in_words
from inclinum.core.car.changes.geometry import moved, shift, titled
from inclinum.core.car.vehicle import Axle, Vehicle
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import AxleName, PartNumber
from inclinum.core.kinematics import point_name
from inclinum.core.kinematics.refit import moving_points
from inclinum.core.plan import named


class JointMoved(Change):
    """A joint or mount of the moving parts moved against the part that carries it, at both sides."""

    title: ClassVar[str] = "Ball joint or lower mount moved"
    place: ClassVar[str] = "Arms and subframe"
    known_as: ClassVar[tuple[str, ...]] = (
        "extended ball joint",
        "roll centre joint",
        "offset ball joint",
        "lower damper mount",
        "tie rod on a taper spacer",
    )
    costs: ClassVar[str] = "angles, roll centre and bump steer change with it"
    equation: ClassVar[str] = (
        "links keep their lengths: the linkage is solved with the point moved, wheel at its height"
    )
    source: ClassVar[str] = "constraints of rigid bodies, textbooks of multibody dynamics; solved by the product"

    type: Literal["joint_moved"] = "joint_moved"
    point: str = Field(max_length=60, title="Which", description="point of arm, upright or axle")
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
        """The first joint there is."""
        names = moving_points(axle.linkage)
        if not names:
            raise DomainError(f"The {name} axle has no joint or mount that could sit elsewhere on its moving parts.")
        return cls(axle=name, point=names[0], up_mm=-10)

    def choices(self, machine: Vehicle) -> dict[str, list[tuple[str, str]]]:
        """Points of the moving parts."""
        return {"point": titled(moving_points(machine.axle(self.axle).linkage))}

    def changed(self, axle: Axle) -> dict[str, object]:
        """The linkage, and the wheel's angles where its points now hold."""
        if self.point not in moving_points(axle.linkage):
            there = ", ".join(point_name(n) for n, _ in titled(moving_points(axle.linkage)))
            raise DomainError(f"{point_name(self.point)} is no joint of the {self.axle} axle's moving parts: {there}.")
        return moved(axle, {self.point: shift(self.forward_mm, self.out_mm, self.up_mm)})

    def summary(self) -> str:
        """Which, and where to."""
        return named(self.part, f"{point_name(self.point)}: {in_words(self.forward_mm, self.out_mm, self.up_mm)}")

    def parts(self, machine: Vehicle) -> list[str]:
        """The pair."""
        _ = machine
        return [f"2 joints or mounts, {self.summary()} ({self.axle})"]

    def steps(self, machine: Vehicle) -> list[str]:
        """Seats and tapers."""
        _ = machine
        return ["Taper clean and dry, joint home in its seat, new nut or pin; its boot is not twisted at both ends."]
