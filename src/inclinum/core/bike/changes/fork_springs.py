"""Other springs in the fork, both legs."""

from typing import Any, ClassVar, Literal, Self

from pydantic import Field

from inclinum.core.bike.changes.base import BikeChange
from inclinum.core.bike.machine import Bike
from inclinum.core.document.errors import DomainError
from inclinum.core.plan import named
from inclinum.core.springs.fork import CoilForkSprings, LegSpring

"""What opening a fork leg needs."""


def coils_of(bike: Bike) -> CoilForkSprings:
    """The coil springs of the fork.

    Raises:
        ValueError: it stands on air.
    """
    if not isinstance(bike.fork.springs, CoilForkSprings):
        raise DomainError("This fork stands on air: it has no coil or spacer to change.")
    return bike.fork.springs


def with_springs(bike: Bike, **fields: object) -> Bike:
    """The machine with some fields of its fork springs replaced."""
    springs = coils_of(bike).model_copy(update=fields)
    return bike.model_copy(update={"fork": bike.fork.model_copy(update={"springs": springs})})


class ForkSprings(BikeChange):
    """Both fork springs replaced; with the spacer as cut unless stated."""

    title: ClassVar[str] = "Fork springs"
    place: ClassVar[str] = "Fork"
    known_as: ClassVar[tuple[str, ...]] = ("springs of the fork", "progressive fork springs")
    costs: ClassVar[str] = "another rate; spacers are cut anew"
    equation: ClassVar[str] = "k·(preload + x) + air = load·cos(rake)/legs"
    source: ClassVar[str] = "Hooke's law in each leg; load along the legs"
    end: ClassVar = "front"
    provides: ClassVar[str] = "fork springs"
    also_meets: ClassVar[frozenset[str]] = frozenset({"fork spacer"})
    removes: ClassVar[tuple[str, ...]] = ("fork springs",)
    opens: ClassVar[frozenset[str]] = frozenset({"inside the fork"})
    deep: ClassVar[int] = 1

    type: Literal["fork_springs"] = "fork_springs"
    spring: LegSpring
    spacer_mm: float | None = Field(
        default=None, ge=0, le=500, title="Spacer", description="cut so that the preload stays when left empty"
    )

    @classmethod
    def start(cls, bike: Bike) -> Self:
        """The fitted ones."""
        return cls(spring=coils_of(bike).left.model_copy(update={"part": ""}))

    def apply(self, machine: Bike) -> Bike:
        """Springs of both legs, and the spacer that keeps the preload or is stated."""
        was = coils_of(machine)
        kept = (was.preload() or 0.0) + was.available_mm - self.spring.free_length_mm
        spacer = max(kept, 0.0) if self.spacer_mm is None else self.spacer_mm
        return with_springs(machine, left=self.spring, right=None, spacer_mm=spacer, right_spacer_mm=None)

    def met(self, need: str, value: Any) -> Self:
        """With its spacer cut otherwise."""
        return self.model_copy(update={"spacer_mm": value}) if need == "fork spacer" else self.at(value)

    def figure(self, bike: Bike) -> str | None:
        """The spacer it goes in with."""
        return f"spacer {coils_of(self.apply(bike)).spacer_mm:g} mm"

    def summary(self) -> str:
        """Rate and length of a leg."""
        s = self.spring
        return named(s.part, f"{s.rate_n_per_mm:g} N/mm a leg, free {s.free_length_mm:g} mm")

    def parts(self, machine: Bike) -> list[str]:
        """A pair, or one."""
        legs = coils_of(machine).legs
        return [f"{legs} fork spring{'s' if legs > 1 else ''}, {self.summary()}"]

    def steps(self, machine: Bike) -> list[str]:
        """Which way up, cut spacer."""
        after = coils_of(self.apply(machine))
        way = ""
        if self.spring.soft_closes_mm:
            end = "up" if self.spring.coils_up else "down"
            way = f" Close-wound coils {end}, both legs alike: the force is the same either way."
        return [
            f"New fork springs in, spacers cut to {after.spacer_mm:g} mm (preload + room − spring: "
            f"{after.preload() or 0:.1f} mm of preload remains).{way}"
        ]
