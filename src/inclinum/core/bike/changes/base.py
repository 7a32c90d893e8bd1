"""What every change of a two-wheeler is: parameters, and a pure function Bike → Bike."""

from typing import ClassVar, Self

from inclinum.core.bike.bike import Bike, End
from inclinum.core.document import Document


class BikeChange(Document):
    """Base of all changes. A subclass adds a literal ``type``; its other fields are its parameters."""

    title: ClassVar[str]
    end: ClassVar[End | None]
    """Where it is done; None beside both."""
    reversible: ClassVar[bool] = True

    @classmethod
    def start(cls, bike: Bike) -> Self:
        """A change of this kind to begin with: neutral or small.

        Raises:
            ValueError: the machine cannot take it.
        """
        raise ValueError(f"The change “{cls.title}” has no starting value.")

    def apply(self, bike: Bike) -> Bike:
        """The machine with this change made. Raises ValueError where it cannot take it."""
        raise ValueError(f"The change “{self.title}” does not say what it changes on {bike.name}.")

    def summary(self) -> str:
        """One line as it stands on the stack and on the card."""
        raise ValueError(f"The change “{self.title}” has no summary.")

    def parts(self, bike: Bike) -> list[str]:
        """Parts to have before the machine goes up."""
        _ = bike
        return []

    def steps(self, bike: Bike) -> list[str]:
        """What to do, in order."""
        _ = bike
        return []


def named(part: str, text: str) -> str:
    """A summary with its part number in front."""
    return f"{part}: {text}" if part else text
