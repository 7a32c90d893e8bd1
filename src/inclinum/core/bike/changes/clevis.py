"""A clevis or eye screwed out on the damper rod, as far as its thread allows."""

from typing import ClassVar, Literal, Self

from pydantic import Field

from inclinum.core.bike.changes.base import BikeChange
from inclinum.core.bike.machine import Bike
from inclinum.core.document.errors import DomainError
from inclinum.core.plan import Search


class ClevisOut(BikeChange):
    """The damper made longer at its clevis; the lock nut follows."""

    title: ClassVar[str] = "Clevis"
    place: ClassVar[str] = "Rear"
    known_as: ClassVar[tuple[str, ...]] = ("longer clevis", "ride height clevis")
    costs: ClassVar[str] = "turns what is left of its thread"
    equation: ClassVar[str] = "eye to eye grows by what is screwed out; the axle drops by that over the ratio"
    source: ClassVar[str] = "derived here: a sum of lengths, then the linkage's own curve"
    end: ClassVar = "rear"
    provides: ClassVar[str] = "clevis"
    opens: ClassVar[frozenset[str]] = frozenset({"damper eyes"})

    type: Literal["clevis"] = "clevis"
    out_mm: float = Field(ge=0, le=60, title="Screwed out by", json_schema_extra={"step": 0.5, "slider": [0, 20]})

    @classmethod
    def start(cls, bike: Bike) -> Self:
        """As it is."""
        if bike.damper.clevis is None:
            raise DomainError("This damper has no clevis on a thread.")
        return cls(out_mm=bike.damper.clevis.screwed_out_mm)

    def apply(self, machine: Bike) -> Bike:
        """Longer by how much further it is out than it was; as much less thread is left in it."""
        clevis = machine.damper.clevis
        if clevis is None:
            raise DomainError("This damper has no clevis on a thread.")
        longer = self.out_mm - clevis.screwed_out_mm
        damper = machine.damper.model_copy(
            update={
                "extended_mm": machine.damper.extended_mm + longer,
                "clevis": clevis.model_copy(
                    update={"screwed_out_mm": self.out_mm, "thread_mm": clevis.thread_mm - longer}
                ),
            }
        )
        return machine.model_copy(update={"damper": damper})

    def at(self, value: float) -> Self:
        """Screwed out by another length, mm."""
        return type(self)(out_mm=value)

    def sized(self) -> str:
        """By its length."""
        return f"clevis {self.out_mm:g} mm out"

    def search(self, bike: Bike) -> Search | None:
        """Turned in half millimetres; what thread is left is a limit."""
        _ = bike
        return Search(0, 20, 0.5)

    def summary(self) -> str:
        """How far."""
        return f"{self.out_mm:g} mm out"

    def figure(self, bike: Bike) -> str | None:
        """How far."""
        _ = bike
        return self.summary()

    def steps(self, machine: Bike) -> list[str]:
        """Thread and lock nut."""
        needed = machine.damper.clevis.least_thread_mm if machine.damper.clevis else 0
        return [
            f"Clevis {self.out_mm:g} mm out, at least {needed:g} mm of thread left in it; mark it, then the lock nut "
            "against the clevis to its maker's figure."
        ]
