"""The adjuster bolt of a torsion bar: turns on a lever turn its fixed end."""

import math
from typing import ClassVar, Literal, Self

from pydantic import Field

from inclinum.core.car.changes.sided import Sided
from inclinum.core.car.vehicle import Axle, Vehicle
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import AxleName, Side
from inclinum.core.plan import Noted, Search, millimetres
from inclinum.core.quantity.words import signed
from inclinum.core.springs.fitted import TorsionBarData


class TorsionAdjuster(Sided):
    """The adjuster bolts of an axle turned, alike or each for itself."""

    title: ClassVar[str] = "Torsion adjusters"
    opens: ClassVar[frozenset[str]] = frozenset({"torsion adjuster"})
    set_in: ClassVar[str] = "turns"
    place: ClassVar[str] = "Torsion bars"
    known_as: ClassVar[tuple[str, ...]] = ("torsion key", "cranked bars", "adjuster bolts")
    costs: ClassVar[str] = "the window of travel stays: what bump gains, droop loses"
    offered: ClassVar[bool] = False
    equation: ClassVar[str] = "Δα = turns · pitch / lever"
    source: ClassVar[str] = "derived here: the bolt pushes the lever's end; small angles of the lever"
    provides: ClassVar[str] = "adjuster"
    left_field: ClassVar[str] = "turns"
    right_field: ClassVar[str] = "right_turns"

    type: Literal["torsion_adjuster"] = "torsion_adjuster"
    turns: float = Field(
        ge=-60,
        le=60,
        title="Turns",
        description="positive raises the body",
        json_schema_extra={"step": 0.25, "slider": [-12, 12]},
    )
    right_turns: float | None = Field(
        default=None, ge=-60, le=60, title="Right, where other", description="left blank where both are alike"
    )
    pitch_mm: float = Field(default=1.5, gt=0.3, le=6, title="Thread pitch", json_schema_extra={"unit": "mm"})
    lever_mm: float = Field(
        default=60,
        gt=10,
        le=400,
        title="Lever",
        description="from the bar's middle to the bolt",
        json_schema_extra={"unit": "mm"},
    )
    turns_left: float = Field(default=20, ge=0, le=100, title="Turns left", description="that way, thread and stop")

    @classmethod
    def start(cls, name: AxleName, axle: Axle) -> Self:
        """One turn up."""
        _barred(name, axle)
        return cls(axle=name, turns=1)

    def angle_deg(self, turns: float) -> float:
        """Change of the free angle by so many turns, degrees; positive raises the body."""
        return math.degrees(turns * self.pitch_mm / self.lever_mm)

    def changed(self, axle: Axle) -> dict[str, object]:
        """The free angle."""
        bar = _barred(self.axle, axle)
        most = max(abs(self.left), abs(self.right))
        if most > self.turns_left:
            raise DomainError(
                f"The {self.axle} adjusters have {self.turns_left:g} turns left that way, and {most:g} are "
                "asked for. Turn the bars in their splines first."
            )
        free = bar.free_angle_deg + self.angle_deg(self.mean)
        apart: dict[str, object] = (
            {"uneven_deg": axle.uneven_deg + self.angle_deg(self.left_over_mean)} if self.uneven else {}
        )
        return {"spring": bar.model_copy(update={"free_angle_deg": free})} | apart

    @property
    def size(self) -> float:
        """Turns."""
        return self.turns

    def sized(self) -> str:
        """By turns."""
        return f"torsion adjusters {self.each(' turns')}"

    def at(self, value: float) -> Self:
        """By other turns."""
        return self.both_at(value)

    def search(self, axle: Axle) -> Search | None:
        """Quarter turns, as many as are left."""
        _ = axle
        return Search(-self.turns_left, self.turns_left, 0.25) if self.turns_left else None

    def summary(self) -> str:
        """Turns and angle."""
        thread = f"of {self.pitch_mm:g} mm on {millimetres(self.lever_mm)}"
        if not self.uneven:
            return f"{signed(self.turns)} turns {thread}: {signed(self.angle_deg(self.turns), '.2f')}°"
        angles = f"{signed(self.angle_deg(self.left), '.2f')}° and {signed(self.angle_deg(self.right), '.2f')}°"
        return f"{self.each(' turns')} {thread}: {angles}"

    def steps(self, machine: Vehicle) -> list[str]:
        """Unload the bolt first."""
        _ = machine
        return [
            "Bolt cleaned and greased before it is turned; turns counted from the mark.",
            f"{self._turned()}; roll it before reading.",
        ]

    def noted(self, machine: Vehicle, side: Side | None) -> tuple[Noted, ...]:
        """Turns of the bolt, counted from fully out."""
        _ = machine
        return (Noted("adjuster", "adjuster bolt, turns in from fully out", "turns", self.of_side(side)),)

    def _turned(self) -> str:
        def one(turns: float) -> str:
            return f"{abs(turns):g} turn{'' if abs(turns) == 1 else 's'} {'in' if turns > 0 else 'out'}"

        if not self.uneven:
            return f"{one(self.left)}, both sides alike"
        return f"Left {one(self.left)}, right {one(self.right)}"


def _barred(name: AxleName, axle: Axle) -> TorsionBarData:
    if not isinstance(axle.spring, TorsionBarData):
        raise DomainError(f"The {name} axle has no torsion bars to adjust, but {axle.spring.in_a_sentence}.")
    return axle.spring
