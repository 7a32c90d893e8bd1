"""A tender on a main coil with a divider: two rates, and the place where one gives way to the other."""

from typing import ClassVar, Literal

from inclinum.core.car.changes.crossover_ring import at_zero
from inclinum.core.car.changes.other_spring import OtherSpring
from inclinum.core.car.vehicle import Vehicle
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

    @property
    def told(self) -> str:
        """Where collar and ring are set."""
        return f"preload {millimetres(self.spring.preload_mm)} · ring {millimetres(self.spring.gap_mm)}"

    def steps(self, machine: Vehicle) -> list[str]:
        """Both of its settings, where they are read."""
        s = self.spring
        collar = (
            f"collar {millimetres(s.preload_mm)} up from where both coils just touch"
            if s.preload_mm >= 0
            else f"collar where the stack hangs {millimetres(-s.preload_mm)} loose"
        )
        return [
            *super().steps(machine),
            f"Damper {at_zero(s)}: {collar}, then the ring {millimetres(s.gap_mm)} from the divider, both sides alike. "
            "Lock both.",
        ]
