"""Longer studs in the strut top mount: thread for the nut, nothing for the height."""

from typing import ClassVar, Literal, Self

from pydantic import Field

from inclinum.core.car.changes.base import Change
from inclinum.core.car.vehicle import Axle, Vehicle
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import AxleName, PartNumber
from inclinum.core.plan import millimetres, named


class LongerStuds(Change):
    """Studs of the top mount replaced, both sides."""

    title: ClassVar[str] = "Longer studs"
    removes: ClassVar[tuple[str, ...]] = ("stud",)
    opens: ClassVar[frozenset[str]] = frozenset({"inside the unit"})
    place: ClassVar[str] = "Strut top"
    known_as: ClassVar[tuple[str, ...]] = ("stud kit", "press-in studs")
    costs: ClassVar[str] = "the old ones are pressed out: not put back"
    equation: ClassVar[str] = "thread left = stud above the tower − spacer − washer"
    source: ClassVar[str] = "derived here: a sum of lengths"
    provides: ClassVar[str] = "stud length"
    reversible: ClassVar[bool] = False

    type: Literal["longer_studs"] = "longer_studs"
    stud_length_mm: float = Field(
        gt=5,
        le=200,
        title="Thread above the bare tower",
        json_schema_extra={"unit": "mm", "step": 1, "slider": [10, 70]},
    )
    part: PartNumber = ""

    @classmethod
    def start(cls, name: AxleName, axle: Axle) -> Self:
        """The studs it has."""
        if axle.strut_top is None:
            raise DomainError(f"The {name} axle has no strut top with studs.")
        return cls(axle=name, stud_length_mm=axle.strut_top.stud_length_mm)

    def changed(self, axle: Axle) -> dict[str, object]:
        """Stud length; a thread measured with the old studs no longer counts."""
        if axle.strut_top is None:
            raise DomainError(f"The {self.axle} axle has no strut top with studs.")
        return {
            "strut_top": axle.strut_top.model_copy(update={"stud_length_mm": self.stud_length_mm}),
            "stud_left_mm": None,
        }

    def summary(self) -> str:
        """Length."""
        return named(self.part, f"{millimetres(self.stud_length_mm)} of thread above the tower")

    @property
    def size(self) -> float:
        """mm."""
        return self.stud_length_mm

    def sized(self) -> str:
        """By what stands above the tower."""
        return f"studs {millimetres(self.stud_length_mm)} above the bare tower"

    def at(self, value: float) -> Self:
        """Of another length, mm."""
        return self.model_copy(update={"stud_length_mm": value})

    def parts(self, machine: Vehicle) -> list[str]:
        """The studs."""
        return [f"Strut-top studs, {self.summary()}, all of both sides ({self.axle})"]

    def steps(self, machine: Vehicle) -> list[str]:
        """Press out and in."""
        return ["Renew the top-mount studs as their supplier says; press them square and check that none can turn."]
