"""An adjustable plate in place of the top mount: slots, its own height, and spacers by their order."""

from typing import ClassVar, Literal, Self

from pydantic import Field, model_validator

from inclinum.core.car.changes.base import Change
from inclinum.core.car.changes.geometry import moved, shift
from inclinum.core.car.vehicle import AdjusterData, Axle, SlotAdjuster, StrutTop, Vehicle
from inclinum.core.card.order import Order, laid
from inclinum.core.document import Document
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import AxleName, PartNumber, Side
from inclinum.core.kinematics import pair_name
from inclinum.core.kinematics.mounts import stand_together
from inclinum.core.plan import millimetres, named
from inclinum.core.quantity.words import signed


class PlateSpacer(Document):
    """A washer or spacer of the stack."""

    thickness_mm: float = Field(gt=0, le=60, title="Thickness", examples=[5.0], json_schema_extra={"unit": "mm"})
    lies: Literal["tower_to_plate", "plate_to_nut"] = Field(
        default="tower_to_plate", title="Lies",
        description="between tower and plate it takes the unit down; under the nut it only takes thread",
    )  # fmt: skip


class TopPlate(Change):
    """Both top mounts of an axle replaced by slotted plates."""

    title: ClassVar[str] = "Adjustable top plate"
    opens: ClassVar[frozenset[str]] = frozenset({"inside the unit"})
    place: ClassVar[str] = "Strut top"
    known_as: ClassVar[tuple[str, ...]] = ("camber plate", "caster plate", "slotted top mount", "pillow ball mount")
    costs: ClassVar[str] = "camber or caster to set from then on; a joint in place of rubber is heard"
    equation: ClassVar[str] = "the top point moved along its slots; unit lower by plate and spacers under the tower"
    source: ClassVar[str] = "constraints of rigid bodies, textbooks of multibody dynamics; a sum of lengths"

    type: Literal["top_plate"] = "top_plate"
    in_mm: float = Field(
        default=0, ge=-40, le=40, title="Set in by", description="towards the middle: more negative camber",
        json_schema_extra={"unit": "mm", "step": 0.5, "slider": [-15, 15]},
    )  # fmt: skip
    most_in_mm: float = Field(default=10, ge=0, le=40, title="Slot goes in", json_schema_extra={"unit": "mm"})
    most_out_mm: float = Field(default=10, ge=0, le=40, title="Slot goes out", json_schema_extra={"unit": "mm"})
    back_mm: float = Field(
        default=0, ge=-40, le=40, title="Set back by", description="more caster",
        json_schema_extra={"unit": "mm", "step": 0.5},
    )  # fmt: skip
    most_back_mm: float = Field(
        default=0, ge=0, le=40, title="Slot goes back and forward", description="0: it has no slot along the car",
        json_schema_extra={"unit": "mm"},
    )  # fmt: skip
    step_mm: float = Field(default=1, gt=0, le=10, title="Finest setting", json_schema_extra={"unit": "mm"})
    lower_mm: float = Field(
        default=0, ge=-60, le=60, title="Unit lower by", description="in this plate than in the old mount, no spacers",
        json_schema_extra={"unit": "mm", "step": 1},
    )  # fmt: skip
    stack: tuple[PlateSpacer, ...] = Field(default=(), max_length=8, title="Spacers, from below")
    stud_length_mm: float | None = Field(
        default=None, gt=5, le=200, title="Studs above the bare tower", description="of the plate, if its own",
        json_schema_extra={"unit": "mm"},
    )  # fmt: skip
    stands_up_mm: float = Field(
        default=0, ge=0, le=150, title="Stands above the studs", description="plate or unit, to the bonnet",
        json_schema_extra={"unit": "mm"},
    )  # fmt: skip
    part: PartNumber = ""

    @model_validator(mode="after")
    def _in_its_slots(self) -> Self:
        if not -self.most_out_mm <= self.in_mm <= self.most_in_mm:
            raise DomainError(
                f"the slot goes {self.most_in_mm:g} mm in and {self.most_out_mm:g} mm out: {self.in_mm:g} is beyond it"
            )
        if abs(self.back_mm) > self.most_back_mm:
            raise DomainError(f"the slot goes {self.most_back_mm:g} mm back: {self.back_mm:g} is beyond it")
        return self

    @classmethod
    def start(cls, name: AxleName, axle: Axle) -> Self:
        """In the middle of its slots, as high as the old mount."""
        _top(name, axle)
        return cls(axle=name)

    @property
    def down_mm(self) -> float:
        """How much lower the unit hangs than in the old mount, mm."""
        return self.lower_mm + sum(s.thickness_mm for s in self.stack if s.lies == "tower_to_plate")

    def changed(self, axle: Axle) -> dict[str, object]:
        """The top point, the room of unit and spring, studs, and slots to set from then on.

        Raises:
            DomainError: the axle has no strut top, or its points differ left and right.
        """
        top = _top(self.axle, axle)
        found: dict[str, object] = {"top_spacer_mm": axle.top_spacer_mm + self.down_mm}
        if self.in_mm or self.back_mm:
            found |= moved(axle, {top: shift(-self.back_mm, -self.in_mm, 0.0)})
        studs = axle.strut_top
        assert studs is not None, "an axle with a strut top has its studs"
        under_nut = sum(s.thickness_mm for s in self.stack if s.lies == "plate_to_nut")
        gap = studs.bonnet_gap_mm
        found["strut_top"] = StrutTop.model_validate(
            studs.model_dump() | {
                "stud_length_mm": self.stud_length_mm or studs.stud_length_mm,
                "washer_mm": studs.washer_mm + under_nut,
                "bonnet_gap_mm": None if gap is None else gap - self.stands_up_mm,
            }
        )  # fmt: skip
        found["stud_left_mm"] = None
        have = {a.name for a in axle.adjusters}
        new: list[AdjusterData] = [
            SlotAdjuster(
                name=name, point=top, direction=along, min_mm=low, max_mm=high, step_mm=self.step_mm
            )
            for name, along, low, high in (
                ("top plate, in and out", (0, 1, 0), -(self.most_in_mm - self.in_mm), self.most_out_mm + self.in_mm),
                (
                    "top plate, back and forward", (1, 0, 0), -(self.most_back_mm - self.back_mm),
                    self.most_back_mm + self.back_mm,
                ),
            )
            if high > low and name not in have
        ]  # fmt: skip
        # Slots that were at this point are those of the mount that comes out.
        kept = [a for a in axle.adjusters if not (isinstance(a, SlotAdjuster) and a.point == top)]
        found["adjusters"] = (*kept, *new)
        return found

    def summary(self) -> str:
        """Slots and height."""
        slots = f"{signed(self.in_mm)} mm in" + (f", {signed(self.back_mm)} mm back" if self.most_back_mm else "")
        down = f", unit {millimetres(self.down_mm)} lower" if self.down_mm else ""
        return named(self.part, slots + down)

    def parts(self, machine: Vehicle) -> list[str]:
        """The pair, and the spacers by order."""
        _ = machine
        spacers = [f"2 spacers {millimetres(s.thickness_mm)} ({self.axle} top plate)" for s in self.stack]
        return [f"2 adjustable top plates {self.part} ({self.axle})".replace("  ", " "), *spacers]

    def order(self, machine: Vehicle, side: Side | None) -> Order | None:
        """Plate and spacers under the tower, washer and spacers under the nut."""
        _ = side
        top = machine.axle(self.axle).strut_top
        if not self.stack or top is None:
            return None
        under, over = (
            [("spacer", s.thickness_mm) for s in self.stack if s.lies == lies]
            for lies in ("tower_to_plate", "plate_to_nut")
        )
        return laid("plate", *under, "tower", ("washer", top.washer_mm), *over, "nut", new="spacer")

    def steps(self, machine: Vehicle) -> list[str]:
        """Order of the stack, slots, which side."""
        point = pair_name(_top(self.axle, machine.axle(self.axle)))
        order = [
            f"{millimetres(s.thickness_mm)} {'under the tower' if s.lies == 'tower_to_plate' else 'under the nut'}"
            for s in self.stack
        ]
        stacked = f" Stack from below: {', '.join(order)}." if order else ""
        return [
            f"Plates are left and right; slot towards the middle of the car, {self.summary()}.{stacked}",
            f"Mark where the {point} stands in its slot; camber and toe are set after.",
        ]


def _top(name: AxleName, axle: Axle) -> str:
    """Name of the point a strut hangs on at the body.

    Raises:
        DomainError: no strut hangs under a tower there.
    """
    corner = axle.linkage.corner(300.0, 0.0, 0.0)
    if axle.strut_top is None or corner.damper is None:
        raise DomainError(
            f"The {name} axle has no strut top with studs for a plate: enter them with the vehicle's figures."
        )
    if axle.linkage.coupled:
        raise DomainError(
            f"The wheels of the {name} axle are set by the axle itself: slots over its dampers set no angle."
        )
    if not stand_together(axle.linkage) and corner.damper.start not in axle.linkage.named_points():
        raise DomainError(f"The {name} dampers hang on no point of their own.")
    return corner.damper.start
