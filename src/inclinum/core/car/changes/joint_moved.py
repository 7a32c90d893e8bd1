"""A ball joint or a mount on arm, upright or axle elsewhere: extended joint, offset eye, other hole."""

from typing import ClassVar, Literal

from inclinum.core.car.changes.point_moved import PointMoved
from inclinum.core.car.vehicle import Vehicle
from inclinum.core.kinematics import pair_name
from inclinum.core.kinematics.kinds import Linkage
from inclinum.core.kinematics.refit import moving_points


class JointMoved(PointMoved):
    """A joint or mount of the moving parts moved against the part that carries it, at both sides."""

    title: ClassVar[str] = "Ball joint or lower mount moved"
    known_as: ClassVar[tuple[str, ...]] = (
        "extended ball joint", "roll centre joint", "offset ball joint", "lower damper mount", "tie rod taper spacer",
    )  # fmt: skip
    costs: ClassVar[str] = "angles, roll centre and bump steer change with it"
    part_is: ClassVar[str] = "joint or mount"

    type: Literal["joint_moved"] = "joint_moved"

    @classmethod
    def among(cls, linkage: Linkage) -> tuple[str, ...]:
        """Points of the moving parts."""
        return moving_points(linkage)

    def steps(self, machine: Vehicle) -> list[str]:
        """Seats and tapers."""
        _ = machine
        return [
            f"{pair_name(self.point).capitalize()} {self.way}: taper clean and dry, joint home in its seat, new nut or "
            "pin; its boot is not twisted at both ends."
        ]
