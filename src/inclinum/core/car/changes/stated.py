"""A change that nothing here computes, with the rise somebody states for it."""

from typing import Literal, Self

from inclinum.core.car.changes.base import Change
from inclinum.core.car.vehicle import Axle, Vehicle
from inclinum.core.document.names import AxleName
from inclinum.core.plan.stated import StatedRise


class Stated(StatedRise[Vehicle], Change):
    """What somebody states of one axle."""

    type: Literal["stated"] = "stated"

    @classmethod
    def start(cls, name: AxleName, axle: Axle) -> Self:
        """20 mm of something."""
        _ = axle
        return cls(axle=name, what="as its seller states", rise_mm=20)

    def changed(self, axle: Axle) -> dict[str, object]:
        """Just the height."""
        return {"stated_mm": axle.stated_mm + self.rise_mm}
