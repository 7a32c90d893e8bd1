"""The side stand shortened along its leg, or bent out or in."""

from typing import ClassVar, Literal, Self

import numpy as np
from pydantic import Field

from inclinum.core.bike.changes.base import BikeChange
from inclinum.core.bike.machine import Bike
from inclinum.core.card.fabrication import Routine, routine
from inclinum.core.document.errors import DomainError


class StandLeg(BikeChange):
    """Another length of the leg, and a bend."""

    title: ClassVar[str] = "Side stand"
    removes: ClassVar[tuple[str, ...]] = ("side stand",)
    place: ClassVar[str] = "Seat and stands"
    known_as: ClassVar[tuple[str, ...]] = ("shorter stand", "kick stand")
    costs: ClassVar[str] = "made for one height of the machine"
    equation: ClassVar[str] = "lean = atan2(foot height, foot beside the tyre line), the foot swung about its pivot"
    source: ClassVar[str] = "derived here: a right triangle under the stand"
    end: ClassVar = None
    provides: ClassVar[str] = "stand length"

    type: Literal["side_stand"] = "side_stand"
    shorter_mm: float = Field(
        ge=-60, le=120, title="Shorter along the leg", json_schema_extra={"step": 0.5, "slider": [0, 50]}
    )
    bent_out_deg: float = Field(
        default=0, ge=-15, le=15, title="Bent out by", description="about its pivot, foot outward positive"
    )

    how: Literal["bolted_on", "cut_and_welded"] = Field(
        default="cut_and_welded",
        title="Made how",
        description="another stand, or this one cut and welded",
    )

    @classmethod
    def start(cls, bike: Bike) -> Self:
        """No change."""
        if bike.stand is None:
            raise DomainError("This machine has no side stand.")
        return cls(shorter_mm=0)

    def apply(self, machine: Bike) -> Bike:
        """The foot up along the leg and in; a bend swings it about the stand's pivot."""
        stand = machine.stand
        if stand is None:
            raise DomainError("This machine has no side stand.")
        splay, bend = np.radians(stand.splay_deg), np.radians(self.bent_out_deg)
        height = stand.foot_height_mm + self.shorter_mm * np.cos(splay)
        lateral = stand.lateral_mm - self.shorter_mm * np.sin(splay)
        if self.bent_out_deg:
            # The leg's own length is not measured: its pivot is taken to be above the tyre line.
            leg = lateral / max(np.sin(splay), 0.05)
            height += leg * (np.cos(splay) - np.cos(splay + bend))
            lateral += leg * (np.sin(splay + bend) - np.sin(splay))
        new = stand.model_copy(
            update={
                "foot_height_mm": float(height),
                "lateral_mm": float(lateral),
                "splay_deg": stand.splay_deg + self.bent_out_deg,
            }
        )
        return machine.model_copy(update={"stand": new})

    @property
    def size(self) -> float:
        """mm."""
        return self.shorter_mm

    def at(self, value: float) -> Self:
        """Shorter by another length, mm; its bend stays."""
        return self.model_copy(update={"shorter_mm": value})

    def figure(self, bike: Bike) -> str | None:
        """How much shorter."""
        _ = bike
        return self._longer

    def summary(self) -> str:
        """Length and bend."""
        way = "out" if self.bent_out_deg >= 0 else "in"
        bend = f", bent {way} {abs(self.bent_out_deg):g}°" if self.bent_out_deg else ""
        return f"{self._longer} along its leg{bend}"

    @property
    def _longer(self) -> str:
        return f"{abs(self.shorter_mm):g} mm {'shorter' if self.shorter_mm >= 0 else 'longer'}"

    def taken_off(self, machine: Bike) -> tuple[str, ...]:
        """The old one, where another is bolted on; a leg that is cut goes back."""
        return super().taken_off(machine) if self.how == "bolted_on" else ()

    def parts(self, machine: Bike) -> list[str]:
        """Another one, where it is not the old one that is cut."""
        _ = machine
        return [f"1 side stand, {self.summary()}"] if self.how == "bolted_on" else []

    def steps(self, machine: Bike) -> list[str]:
        """Cut and weld, or a shorter one."""
        _ = machine
        return [
            f"Side stand {self.summary()}, {'this one' if self.fabrication().one_way else 'another one'}. "
            "Its switch and spring must work as before."
        ]

    def fabrication(self) -> Routine:
        """Of a leg that is cut: off the machine, on the bench."""
        return routine(self.how, "Side stand, off the machine")
