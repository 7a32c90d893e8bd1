"""The ring that a stack's divider meets: it decides where the rate steps, and nothing of the height before that."""

from typing import ClassVar, Literal, Self

from pydantic import Field

from inclinum.core.car.changes.base import Change
from inclinum.core.car.vehicle import Axle, Vehicle
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import AxleName
from inclinum.core.plan import millimetres
from inclinum.core.springs.fitted import StackData

APART = (-10.0, -5.0, 0.0, 5.0, 10.0)
"""Places of the ring, mm from what is set, that are shown side by side."""


class CrossoverRing(Change):
    """Rings of tender and main springs set elsewhere on the body, both sides."""

    title: ClassVar[str] = "Ring of a stack"
    drawn_at: ClassVar[tuple[str, ...]] = ("spring_on_unit", "spring_seat", "damper_foot")
    opens: ClassVar[frozenset[str]] = frozenset({"hanging"})
    place: ClassVar[str] = "Coil-over and collar"
    known_as: ClassVar[tuple[str, ...]] = ("crossover ring", "stop ring", "dual rate setting", "divider gap")
    costs: ClassVar[str] = "nearer: stiff earlier; further: the tender comes nearer to solid"
    offered: ClassVar[bool] = False
    provides: ClassVar[str] = "ring"
    looked_at_as: ClassVar[str] = "spring"
    equation: ClassVar[str] = "the rate steps after gap · k/k(series) of spring travel, k of the coil at the collar"
    source: ClassVar[str] = "derived here: of each mm the divider moves the share of the coil at the collar"

    type: Literal["crossover_ring"] = "crossover_ring"
    gap_mm: float = Field(
        ge=0, le=600, title="Divider to ring", description="at the stack's zero, with the preload on",
        json_schema_extra={"unit": "mm", "step": 1, "slider": [0, 80]},
    )  # fmt: skip

    @classmethod
    def start(cls, name: AxleName, axle: Axle) -> Self:
        """Where it is."""
        return cls(axle=name, gap_mm=round(_stack_of(name, axle).gap_mm, 1))

    def changed(self, axle: Axle) -> dict[str, object]:
        """The gap of the stack. Raises DomainError where there is no stack."""
        return {"spring": _stack_of(self.axle, axle).model_copy(update={"gap_mm": self.gap_mm})}

    def summary(self) -> str:
        """The gap."""
        return f"{millimetres(self.gap_mm)} from the divider"

    @property
    def size(self) -> float:
        """mm."""
        return self.gap_mm

    def sized(self) -> str:
        """By the gap."""
        return f"rings {millimetres(self.gap_mm)} from the divider"

    def at(self, value: float) -> Self:
        """Elsewhere, mm from the divider."""
        return self.model_copy(update={"gap_mm": value})

    def settings(self) -> tuple[Self, ...]:
        """A little nearer and a little further."""
        return tuple(self.at(self.gap_mm + by) for by in APART if self.gap_mm + by >= 0)

    @property
    def setting(self) -> str:
        """The gap."""
        return millimetres(round(self.gap_mm, 1))

    @property
    def told(self) -> str:
        """The gap."""
        return f"ring {millimetres(round(self.gap_mm, 1))}"

    def steps(self, machine: Vehicle) -> list[str]:
        """After the collar, at the stack's own zero."""
        zero = at_zero(_stack_of(self.axle, machine.axle(self.axle)))
        return [
            f"Collar first, then the ring: damper {zero}, ring {millimetres(round(self.gap_mm, 1))} from the divider, "
            "both sides alike. Lock it."
        ]


def at_zero(stack: StackData) -> str:
    """How the damper stands where preload and gap of a stack are read."""
    if stack.hidden_mm:
        return f"only hanging, {millimetres(stack.hidden_mm)} short of what it can be forced out to"
    return "forced right out against its negative spring"


def _stack_of(name: AxleName, axle: Axle) -> StackData:
    if not isinstance(axle.spring, StackData):
        raise DomainError(
            f"The {name} axle has no tender and main springs with a ring: it is sprung by {axle.spring.in_a_sentence}."
        )
    return axle.spring
