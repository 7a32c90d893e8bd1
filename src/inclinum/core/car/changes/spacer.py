"""What every plate and ring has in common: a thickness, which takes room from the spring."""

import math
from typing import TYPE_CHECKING, ClassVar, Self

from inclinum.core.car.changes.base import Change
from inclinum.core.car.vehicle import Axle
from inclinum.core.plan import Search, millimetres


class Spacer(Change):
    """Base of the spacers; a subclass gives the thickness its limits."""

    adds: ClassVar[bool] = True

    if TYPE_CHECKING:  # each subclass declares them among its own parameters, in the order of its form
        thickness_mm: float
        tolerance_mm: float

    @property
    def size(self) -> float:
        """mm."""
        return self.thickness_mm

    def sized(self) -> str:
        """By its thickness."""
        return f"{self.title.lower()} {millimetres(round(self.thickness_mm, 2))}"

    def at(self, value: float) -> Self:
        """Of another thickness, mm."""
        return self.model_copy(update={"thickness_mm": value})

    def less(self, by: float) -> tuple[Self | None, ...]:
        """Thinner in whole millimetres, or left out; one that was taken out takes nothing."""
        if self.thickness_mm <= 0:
            return ()
        left = math.floor(self.thickness_mm - by)
        return (self.at(float(left)) if left >= 1 else None,)

    def search(self, axle: Axle) -> Search | None:
        """Sold from 1 to 60 mm, in whole ones."""
        _ = axle
        return Search(1, 60, 1)

    def room_tolerance(self) -> float:
        """Of its thickness."""
        return self.tolerance_mm
