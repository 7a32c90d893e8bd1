"""A spacer on top of the strut mount: the window moves, and on a coil-over strut the ride point too."""

from typing import ClassVar, Literal, Self

from pydantic import Field

from inclinum.core.car.changes.spacer import Spacer
from inclinum.core.car.vehicle import Axle, Vehicle
from inclinum.core.card.order import Order, laid
from inclinum.core.document.errors import DomainError
from inclinum.core.document.known import MADE_TO_MM
from inclinum.core.document.names import AxleName, PartNumber, Side
from inclinum.core.plan import millimetres, named


class StrutTopSpacer(Spacer):
    """A plate between the top mount and the tower, both sides. It eats the thread of the studs."""

    title: ClassVar[str] = "Strut-top spacer"
    opens: ClassVar[frozenset[str]] = frozenset({"strut top"})
    set_in: ClassVar[str] = "mm"
    place: ClassVar[str] = "Strut top"
    known_as: ClassVar[tuple[str, ...]] = ("tower plate", "strut spacer", "top hat")
    costs: ClassVar[str] = "droop and bump ends move down with it; joints and shafts work further out"
    equation: ClassVar[str] = (
        "Δz = t / MR on a coil-over strut; on a separate damper only the window of travel moves by t / MR of the damper"
    )
    source: ClassVar[str] = "derived here: unit and, where it is coaxial, spring stand t lower in the body"
    provides: ClassVar[str] = "strut room"
    takes: ClassVar[frozenset[str]] = frozenset({"room", "thread"})

    type: Literal["strut_top_spacer"] = "strut_top_spacer"
    thickness_mm: float = Field(
        ge=-80,
        le=80,
        title="Thickness",
        description="negative for one taken out",
        json_schema_extra={"unit": "mm", "step": 1, "slider": [-20, 40]},
    )
    stud_left_mm: float | None = Field(
        default=None,
        ge=0,
        le=200,
        title="Stud left above the tower",
        description="measured with the spacer in; computed from the studs when left empty",
        json_schema_extra={"unit": "mm"},
    )
    tolerance_mm: float = Field(default=MADE_TO_MM, ge=0, le=10, title="Thickness ±", json_schema_extra={"unit": "mm"})
    part: PartNumber = ""

    @classmethod
    def start(cls, name: AxleName, axle: Axle) -> Self:
        """A 10 mm plate."""
        if axle.strut_top is None:
            raise DomainError(f"The {name} axle has no strut top to put a spacer on; use a spring-seat spacer.")
        return cls(axle=name, thickness_mm=10)

    def changed(self, axle: Axle) -> dict[str, object]:
        """Less room for strut and, where it is coaxial, spring; less thread above the tower."""
        if axle.strut_top is None:
            raise DomainError(f"The {self.axle} axle has no strut top to put a spacer on; use a spring-seat spacer.")
        if axle.top_spacer_mm + self.thickness_mm < 0:
            raise DomainError(
                f"The {self.axle} strut tops have {axle.top_spacer_mm:g} mm of spacer to take out, not "
                f"{-self.thickness_mm:g}."
            )
        return {
            "top_spacer_mm": axle.top_spacer_mm + self.thickness_mm,
            "stud_left_mm": self.stud_left_mm if self.stud_left_mm is not None else axle.stud_left_mm,
        }

    def summary(self) -> str:
        """Thickness."""
        if self.thickness_mm < 0:
            return f"{millimetres(-self.thickness_mm)} taken out of the strut top"
        return named(self.part, f"{millimetres(self.thickness_mm)} on the strut top")

    def parts(self, machine: Vehicle) -> list[str]:
        """The pair of plates; none where they are taken out."""
        if self.thickness_mm <= 0:
            return []
        return [f"2 strut-top spacers {millimetres(self.thickness_mm)} {self.part} ({self.axle})".replace("  ", " ")]

    def order(self, machine: Vehicle, side: Side | None) -> Order | None:
        """Under the tower, studs through."""
        _ = side
        top = machine.axle(self.axle).strut_top
        if self.thickness_mm <= 0 or top is None:
            return None
        return laid("top mount", ("spacer", self.thickness_mm), "tower", ("washer", top.washer_mm), "nut", new="spacer")

    def steps(self, machine: Vehicle) -> list[str]:
        """Where it goes, or what comes out."""
        if self.thickness_mm < 0:
            return [f"Take the {millimetres(-self.thickness_mm)} spacer off the top mount, then offer the strut."]
        return [
            f"Set the {millimetres(self.thickness_mm)} spacer on the top mount, studs through, then offer the strut.",
            "Before the nuts: count the thread above the tower. The nut must sit on full thread.",
        ]
