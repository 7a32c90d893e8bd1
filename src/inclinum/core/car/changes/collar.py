"""The collar of a coil-over, or the perch of a separate spring, screwed up or down."""

import math
from typing import ClassVar, Literal, Self

from pydantic import Field, model_validator

from inclinum.core.car.changes.base import HeldThread
from inclinum.core.car.changes.on_unit import one_unit
from inclinum.core.car.changes.sided import Sided
from inclinum.core.car.vehicle import Axle, Vehicle
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import AxleName, Side
from inclinum.core.plan import Noted, Search, millimetres
from inclinum.core.quantity.words import signed


class Collar(Sided):
    """Collars of an axle turned, alike or each for itself: the perch of the spring alone, or the unit's body."""

    title: ClassVar[str] = "Collars turned"
    opens: ClassVar[frozenset[str]] = frozenset({"hanging"})
    drawn_at: ClassVar[tuple[str, ...]] = ("spring_on_unit", "spring_seat", "damper_foot")
    set_in: ClassVar[str] = "mm"
    place: ClassVar[str] = "Coil-over and collar"
    known_as: ClassVar[tuple[str, ...]] = ("perch height", "threaded perch", "ring nut", "body length")
    costs: ClassVar[str] = "perch: what bump gains droop loses, and preload; body: the stroke stays, joints reach out"
    offered: ClassVar[bool] = False
    equation: ClassVar[str] = "perch: Δz = s/MR, room of the spring less s; body: open, closed and stop length + s"
    source: ClassVar[str] = "derived here: a perch moves the spring's seat on the body, a foot moves the whole unit"
    provides: ClassVar[str] = "collar"
    takes: ClassVar[frozenset[str]] = frozenset({"room"})
    looked_at_as: ClassVar[str] = "spring"
    left_field: ClassVar[str] = "by_mm"
    right_field: ClassVar[str] = "right_mm"

    type: Literal["collar"] = "collar"
    by_mm: float = Field(
        ge=-120,
        le=120,
        title="Up by",
        description="on its thread; negative for down",
        json_schema_extra={"unit": "mm", "step": 0.5, "slider": [-40, 40]},
    )
    right_mm: float | None = Field(
        default=None, ge=-120, le=120, title="Right, where other", description="left blank where both are alike",
        json_schema_extra={"unit": "mm"},
    )  # fmt: skip
    turns: Literal["perch", "body"] = Field(
        default="perch", title="What turns", description="the spring's perch, or the unit's body in its foot"
    )
    pitch_mm: float = Field(default=1.5, gt=0.2, le=10, title="Thread pitch", json_schema_extra={"unit": "mm"})
    up_left_mm: float = Field(default=40, ge=0, le=300, title="Thread left above", json_schema_extra={"unit": "mm"})
    down_left_mm: float = Field(default=40, ge=0, le=300, title="Thread left below", json_schema_extra={"unit": "mm"})
    in_foot_mm: float | None = Field(
        default=None, ge=0, le=300, title="Thread in the foot", description="of a body that is turned, as it is now",
        json_schema_extra={"unit": "mm"},
    )  # fmt: skip
    least_in_foot_mm: float | None = Field(
        default=None, ge=0, le=300, title="Least in the foot", description="as its maker says",
        json_schema_extra={"unit": "mm"},
    )  # fmt: skip

    @model_validator(mode="after")
    def _foot(self) -> Self:
        if (self.in_foot_mm is None) != (self.least_in_foot_mm is None):
            raise DomainError("give both threads of the foot, what is in and what has to be, or neither")
        if self.in_foot_mm is not None and self.turns == "perch":
            raise DomainError("a perch turns on the body's own thread: leave the thread in the foot empty")
        return self

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
        for by in (self.left, self.right):
            left = self.up_left_mm if by > 0 else self.down_left_mm
            if abs(by) > left:
                way = "up" if by > 0 else "down"
                raise DomainError(
                    f"The {self.axle} collars have {millimetres(left)} of thread left {way}: "
                    f"{millimetres(abs(by))} is more. Turn them less, or take springs of another length."
                )
        if self.turns == "perch":
            apart: dict[str, object] = {"uneven_mm": axle.uneven_mm + self.left_over_mean} if self.uneven else {}
            up = {"seat_spacer_mm": axle.seat_spacer_mm + self.mean, "spring": axle.spring.collar_up(self.mean)}
            return up | apart
        one_unit(self.axle, axle)
        apart = {"uneven_unit_mm": axle.uneven_unit_mm + self.left_over_mean} if self.uneven else {}
        return axle.with_longer_unit(self.mean) | apart

    @property
    def size(self) -> float:
        """mm up."""
        return self.by_mm

    def sized(self) -> str:
        """By the way, and the turns of it."""
        sides = (self.left, self.right) if self.uneven else (self.left,)
        way, turns = (" and ".join(signed(s / one, ".4g") for s in sides) for one in (1.0, self.pitch_mm))
        return f"collars {way} mm, {turns} turns"

    def at(self, value: float) -> Self:
        """By another way, mm."""
        return self.both_at(value)

    def search(self, axle: Axle) -> Search | None:
        """Whole quarter turns, as far as the thread goes."""
        _ = axle
        return Search(-self.down_left_mm, self.up_left_mm, self.pitch_mm / 4)

    def settings(self) -> tuple[Self, ...]:
        """Two turns down to two turns up from what is set, as far as the thread goes; of perches only."""
        if self.turns == "body":
            return ()
        beside = [self.at(round(self.by_mm + n * self.pitch_mm, 3)) for n in (-2, -1, 0, 1, 2)]
        return tuple(
            c for c in beside if -self.down_left_mm <= min(c.left, c.right) <= max(c.left, c.right) <= self.up_left_mm
        )

    @property
    def setting(self) -> str:
        """Turns; where the sides differ, those of the left."""
        return f"{signed(self.left / self.pitch_mm, '.2f')} turns"

    def less(self, by: float) -> tuple[Self | None, ...]:
        """Turned less, in whole millimetres; one turned down, or a whole unit, takes nothing."""
        if self.by_mm <= 0 or self.turns == "body":
            return ()
        left = math.floor(self.by_mm - by)
        return (self.at(float(left)) if left >= 1 else None,)

    def summary(self) -> str:
        """Way and turns."""
        turned = signed(self.left / self.pitch_mm, ".2f")
        if self.uneven:
            turned += f" and {signed(self.right / self.pitch_mm, '.2f')}"
        return f"{self.turns} {self.each(' mm')} = {turned} turns of {self.pitch_mm:g} mm"

    def threads(self) -> tuple[HeldThread, ...]:
        """The body in its foot, on the side where it is screwed out further."""
        if self.in_foot_mm is None or self.least_in_foot_mm is None:
            return ()
        held = self.in_foot_mm - max(self.left, self.right)
        return (HeldThread("the body in its foot", held, self.least_in_foot_mm, "the unit's maker"),)

    def room_tolerance(self) -> float:
        """A quarter turn."""
        return self.pitch_mm / 4

    def steps(self, machine: Vehicle) -> list[str]:
        """Clean, count, lock."""
        _ = machine
        return [
            "Thread brushed and oiled, wheel hanging, lock ring loose; mark the collar, so that turns are counted.",
            f"Turn the {self.turns} {self._turned()}; lock it again.",
        ]

    def figure(self, side: Side | None) -> str | None:
        """Turns and way."""
        by = self.of_side(side)
        return f"{signed(by / self.pitch_mm, '.2f')} turns · {signed(by)} mm"

    def noted(self, machine: Vehicle, side: Side | None) -> tuple[Noted, ...]:
        """Thread between a fixed end and what is turned."""
        _ = machine
        where = "behind the collar" if self.turns == "perch" else "between body and foot"
        return (Noted("thread", f"thread showing {where}", "mm", self.of_side(side)),)

    def _turned(self) -> str:
        def one(by: float) -> str:
            way = "up" if by > 0 else "down"
            return f"{way} {abs(by / self.pitch_mm):.2f} turns ({millimetres(abs(by))})"

        if not self.uneven:
            return f"{one(self.left)}, left and right alike"
        return f"on the left {one(self.left)}, on the right {one(self.right)}"


def _perched(name: AxleName, axle: Axle) -> None:
    if not axle.spring.is_coil:
        raise DomainError(f"The {name} axle has no perch to turn: it is sprung by {axle.spring.in_a_sentence}.")
