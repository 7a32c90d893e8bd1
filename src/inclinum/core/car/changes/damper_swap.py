"""Another damper: longer or shorter, closed and extended; the window of travel moves, the ride point stays."""

from typing import ClassVar, Literal, Self

from pydantic import Field, model_validator

from inclinum.core.car.changes.bored import Bored
from inclinum.core.car.vehicle import Axle, Vehicle
from inclinum.core.card.fabrication import BOLTED, Routine, routine
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import AxleName, PartNumber
from inclinum.core.plan import millimetres, named


class DamperSwap(Bored):
    """Both dampers (or strut inserts) of an axle replaced."""

    title: ClassVar[str] = "Dampers"
    removes: ClassVar[tuple[str, ...]] = ("damper",)
    moves_over: ClassVar[tuple[str, ...]] = ("bump stop and bellows",)
    opens: ClassVar[frozenset[str]] = frozenset({"damper"})
    deep: ClassVar[int] = 3
    place: ClassVar[str] = "Dampers and stops"
    known_as: ClassVar[tuple[str, ...]] = ("shocks", "struts", "inserts", "shortened housing")
    costs: ClassVar[str] = "the window of travel moves; the height stays"
    equation: ClassVar[str] = "droop ends at the extended length, bump at the closed one or at the solid stop"
    source: ClassVar[str] = "derived here: both lengths are looked up on the damper's length curve over travel"
    provides: ClassVar[str] = "damper"

    type: Literal["damper_swap"] = "damper_swap"
    extended_mm: float = Field(gt=50, le=2000, title="Extended length", json_schema_extra={"unit": "mm", "step": 1})
    closed_mm: float = Field(gt=30, le=2000, title="Closed length", json_schema_extra={"unit": "mm", "step": 1})
    contact_mm: float | None = Field(
        default=None,
        gt=30,
        le=2000,
        title="Stop touched at",
        description="damper length at which the stop on it is touched; as far before closed as now when left empty",
        json_schema_extra={"unit": "mm"},
    )
    housing_cut: bool = Field(
        default=False,
        title="Housing is cut for it",
        description="an insert in an old strut, shortened: it stays",
    )
    part: PartNumber = ""

    @model_validator(mode="after")
    def _opens(self) -> Self:
        if self.closed_mm >= self.extended_mm:
            raise DomainError("the damper is longer closed than extended")
        if self.contact_mm is not None and not self.closed_mm < self.contact_mm <= self.extended_mm:
            raise DomainError("the stop is touched somewhere between the closed and the extended length")
        return self

    @classmethod
    def start(cls, name: AxleName, axle: Axle) -> Self:
        """Dampers as long as the fitted ones."""
        return cls(axle=name, extended_mm=axle.damper.extended_mm, closed_mm=axle.damper.closed_mm)

    def changed(self, axle: Axle) -> dict[str, object]:
        """Its lengths; a stop on the damper is where it is on the new one."""
        old, stop = axle.damper, axle.bump_stop
        if stop.contact_mm is None and self.contact_mm is not None:
            raise DomainError(
                f"The {self.axle} stops sit over the axle and not on the dampers: leave that length empty."
            )
        if stop.contact_mm is not None:
            contact = stop.contact_mm + self.closed_mm - old.closed_mm if self.contact_mm is None else self.contact_mm
            stop = stop.model_copy(update={"contact_mm": contact})
        lengths = {"extended_mm": self.extended_mm, "closed_mm": self.closed_mm} | self.bores(old)
        return {"damper": old.model_copy(update=lengths), "bump_stop": stop}

    def fabrication(self) -> Routine:
        """Of a housing that is cut for its insert: never put back."""
        return (
            routine("cut_and_welded", "Strut housing, spring off and gas let out first") if self.housing_cut else BOLTED
        )

    def summary(self) -> str:
        """Both lengths."""
        return named(self.part, f"{millimetres(self.extended_mm)} extended, {millimetres(self.closed_mm)} closed")

    def parts(self, machine: Vehicle) -> list[str]:
        """The pair."""
        sleeves = self.sleeve_parts(machine.axle(self.axle).damper)
        return [f"2 dampers {self.summary()} ({self.axle})", *sleeves]

    @property
    def told(self) -> str:
        """Both lengths."""
        return f"{self.extended_mm:g} open, {millimetres(self.closed_mm)} closed"

    def steps(self, machine: Vehicle) -> list[str]:
        """Measure, prime, fit."""
        _ = machine
        return [
            f"Lay the new damper beside the old one: {self.told}; bushes, stop and boot as ordered.",
            "Prime it upright as its maker says, then fit it; bushes only hand tight.",
        ]
