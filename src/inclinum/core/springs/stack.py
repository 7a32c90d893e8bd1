"""Two coils in one stack on a coil-over: soft in series first, then one alone."""

from dataclasses import dataclass, replace
from typing import Literal

from inclinum.core.springs.progressive import SOLID_RATE
from inclinum.core.springs.spring import PiecewiseSpring


@dataclass(frozen=True)
class StackSpring:
    """One coil of the stack: N/mm and mm."""

    rate: float
    free_length: float
    solid_length: float

    @property
    def room(self) -> float:
        """Shortening until solid, mm."""
        return self.free_length - self.solid_length


@dataclass(frozen=True)
class DualRateStack:
    """Collar, one spring, a divider sliding on the damper body, the other spring, far seat.

    A crossover stop is fixed to the damper body on the collar side of the divider. Both springs work in series until
    the divider meets the stop, or one of them is solid; then the other works alone.

    Args:
        tender, main: the springs.
        preload: shortening of the whole stack at full extension of the damper, mm.
        gap: from divider to stop at full extension with that preload, mm.
        order: which spring sits at the collar. With the tender at the far end the shares of the two swap, and the
            stop then holds the main spring.
    """

    tender: StackSpring
    main: StackSpring
    preload: float
    gap: float
    order: Literal["tender_at_collar", "tender_at_far_end"] = "tender_at_collar"

    @property
    def series_rate(self) -> float:
        """k₁·k₂/(k₁ + k₂), N/mm."""
        return self.tender.rate * self.main.rate / (self.tender.rate + self.main.rate)

    @property
    def collar_side(self) -> StackSpring:
        """The spring between collar and divider."""
        return self.tender if self.order == "tender_at_collar" else self.main

    @property
    def far_side(self) -> StackSpring:
        """The spring between divider and far seat."""
        return self.main if self.order == "tender_at_collar" else self.tender

    def share(self, spring: StackSpring) -> float:
        """Part of each mm of spring travel that one spring takes while both work."""
        return self.series_rate / spring.rate

    @property
    def crossover(self) -> tuple[float, Literal["stop", "tender solid", "main solid"]]:
        """Spring travel from full extension at which one works alone, mm, and what brings it about."""
        by_stop = self.gap / self.share(self.collar_side)
        solids = {
            "tender solid": self.tender.room / self.share(self.tender) - self.preload,
            "main solid": self.main.room / self.share(self.main) - self.preload,
        }
        first = min(solids, key=lambda name: solids[name])
        return (by_stop, "stop") if by_stop <= solids[first] else (solids[first], first)  # type: ignore[return-value]

    @property
    def alone(self) -> StackSpring:
        """The spring that works beyond the crossover."""
        match self.crossover[1]:
            case "stop":
                return self.far_side
            case "tender solid":
                return self.main
            case _:
                return self.tender

    def with_preload(self, more: float) -> "DualRateStack":
        """More shortening by the collar; the stop stays on the body, so the divider moves away from it.

        It moves by ΔP times the share of the spring at the far side.
        """
        return replace(self, preload=self.preload + more, gap=self.gap + more * self.share(self.far_side))

    def force_at(self, travel: float) -> float:
        """Force on the far seat at a spring travel from full extension, N."""
        at = min(travel, self.crossover[0])
        return max(0.0, self.series_rate * (self.preload + at)) + self.alone.rate * max(0.0, travel - at)

    def left_in(self, spring: StackSpring, travel: float) -> float:
        """Shortening one spring has left at a spring travel, mm."""
        at = min(travel, self.crossover[0])
        used = self.share(spring) * (self.preload + at)
        return spring.room - used - (travel - at if spring is self.alone else 0.0)

    def spring(self, length_at_full_extension: float) -> PiecewiseSpring:
        """As the ride layer uses it.

        Args:
            length_at_full_extension: of the whole stack between its seats, mm.
        """
        cross, _ = self.crossover
        forces = [0.0, self.force_at(cross)]
        corners = [0.0, self.preload + cross]
        last = self.left_in(self.alone, cross)
        corners.append(corners[-1] + max(last, 1e-6))
        forces.append(forces[-1] + self.alone.rate * max(last, 1e-6))
        free = length_at_full_extension + self.preload
        return PiecewiseSpring(free, tuple(corners), tuple(forces), SOLID_RATE, free - corners[-1])
