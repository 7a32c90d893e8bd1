"""What every change is: parameters with titles, units and limits, and a pure function Vehicle → Vehicle."""

from typing import ClassVar, Self

from pydantic import Field

from inclinum.core.document import Document
from inclinum.core.vehicle import Axle, AxleName, Vehicle


class Change(Document):
    """Base of all changes of one axle. A subclass adds a literal ``type``; its other
    fields are its parameters."""

    title: ClassVar[str]
    reversible: ClassVar[bool] = True
    takes_apart: ClassVar[bool] = True
    """Whether the spring comes out for it."""

    axle: AxleName = Field(title="Axle")

    @classmethod
    def start(cls, name: AxleName, axle: Axle) -> Self:
        """A change of this kind to begin with on an axle: a neutral or small one, ready to be set.

        Raises:
            ValueError: the axle cannot take it.
        """
        raise ValueError(f"The change “{cls.title}” has no starting value for the {name} axle.")

    def apply(self, vehicle: Vehicle) -> Vehicle:
        """The vehicle with this change made. Never alters its argument."""
        return vehicle.with_axle(self.axle, **self.changed(vehicle.axle(self.axle)))

    def changed(self, axle: Axle) -> dict[str, object]:
        """Fields of the axle that this change replaces."""
        raise ValueError(f"The change “{self.title}” does not say what it changes on {axle.linkage.kind}.")

    def summary(self) -> str:
        """One line as it stands on the stack and on the card."""
        raise ValueError(f"The change “{self.title}” has no summary.")

    def parts(self) -> list[str]:
        """Parts to have before the vehicle goes up, for both sides."""
        return []

    def fitting(self) -> list[str]:
        """What to do at one side when the spring is out, in order."""
        return []

    def room_tolerance(self) -> float:
        """± of the room it takes from the spring, mm."""
        return 0.0


def millimetres(value: float) -> str:
    """A length for a sentence, without a useless .0."""
    return f"{value:g} mm"
