"""What every change of a two-wheeler is, beside what every change is."""

from typing import ClassVar, Self

from inclinum.core.bike.machine import Bike, End
from inclinum.core.document.errors import DomainError
from inclinum.core.plan import Change


class BikeChange(Change[Bike]):
    """Base of all changes. A subclass adds a literal ``type``; its other fields are its parameters."""

    end: ClassVar[End | None]
    """Where it is done; None beside both."""

    @property
    def where(self) -> End | None:
        """Its end."""
        return self.end

    @classmethod
    def start(cls, bike: Bike) -> Self:
        """A change of this kind to begin with: neutral or small.

        Raises:
            ValueError: the machine cannot take it.
        """
        raise DomainError(f"The change “{cls.title}” has no starting value.")
