"""Rear preload: the collar by the shortening of the spring, in turns from zero, or by the thread that shows."""

from typing import ClassVar, Literal, Self

from pydantic import Field, model_validator

from inclinum.core.bike.changes.base import BikeChange
from inclinum.core.bike.machine import Bike
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import Side
from inclinum.core.plan import Noted, Search

HOOK_SPANNER = "Hook spanner for the collar"
MOST_MM = 40.0
"""Searched so far where the spring's maker says nothing."""


def zero_of(bike: Bike) -> str:
    """Where the collar is counted from, in words: as this machine's zero was found."""
    touching = "zero is where the spring just touches, its washer in, with the damper "
    if bike.damper.zero_found == "forced":
        return f"{touching}forced fully out"
    hidden = bike.damper.hidden_mm
    hides = "how much that hides is not known: force it out and measure" if hidden is None else f"forced, {hidden:g} mm"
    return f"{touching}only hanging, as it was counted here ({hides}" + (" longer)" if hidden is not None else ")")


def collar_step(bike: Bike) -> str:
    """The collar as it stands at the end: turns from zero, both sides alike, and the thread that shows."""
    shortening = bike.preload_mm
    turns = shortening / bike.damper.collar_pitch_mm
    both = ", both dampers alike" if bike.damper.count > 1 else ""
    zero = bike.damper.threads_at_zero_mm
    thread = "" if zero is None else f" Then {zero + shortening:g} mm of thread show past the collar."
    way = "on from" if shortening >= 0 else "back from"
    return (
        f"Collar {abs(turns):.2f} turns {way} zero ({shortening:g} mm){both}; {zero_of(bike)}.{thread} "
        "Note the threads that show."
    )


def collar_figure(bike: Bike) -> str:
    """The collar as it stands at the end, in turns and in shortening of the spring."""
    return f"{bike.preload_mm / bike.damper.collar_pitch_mm:.2f} turns · {bike.preload_mm:g} mm"


class RearPreload(BikeChange):
    """The collar set to a shortening of the spring at full extension."""

    title: ClassVar[str] = "Rear preload"
    place: ClassVar[str] = "Rear"
    known_as: ClassVar[tuple[str, ...]] = ("collar", "spring preload", "ring nut")
    costs: ClassVar[str] = "sag, not the height with the wheel hanging"
    equation: ClassVar[str] = "k·(preload + x) = F/MR per damper"
    source: ClassVar[str] = "Hooke's law; virtual work for the installation ratio"
    end: ClassVar = "rear"
    provides: ClassVar[str] = "rear preload"
    tools: ClassVar[tuple[str, ...]] = (HOOK_SPANNER,)
    sets_collar: ClassVar[bool] = True

    type: Literal["rear_preload"] = "rear_preload"
    preload_mm: float = Field(
        default=0, ge=0, le=100, title="Preload", json_schema_extra={"unit": "mm", "step": 0.5, "slider": [0, 40]}
    )
    turns: float | None = Field(default=None, ge=0, le=60, title="Or turns from zero", json_schema_extra={"step": 0.25})
    threads_mm: float | None = Field(
        default=None, ge=0, le=300, title="Or thread showing", description="past the collar, as it will be measured"
    )

    room_mm: float | None = Field(
        default=None, gt=20, le=700, title="Or room for the spring",
        description="from collar to far seat, damper fully out, the washer in",
    )  # fmt: skip

    @model_validator(mode="after")
    def _told_once(self) -> Self:
        if sum(told is not None for told in (self.turns, self.threads_mm, self.room_mm)) > 1:
            raise DomainError("preload is told in turns, by the thread that shows or by the room for the spring: once")
        return self

    @classmethod
    def start(cls, bike: Bike) -> Self:
        """As it is."""
        return cls(preload_mm=max(bike.preload_mm, 0.0))

    def shortening(self, bike: Bike) -> float:
        """Of the spring, however it is told, mm.

        Raises:
            ValueError: told by thread, but nobody measured what shows at zero, or less shows than at zero.
        """
        if self.turns is not None:
            return self.turns * bike.damper.collar_pitch_mm
        if self.room_mm is not None:
            return self._by_room(bike, self.room_mm)
        if self.threads_mm is None:
            return self.preload_mm
        zero = bike.damper.threads_at_zero_mm
        if zero is None:
            raise DomainError("Measure the thread that shows with the collar at zero first; then it tells the preload.")
        if self.threads_mm < zero:
            raise DomainError(
                f"{self.threads_mm:g} mm of thread is less than the {zero:g} mm at zero: the spring is loose."
            )
        return self.threads_mm - zero

    def _by_room(self, bike: Bike, room: float) -> float:
        """Free length and washer less the room there is; counted from where this machine's zero was found."""
        long = bike.spring.free_length_mm + bike.spring.seat_washer_mm
        if room > long:
            raise DomainError(
                f"Spring and washer are {long:g} mm long: in {room:g} mm of room they are loose. Collar nearer, or a "
                "longer spring."
            )
        return bike.counted(long - room)

    def apply(self, machine: Bike) -> Bike:
        """Counted preload."""
        return machine.model_copy(update={"preload_mm": self.shortening(machine)})

    def at(self, value: float) -> Self:
        """Set to another shortening, counted from zero, mm."""
        return type(self)(preload_mm=value)

    def sized(self) -> str:
        """By the shortening."""
        return f"preload {self.preload_mm:g} mm"

    def search(self, bike: Bike) -> Search | None:
        """In half millimetres, to what its maker allows."""
        most = bike.spring.max_preload_mm
        return Search(0, max(MOST_MM if most is None else min(bike.counted(most), 100), 0), 0.5)

    def figure(self, bike: Bike) -> str | None:
        """Turns and shortening."""
        return collar_figure(self.apply(bike))

    def summary(self) -> str:
        """As it is told."""
        if self.turns is not None:
            return f"{self.turns:g} turns from zero"
        if self.room_mm is not None:
            return f"{self.room_mm:g} mm of room for the spring"
        return (
            f"{self.preload_mm:g} mm of shortening" if self.threads_mm is None else f"{self.threads_mm:g} mm of thread"
        )

    def noted(self, machine: Bike, side: Side | None) -> tuple[Noted, ...]:
        """Thread past the collar."""
        _ = side
        return (Noted("thread", "thread showing past the collar", "mm", self.shortening(machine) - machine.preload_mm),)

    def steps(self, machine: Bike) -> list[str]:
        """Turns from zero, both sides alike where there are two."""
        return [collar_step(self.apply(machine))]
