"""The collar of a coil-over, or the perch of a separate spring, screwed up or down."""

import math
from typing import ClassVar, Literal, Self

from pydantic import Field

from inclinum.core.car.changes.base import Change
from inclinum.core.car.changes.on_unit import longer_unit, one_unit
from inclinum.core.car.vehicle import Axle, Vehicle
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import AxleName
from inclinum.core.plan import Search, millimetres


class Collar(Change):
    """Both collars of an axle turned: the perch of the spring alone, or the unit's body in its foot."""

    title: ClassVar[str] = "Collars turned"
    place: ClassVar[str] = "Coil-over and collar"
    known_as: ClassVar[tuple[str, ...]] = ("perch height", "threaded perch", "ring nut", "body length")
    costs: ClassVar[str] = "perch: what bump gains droop loses, and preload; body: the stroke stays, joints reach out"
    offered: ClassVar[bool] = False
    equation: ClassVar[str] = "perch: Δz = s/MR, room of the spring less s; body: open, closed and stop length + s"
    source: ClassVar[str] = "derived here: a perch moves the spring's seat on the body, a foot moves the whole unit"
    provides: ClassVar[str] = "collar"
    takes: ClassVar[frozenset[str]] = frozenset({"room"})

    type: Literal["collar"] = "collar"
    by_mm: float = Field(
        ge=-120,
        le=120,
        title="Up by",
        description="on its thread; negative for down",
        json_schema_extra={"unit": "mm", "step": 0.5, "slider": [-40, 40]},
    )
    turns: Literal["perch", "body"] = Field(
        default="perch", title="What turns", description="the spring's perch, or the unit's body in its foot"
    )
    pitch_mm: float = Field(default=1.5, gt=0.2, le=10, title="Thread pitch", json_schema_extra={"unit": "mm"})
    up_left_mm: float = Field(default=40, ge=0, le=300, title="Thread left above", json_schema_extra={"unit": "mm"})
    down_left_mm: float = Field(default=40, ge=0, le=300, title="Thread left below", json_schema_extra={"unit": "mm"})

    @classmethod
    def start(cls, name: AxleName, axle: Axle) -> Self:
        """5 mm up."""
        _perched(name, axle)
        return cls(axle=name, by_mm=5)

    def changed(self, axle: Axle) -> dict[str, object]:
        """The seat, or the whole unit.

        Raises:
            DomainError: the thread does not go that far.
        """
        _perched(self.axle, axle)
        left = self.up_left_mm if self.by_mm > 0 else self.down_left_mm
        if abs(self.by_mm) > left:
            way = "up" if self.by_mm > 0 else "down"
            raise DomainError(
                f"The {self.axle} collars have {millimetres(left)} of thread left {way}: "
                f"{millimetres(abs(self.by_mm))} is more. Turn them less, or take springs of another length."
            )
        if self.turns == "perch":
            return {"seat_spacer_mm": axle.seat_spacer_mm + self.by_mm}
        one_unit(self.axle, axle)
        return longer_unit(axle, self.by_mm)

    @property
    def size(self) -> float:
        """mm up."""
        return self.by_mm

    def sized(self) -> str:
        """By the way."""
        return f"collars {self.by_mm:+g} mm"

    def at(self, value: float) -> Self:
        """By another way, mm."""
        return self.model_copy(update={"by_mm": value})

    def search(self, axle: Axle) -> Search | None:
        """Whole quarter turns, as far as the thread goes."""
        _ = axle
        return Search(-self.down_left_mm, self.up_left_mm, self.pitch_mm / 4)

    def less(self, by: float) -> tuple[Self | None, ...]:
        """Turned less, in whole millimetres; one turned down, or a whole unit, takes nothing."""
        if self.by_mm <= 0 or self.turns == "body":
            return ()
        left = math.floor(self.by_mm - by)
        return (self.at(float(left)) if left >= 1 else None,)

    def summary(self) -> str:
        """Way and turns."""
        return f"{self.turns} {self.by_mm:+g} mm = {self.by_mm / self.pitch_mm:+.2f} turns of {self.pitch_mm:g} mm"

    def room_tolerance(self) -> float:
        """A quarter turn."""
        return self.pitch_mm / 4

    def steps(self, machine: Vehicle) -> list[str]:
        """Clean, count, lock."""
        _ = machine
        way = "up" if self.by_mm > 0 else "down"
        return [
            "Thread brushed and oiled, wheel hanging, lock ring loose; mark the collar, so that turns are counted.",
            f"Turn the {self.turns} {way} {abs(self.by_mm / self.pitch_mm):.2f} turns "
            f"({millimetres(abs(self.by_mm))}), left and right alike; lock it again.",
        ]


def _perched(name: AxleName, axle: Axle) -> None:
    if not axle.spring.is_coil:
        raise DomainError(f"The {name} axle has no perch to turn: it is sprung by {axle.spring.in_a_sentence}.")
