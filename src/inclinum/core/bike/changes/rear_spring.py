"""Another rear spring: rate, length, stroke, inner diameter, and the seat washer that goes with it."""

from typing import Any, ClassVar, Literal, Self

from pydantic import Field

from inclinum.core.bike.changes.base import BikeChange
from inclinum.core.bike.changes.rear_preload import HOOK_SPANNER, collar_figure, collar_step, zero_of
from inclinum.core.bike.machine import Bike, RearSpring
from inclinum.core.card.order import Order, laid
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import Side
from inclinum.core.plan import named

LOOSEST_MM = -20.0
"""A spring looser than this falls out of its seat: no collar is meant to stand so."""


class RearSpringSwap(BikeChange):
    """The spring of the damper, or of both, replaced."""

    title: ClassVar[str] = "Rear spring"
    place: ClassVar[str] = "Rear"
    known_as: ClassVar[tuple[str, ...]] = ("shock spring", "stiffer spring")
    costs: ClassVar[str] = "another rate; the collar is set anew"
    equation: ClassVar[str] = "k·(preload + x) = F/MR per damper, collar zero moved by the lengths"
    source: ClassVar[str] = "Hooke's law; virtual work for the installation ratio"
    end: ClassVar = "rear"
    provides: ClassVar[str] = "rear spring"
    also_meets: ClassVar[frozenset[str]] = frozenset({"rear preload"})
    removes: ClassVar[tuple[str, ...]] = ("rear spring",)
    opens: ClassVar[frozenset[str]] = frozenset({"damper", "spring"})
    deep: ClassVar[int] = 1
    tools: ClassVar[tuple[str, ...]] = (HOOK_SPANNER,)
    sets_collar: ClassVar[bool] = True

    type: Literal["rear_spring"] = "rear_spring"
    spring: RearSpring
    preload_mm: float | None = Field(
        default=None, ge=0, le=100, title="Preload", description="counted from zero; left empty, as it keeps",
        json_schema_extra={"unit": "mm"},
    )  # fmt: skip
    keeps: Literal["preload", "thread"] = Field(
        default="preload", title="Left empty, keeps", description="the preload as before, or the collar on its thread"
    )

    @classmethod
    def start(cls, bike: Bike) -> Self:
        """The fitted spring itself: nothing changes until its numbers do."""
        return cls(spring=bike.spring.model_copy(update={"part": ""}))

    def apply(self, machine: Bike) -> Bike:
        """Spring and, where stated, its preload; a longer one with its washer finds zero further back on the thread."""
        was, now, damper = machine.spring, self.spring, machine.damper
        longer = now.free_length_mm + now.seat_washer_mm - was.free_length_mm - was.seat_washer_mm
        # With the collar where it was a longer spring is pressed by what it is longer.
        kept = machine.preload_mm + (longer if self.keeps == "thread" else 0.0)
        preload = kept if self.preload_mm is None else self.preload_mm
        if preload < LOOSEST_MM:
            raise DomainError(
                f"With the collar on its thread this spring is {-preload:.0f} mm loose when the wheel hangs: set "
                "a preload."
            )
        if damper.threads_at_zero_mm is not None:
            damper = damper.model_copy(update={"threads_at_zero_mm": damper.threads_at_zero_mm - longer})
        return machine.model_copy(update={"spring": self.spring, "preload_mm": preload, "damper": damper})

    def at(self, value: tuple[RearSpring, float]) -> Self:
        """Another spring, set to a preload, mm."""
        return type(self)(spring=value[0], preload_mm=value[1])

    def met(self, need: str, value: Any) -> Self:
        """Another spring with its preload, or this one on another preload."""
        return self.model_copy(update={"preload_mm": value}) if need == "rear preload" else self.at(value)

    def figure(self, bike: Bike) -> str | None:
        """The collar."""
        return collar_figure(self.apply(bike))

    def summary(self) -> str:
        """Rate, length and washer."""
        s = self.spring
        washer = f", {s.seat_washer_mm:g} mm washer" if s.seat_washer_mm else ""
        return named(s.part, f"{s.rate_n_per_mm:g} N/mm, free {s.free_length_mm:g} mm, stroke {s.stroke_mm:g}{washer}")

    def parts(self, machine: Bike) -> list[str]:
        """One a damper, with its washer."""
        return [f"{machine.damper.count} rear spring{'s' if machine.damper.count > 1 else ''}, {self.summary()}"]

    def order(self, machine: Bike, side: Side | None) -> Order | None:
        """Washer between collar and coil."""
        _ = machine, side
        if not self.spring.seat_washer_mm:
            return None
        washer = ("seat washer", self.spring.seat_washer_mm)
        return laid("collar", washer, "spring", "seat and clip", new="seat washer", step=1, begins="from the collar")

    def steps(self, machine: Bike) -> list[str]:
        """Compare, seat, and the collar where the plan has it after this spring."""
        after = self.apply(machine)
        return [
            f"New spring beside the old one, {self.summary()}: check rate, free length and inner diameter.",
            f"Seat the spring with its own washer, collar down until it touches: {zero_of(after)}.",
            collar_step(after),
        ]
