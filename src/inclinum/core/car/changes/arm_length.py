"""A link or an arm of another length, fixed or adjustable."""

from typing import ClassVar, Literal, Self

from pydantic import Field, model_validator

from inclinum.core.car.changes.base import Change, HeldThread
from inclinum.core.car.changes.geometry import longer, only_one, parted, titled
from inclinum.core.car.vehicle import Axle, Vehicle
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import AxleName, PartNumber, Side
from inclinum.core.kinematics import pair_name
from inclinum.core.kinematics.refit import arms, links
from inclinum.core.plan import Noted, named
from inclinum.core.quantity.words import signed


class ArmLength(Change):
    """A link or arm of an axle replaced by a longer or shorter one, at both sides."""

    title: ClassVar[str] = "Arm or link of another length"
    place: ClassVar[str] = "Arms and subframe"
    known_as: ClassVar[tuple[str, ...]] = (
        "adjustable arm",
        "camber arm",
        "toe arm",
        "lateral rod",
        "track bar",
        "upper arm",
        "control arm",
        "trailing link",
    )
    costs: ClassVar[str] = "moves the wheel and its angles; bushes and joints have to allow it"
    equation: ClassVar[str] = "the linkage solved with that length, wheel at its height"
    source: ClassVar[str] = "constraints of rigid bodies, textbooks of multibody dynamics; solved by the product"

    provides: ClassVar[str] = "link length"
    offered: ClassVar[bool] = False

    type: Literal["arm_length"] = "arm_length"
    outer: str = Field(max_length=60, title="Which", description="by its outer joint")
    longer_mm: float = Field(
        ge=-150,
        le=150,
        title="Longer by",
        description="of an arm, square to its pivots",
        json_schema_extra={"unit": "mm", "step": 0.5, "slider": [-30, 30]},
    )
    pitch_mm: float | None = Field(
        default=None,
        gt=0.2,
        le=6,
        title="Thread pitch",
        description="where it is screwed to length",
        json_schema_extra={"unit": "mm"},
    )
    thread_in_mm: float | None = Field(
        default=None, ge=0, le=200, title="Thread engaged now", description="of the end that is screwed",
        json_schema_extra={"unit": "mm"},
    )  # fmt: skip
    thread_diameter_mm: float | None = Field(
        default=None, gt=3, le=60, title="Thread diameter", json_schema_extra={"unit": "mm"}
    )
    both_ends: bool = Field(
        default=False, title="Left and right thread", description="a turn lengthens it twice, half at each end"
    )
    part: PartNumber = ""

    @model_validator(mode="after")
    def _thread(self) -> Self:
        if (self.thread_in_mm is None) != (self.thread_diameter_mm is None):
            raise DomainError("a thread holds by how much of it is in and how thick it is: give both, or neither")
        if self.both_ends and self.pitch_mm is None and self.thread_in_mm is None:
            raise DomainError("left and right thread says nothing without a pitch or a thread that is in")
        return self

    @classmethod
    def start(cls, name: AxleName, axle: Axle) -> Self:
        """The first there is, 5 mm longer."""
        there = _there(axle)
        if not there:
            raise DomainError(
                f"The {name} axle has no link or arm of its own length: {axle.linkage.title.lower()}. Move its pivots."
            )
        return cls(axle=name, outer=there[0], longer_mm=5)

    def choices(self, machine: Vehicle) -> dict[str, list[tuple[str, str]]]:
        """Links and arms by their outer joints."""
        return {"outer": titled(_there(machine.axle(self.axle)))}

    def changed(self, axle: Axle) -> dict[str, object]:
        """The linkage, and the wheel's angles where its points now hold."""
        if self.outer not in _there(axle):
            there = ", ".join(title for _, title in titled(_there(axle)))
            raise DomainError(
                f"No link of the {self.axle} axle ends at {pair_name(self.outer)}: {there or 'it has none'}."
            )
        return longer(axle, self.outer, self.longer_mm)

    @property
    def _turns(self) -> float | None:
        return self.longer_mm / self.pitch_mm / (2 if self.both_ends else 1) if self.pitch_mm else None

    def at(self, value: tuple[str, float]) -> Self:
        """Which, by its outer joint, and how much longer, mm."""
        return self.model_copy(update={"outer": value[0], "longer_mm": value[1]})

    def threads(self) -> tuple[HeldThread, ...]:
        """The screwed end: as much engaged as the thread is thick."""
        if self.thread_in_mm is None or self.thread_diameter_mm is None:
            return ()
        held = self.thread_in_mm - self.longer_mm / (2 if self.both_ends else 1)
        what = f"the arm to the {pair_name(self.outer)}"
        return (HeldThread(what, held, self.thread_diameter_mm, "1.0 × thread diameter in steel"),)

    def summary(self) -> str:
        """Which, and how much."""
        turns = "" if self._turns is None else f" = {signed(self._turns, '.2f')} turns"
        return named(self.part, f"to the {pair_name(self.outer)}: {signed(self.longer_mm)} mm{turns}")

    @property
    def told(self) -> str:
        """How much longer, and the turns where it is screwed."""
        turns = "" if self._turns is None else f" · {signed(self._turns, '.2f')} turns"
        return f"{signed(self.longer_mm)} mm{turns}"

    def noted(self, machine: Vehicle, side: Side | None) -> tuple[Noted, ...]:
        """Its length between the middles of its joints."""
        _ = machine, side
        return (Noted("length", f"to the {pair_name(self.outer)}, middle to middle", "mm", self.longer_mm),)

    def parts(self, machine: Vehicle) -> list[str]:
        """The pair, or the one."""
        count = 1 if self.across(machine) else 2
        return [f"{count} × {self._kind(machine)}, {self.summary()} ({self.axle})"]

    def across(self, machine: Vehicle) -> bool:
        """A rod across a solid axle, or a link in its middle."""
        return only_one(machine.axle(self.axle).linkage, self.outer)

    def _kind(self, machine: Vehicle) -> str:
        if self.outer.startswith("lateral_rod"):
            return "lateral rod"
        return "arm" if self.outer in arms(machine.axle(self.axle).linkage) else "link"

    def opened(self, machine: Vehicle) -> frozenset[str]:
        """Both ends of the arm, all of its legs."""
        return parted(machine.axle(self.axle).linkage, self.outer)

    def steps(self, machine: Vehicle) -> list[str]:
        """Length set on the bench; bushes at ride height."""
        alike = "" if self.across(machine) else ", both sides alike"
        return [f"New {self._kind(machine)} laid beside the old one: {self.told} between its bolts{alike}; locked."]


def _there(axle: Axle) -> tuple[str, ...]:
    return (*arms(axle.linkage), *links(axle.linkage))
