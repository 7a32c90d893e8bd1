"""A spacer at the spring seat: the ride point moves, the window of travel stays."""

from typing import ClassVar, Literal, Self

from pydantic import Field

from inclinum.core.car.archetypes.respring import kinds_for
from inclinum.core.car.attached import SpringSeats
from inclinum.core.car.changes.sided import Sided
from inclinum.core.car.changes.spacer import Spacer
from inclinum.core.car.vehicle import Axle, Vehicle
from inclinum.core.card.order import Order, laid
from inclinum.core.document.errors import DomainError
from inclinum.core.document.known import MADE_TO_MM
from inclinum.core.document.names import AxleName, PartNumber, Side
from inclinum.core.plan import millimetres, named
from inclinum.core.springs.fitted import StackData


def _on_a_seat(name: AxleName, axle: Axle) -> None:
    if len(kinds_for(axle)) == 1:
        raise DomainError(f"The {name} axle has no seat for a ring: it is sprung by {axle.spring.in_a_sentence}.")


RING = "spacer, chamfer to the seat"


class SeatSpacer(Spacer, Sided):
    """A ring between the spring and its seat, at both sides or thicker at one."""

    title: ClassVar[str] = "Spring-seat spacer"
    opens: ClassVar[frozenset[str]] = frozenset({"spring"})
    deep: ClassVar[int] = 2
    set_in: ClassVar[str] = "mm"
    place: ClassVar[str] = "Springs"
    known_as: ClassVar[tuple[str, ...]] = ("ring", "poly ring", "spring packer", "seat spacer")
    costs: ClassVar[str] = "raises and keeps the window: less droop left, more bump"
    equation: ClassVar[str] = (
        "Δz = t / MR at the wheel, MR the spring's motion ratio (first order; the product solves the equilibrium)"
    )
    source: ClassVar[str] = (
        "derived here: the spring stands t shorter between its points, so the same force is met t further out"
    )
    provides: ClassVar[str] = "spring room"
    takes: ClassVar[frozenset[str]] = frozenset({"room"})
    left_field: ClassVar[str] = "thickness_mm"
    right_field: ClassVar[str] = "right_mm"

    type: Literal["seat_spacer"] = "seat_spacer"
    thickness_mm: float = Field(
        ge=-60,
        le=80,
        title="Thickness",
        description="negative for one taken out, or a thinner isolator",
        json_schema_extra={"unit": "mm", "step": 1, "slider": [-20, 50]},
    )
    right_mm: float | None = Field(
        default=None, ge=-60, le=80, title="Right, where other", description="left blank where both are alike; 0: none",
        json_schema_extra={"unit": "mm"},
    )  # fmt: skip
    lies: Literal["below", "above"] = Field(default="below", title="Lies", description="below the spring or above it")
    centres_on_mm: float | None = Field(
        default=None, gt=10, le=400, title="Centres the spring on", description="of an adapter or reducing ring",
        json_schema_extra={"unit": "mm"},
    )  # fmt: skip
    kept_by: str = Field(
        default="", max_length=80, title="Kept by", description="bolt, tab or register that keeps it in its place"
    )
    tolerance_mm: float = Field(default=MADE_TO_MM, ge=0, le=10, title="Thickness ±", json_schema_extra={"unit": "mm"})
    part: PartNumber = ""

    @classmethod
    def start(cls, name: AxleName, axle: Axle) -> Self:
        """A 10 mm ring."""
        _on_a_seat(name, axle)
        return cls(axle=name, thickness_mm=10)

    def changed(self, axle: Axle) -> dict[str, object]:
        """Less room for the spring."""
        _on_a_seat(self.axle, axle)
        apart: dict[str, object] = {"uneven_mm": axle.uneven_mm + self.left_over_mean} if self.uneven else {}
        if self.lies == "below":
            apart |= {"spring": axle.spring.collar_up(self.mean)}
        else:
            apart |= {"ring_above_mm": axle.ring_above_mm + self.mean}
        if self.lies == "above" and self.uneven and isinstance(axle.spring, StackData):
            raise DomainError(
                f"Above the {self.axle} stacks rings are alike on both sides: what differs is set at the collars."
            )
        if self.centres_on_mm is not None:
            end = "lower_mm" if self.lies == "below" else "upper_mm"
            apart |= {"seats": (axle.seats or SpringSeats()).model_copy(update={end: self.centres_on_mm})}
        return {"seat_spacer_mm": axle.seat_spacer_mm + self.mean} | apart

    def at(self, value: float) -> Self:
        """Of another thickness, mm; the right as much apart from it as it was."""
        return self.both_at(value)

    def sized(self) -> str:
        """By its thickness."""
        return f"{self.title.lower()} {self.each(' mm')}" if self.uneven else super().sized()

    @property
    def _where(self) -> str:
        return "under" if self.lies == "below" else "over"

    @property
    def _kept(self) -> str:
        return f" Kept by {self.kept_by}." if self.kept_by else ""

    def summary(self) -> str:
        """Thickness."""
        if self.uneven:
            return named(self.part, f"{self.each(' mm')} {self._where} the spring")
        if self.thickness_mm < 0:
            return named(self.part, f"{millimetres(-self.thickness_mm)} less {self._where} the spring")
        return named(self.part, f"{millimetres(self.thickness_mm)} {self._where} the spring")

    def parts(self, machine: Vehicle) -> list[str]:
        """The spacers of each thickness; none where one is only taken out."""
        if not self.uneven:
            if self.thickness_mm <= 0 and not self.part:
                return []
            found = f"2 spring-seat spacers {millimetres(self.thickness_mm)} {self.part} ({self.axle})"
            return [found.replace("  ", " ")]
        return [
            f"1 spring-seat spacer {millimetres(t)} {self.part} ({self.axle} {side})".replace("  ", " ")
            for side, t in (("left", self.left), ("right", self.right))
            if t > 0
        ]

    def order(self, machine: Vehicle, side: Side | None) -> Order | None:
        """Ring to the seat, isolator to the spring."""
        _ = machine
        thick = self.of_side(side) if side else self.mean
        if thick <= 0:
            return None
        ring = (RING, thick)
        if self.lies == "below":
            return laid("seat", ring, "isolator", "spring", new=RING)
        return laid("spring", "isolator", ring, "upper seat", new=RING)

    def steps(self, machine: Vehicle) -> list[str]:
        """Where it goes, or what comes out."""
        if self.uneven:
            return [
                f"Lay the spacer on the seat, chamfer to the seat, then the isolator: {self.each(' mm')} "
                f"(minus: so much less than was there, 0: none).{self._kept}"
            ]
        if self.thickness_mm < 0:
            less = millimetres(-self.thickness_mm)
            return [f"Take out {less} at the seat: the spacer, or a thinner isolator in. The spring still seats by it."]
        seat = "seat" if self.lies == "below" else "upper seat"
        return [
            f"Lay the {millimetres(self.thickness_mm)} spacer on the {seat}, chamfer to the seat, then the isolator."
            f"{self._kept}"
        ]
