"""The propeller shaft's other end: gearbox or centre bearing lowered, or a spacer on a flange."""

from typing import ClassVar, Literal, Self

from pydantic import Field, model_validator

from inclinum.core.car.changes.base import Change
from inclinum.core.car.vehicle import Axle, Vehicle
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import AxleName, PartNumber
from inclinum.core.plan import millimetres, named
from inclinum.core.quantity.words import signed


class PropShaftSet(Change):
    """The body's end of the propeller shaft of an axle moved, tipped, or lengthened by a spacer."""

    title: ClassVar[str] = "Propeller shaft, gearbox end"
    opens: ClassVar[frozenset[str]] = frozenset({"propeller shaft"})
    place: ClassVar[str] = "Arms and subframe"
    known_as: ClassVar[tuple[str, ...]] = (
        "propeller shaft spacer", "transfer box drop", "gearbox spacers", "centre bearing spacer", "shakes at speed",
    )  # fmt: skip
    costs: ClassVar[str] = "joints bend otherwise; what else hangs on the gearbox goes down with it"
    equation: ClassVar[str] = "each joint bends by the angle between the shaft's line and what it joins"
    source: ClassVar[str] = "two universal joints cancel where both bend alike, textbooks of machine elements"

    type: Literal["prop_shaft"] = "prop_shaft"
    down_mm: float = Field(
        default=0, ge=-100, le=150, title="Gearbox end lower by",
        json_schema_extra={"unit": "mm", "step": 1, "slider": [0, 60]},
    )  # fmt: skip
    tipped_deg: float = Field(
        default=0, ge=-15, le=15, title="Points down by", description="more than it did, towards the axle",
        json_schema_extra={"unit": "°", "step": 0.5},
    )  # fmt: skip
    spacer_mm: float = Field(
        default=0, ge=-50, le=150, title="Spacer on a flange", description="negative for one taken out",
        json_schema_extra={"unit": "mm", "step": 1},
    )  # fmt: skip
    part: PartNumber = ""

    @model_validator(mode="after")
    def _something(self) -> Self:
        if not (self.down_mm or self.tipped_deg or self.spacer_mm):
            raise DomainError("nothing is moved: give a height, an angle or a spacer")
        return self

    @classmethod
    def start(cls, name: AxleName, axle: Axle) -> Self:
        """20 mm down."""
        _known(name, axle)
        return cls(axle=name, down_mm=20)

    def changed(self, axle: Axle) -> dict[str, object]:
        """Joint, direction and length. Raises DomainError where the shaft is not known."""
        _known(self.axle, axle)
        shaft = axle.prop_shaft
        assert shaft is not None, "it is known"
        x, y, z = shaft.gearbox_joint
        moved = {
            "gearbox_joint": (x, y, z - self.down_mm),
            "gearbox_down_deg": shaft.gearbox_down_deg + self.tipped_deg,
            "longer_mm": shaft.longer_mm + self.spacer_mm,
        }
        return {"prop_shaft": shaft.model_copy(update=moved)}

    def summary(self) -> str:
        """What is moved."""
        words = [
            f"gearbox end {millimetres(abs(self.down_mm))} {'lower' if self.down_mm > 0 else 'higher'}"
            if self.down_mm
            else "",
            f"{signed(self.tipped_deg)}° down" if self.tipped_deg else "",
            f"spacer {signed(self.spacer_mm)} mm" if self.spacer_mm else "",
        ]
        return named(self.part, ", ".join(w for w in words if w))

    def parts(self, machine: Vehicle) -> list[str]:
        """Spacers and bolts."""
        _ = machine
        gearbox = [f"Spacers {millimetres(self.down_mm)} and longer bolts, gearbox mount"] if self.down_mm > 0 else []
        flange = (
            [f"Flange spacer {millimetres(self.spacer_mm)} {self.part} with longer bolts".replace("  ", " ")]
            if self.spacer_mm > 0
            else []
        )
        return [f"{part} ({self.axle})" for part in (*gearbox, *flange)]

    def steps(self, machine: Vehicle) -> list[str]:
        """Marks and joints."""
        _ = machine
        return [
            "Yokes in one plane.",
            f"Propeller shaft: {self.summary()}. Hoses, levers and exhaust of the gearbox free to follow.",
        ]


def _known(name: AxleName, axle: Axle) -> None:
    if not axle.linkage.coupled:
        raise DomainError(f"The {name} axle has a differential on the body: its propeller shaft does not move with it.")
    if axle.prop_shaft is None:
        raise DomainError(
            f"The propeller shaft of the {name} axle is not known: enter both its joints with the vehicle's figures."
        )
