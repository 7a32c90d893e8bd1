"""What every change of a two-wheeler is, beside what every change is."""

from typing import ClassVar, Self

from inclinum.core.bike.machine import Bike, End
from inclinum.core.document.errors import DomainError
from inclinum.core.plan import Change, Search


class BikeChange(Change[Bike]):
    """Base of all changes. A subclass adds a literal ``type``; its other fields are its parameters."""

    end: ClassVar[End | None]
    """Where it is done; None beside both."""
    sets_collar: ClassVar[bool] = False
    """Whether it ends with the rear collar set."""

    @property
    def where(self) -> End | None:
        """Its end."""
        return self.end

    @classmethod
    def ends(cls) -> tuple[End, ...]:
        """Its end."""
        return () if cls.end is None else (cls.end,)

    @classmethod
    def start(cls, bike: Bike) -> Self:
        """A change of this kind to begin with: neutral or small.

        Raises:
            ValueError: the machine cannot take it.
        """
        raise DomainError(f"The change “{cls.title}” has no starting value.")

    def search(self, bike: Bike) -> Search | None:
        """What it is searched by; None where no one number of it raises or lowers the body.

        Args:
            bike: as the changes before this one leave it.
        """
        _ = bike
        return None

    def rise_tolerance(self) -> float:
        """± of the rise it is stated to give, mm."""
        return 0.0

    def mended(self) -> Self | None:
        """The same without what is refused of it; None where nothing is."""
        return None

    def figure(self, bike: Bike) -> str | None:
        """The number its step is about, large on the card; None where it has none.

        Args:
            bike: as the changes before this one leave it.
        """
        _ = bike
        return None
