"""A progressive coil, told by its groups: soft coils lie down one after the other."""

from typing import ClassVar, Literal

from inclinum.core.car.changes.other_spring import OtherSpring
from inclinum.core.plan import millimetres, named
from inclinum.core.springs.fitted import ProgressiveCoilData


class ProgressiveSpring(OtherSpring):
    """Both springs of an axle replaced by progressive ones."""

    title: ClassVar[str] = "Progressive springs"
    known_as: ClassVar[tuple[str, ...]] = ("variable rate coil", "close wound coils")
    equation: ClassVar[str] = "1/k = Σ 1/kᵢ over the groups still open; each closes at its own travel"
    source: ClassVar[str] = "springs in series; torsion of a round wire for each group, EN 13906-1"
    kind: ClassVar[str] = "progressive_coil"

    type: Literal["progressive_spring"] = "progressive_spring"
    spring: ProgressiveCoilData

    def summary(self) -> str:
        """Wire, groups and free length."""
        groups = " + ".join(f"{g.active_coils:g}" for g in self.spring.groups)
        text = f"wire {self.spring.wire_mm:g} mm, {groups} coils, free {millimetres(self.spring.free_length_mm)}"
        return named(self.spring.part, text)
