"""A change that nothing here computes, with the rise somebody states for it; of any machine."""

from typing import ClassVar, Self, TypeVar

from pydantic import Field, model_validator

from inclinum.core.card.fabrication import How, Routine, routine
from inclinum.core.document import Document
from inclinum.core.document.errors import DomainError
from inclinum.core.plan.change import Change
from inclinum.core.quantity.words import signed

MachineT = TypeVar("MachineT", bound=Document)


class StatedRise(Change[MachineT]):
    """What a seller or a shop states of one end, taken as stated: marked so wherever its number shows.

    A subclass says where it is done and puts the rise into its machine.
    """

    title: ClassVar[str] = "Stated change"
    place: ClassVar[str] = "Stated"
    known_as: ClassVar[tuple[str, ...]] = ("other", "body lift", "kit figure", "maker's claim")
    costs: ClassVar[str] = "its height is taken as stated; springs, loads and stops stay as they were"
    stated: ClassVar[bool] = True
    equation: ClassVar[str] = "Δz as stated"
    source: ClassVar[str] = "whoever states it"

    what: str = Field(min_length=1, max_length=80, title="What")
    rise_mm: float = Field(
        ge=-200,
        le=200,
        title="Rise stated",
        description="of the body at this axle; negative for a drop",
        json_schema_extra={"unit": "mm", "step": 1, "slider": [-60, 80]},
    )
    tolerance_mm: float = Field(default=5, ge=0, le=100, title="Stated to ±", json_schema_extra={"unit": "mm"})
    goes_back: bool = Field(default=True, title="Can be put back")
    how: How = Field(default="bolted_on", title="Fixed how", description="cut or drilled for, it does not go back")
    drill_mm: float | None = Field(
        default=None, gt=0, le=60, title="Holes it wants", description="of body work, else as its template says",
        json_schema_extra={"unit": "mm"},
    )  # fmt: skip

    @model_validator(mode="after")
    def _drilled(self) -> Self:
        if self.drill_mm is not None and self.how != "body_work":
            raise DomainError(
                f"holes of {self.drill_mm:g} mm are body work: say that it is fixed so, or leave them out"
            )
        return self

    @property
    def stays(self) -> bool:
        """Whether the machine cannot be put back as it came."""
        return not self.goes_back or self.fabrication().one_way

    def fabrication(self) -> Routine:
        """As it is said."""
        return routine(self.how, self.what, self.drill_mm)

    def rise_tolerance(self) -> float:
        """As stated, mm."""
        return self.tolerance_mm

    def summary(self) -> str:
        """What, marked."""
        return f"{self.what}: {signed(self.rise_mm)} ± {self.tolerance_mm:g} mm, stated, not computed"

    def parts(self, machine: MachineT) -> list[str]:
        """By its name."""
        _ = machine
        return [f"{self.what} ({self.where})"]

    def steps(self, machine: MachineT) -> list[str]:
        """By its maker's sheet."""
        _ = machine
        return [f"{self.what}: as its maker's sheet says."]

    def settled(self, machine: MachineT) -> list[str]:
        """What nobody computed is read."""
        _ = machine
        return [
            f"The {signed(self.rise_mm)} mm of {self.what} are stated, not computed: these heights show what they are."
        ]
