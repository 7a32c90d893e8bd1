"""A tender on a main coil with a divider: two rates, and the place where one gives way to the other."""

from typing import ClassVar, Literal

from inclinum.core.car.changes.other_spring import OtherSpring
from inclinum.core.plan import millimetres, named
from inclinum.core.springs.fitted import StackData


class DualRateSprings(OtherSpring):
    """Both springs of an axle replaced by stacks of two."""

    title: ClassVar[str] = "Tender and main springs"
    known_as: ClassVar[tuple[str, ...]] = ("dual rate", "helper and main", "triple rate", "divider and stop ring")
    costs: ClassVar[str] = "soft first, stiff after the divider meets its ring; two coils can bind"
    equation: ClassVar[str] = "1/k = 1/k₁ + 1/k₂ until the divider meets its ring, then k₁ alone"
    source: ClassVar[str] = "derived here: springs in series carry one force"
    kind: ClassVar[str] = "dual_rate_stack"

    type: Literal["dual_rate_springs"] = "dual_rate_springs"
    spring: StackData

    def summary(self) -> str:
        """Rates, preload and the way to the ring."""
        s = self.spring
        return named(
            s.part,
            f"{s.tender.rate_n_per_mm:g} on {s.main.rate_n_per_mm:g} N/mm, preload {millimetres(s.preload_mm)}, "
            f"ring after {millimetres(s.gap_mm)}",
        )
