"""A change that nothing here computes, with the rise somebody states for it."""

from typing import ClassVar, Literal, Self

from pydantic import Field

from inclinum.core.bike.changes.base import BikeChange
from inclinum.core.bike.machine import ENDS, Bike, End
from inclinum.core.plan.stated import StatedRise


class BikeStated(StatedRise[Bike], BikeChange):
    """What somebody states of one end."""

    end: ClassVar = None

    type: Literal["bike_stated"] = "bike_stated"
    axle: End = Field(default="rear", title="End")

    @property
    def where(self) -> End:
        """Its end."""
        return self.axle

    @classmethod
    def ends(cls) -> tuple[End, ...]:
        """Either."""
        return ENDS

    @classmethod
    def start(cls, bike: Bike) -> Self:
        """Nothing yet: what is stated is typed."""
        _ = bike
        return cls(what="as its seller states", rise_mm=0)

    def apply(self, machine: Bike) -> Bike:
        """Just the height."""
        field = "stated_front_mm" if self.axle == "front" else "stated_rear_mm"
        return machine.model_copy(update={field: getattr(machine, field) + self.rise_mm})
