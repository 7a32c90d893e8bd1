"""A bump stop of another height: it is touched earlier or later, and ends the travel there."""

from typing import ClassVar, Literal, Self

from pydantic import Field

from inclinum.core.car.changes.base import Change
from inclinum.core.car.vehicle import Axle, Vehicle
from inclinum.core.document.names import AxleName, PartNumber
from inclinum.core.plan import millimetres, named
from inclinum.core.springs.fitted import BumpStopData


class BumpStopSwap(Change):
    """Both bump stops of an axle replaced by new ones of known height."""

    title: ClassVar[str] = "Bump stops"
    removes: ClassVar[tuple[str, ...]] = ("bump stop",)
    opens: ClassVar[frozenset[str]] = frozenset({"stop"})
    deep: ClassVar[int] = 2
    place: ClassVar[str] = "Dampers and stops"
    known_as: ClassVar[tuple[str, ...]] = ("bump stops", "jounce buffers")
    costs: ClassVar[str] = "touched sooner or later; less or more travel before it"
    equation: ClassVar[str] = "contact moves by h′ − h; F at the same share of its height stays: c′ = c·(h/h′)^p"
    source: ClassVar[str] = "derived here for a stop of the same stuff and shape"
    provides: ClassVar[str] = "stop height"

    type: Literal["bump_stop_swap"] = "bump_stop_swap"
    height_mm: float = Field(
        gt=5, le=300, title="Height", json_schema_extra={"unit": "mm", "step": 1, "slider": [20, 140]}
    )
    part: PartNumber = ""

    @classmethod
    def start(cls, name: AxleName, axle: Axle) -> Self:
        """The height it has."""
        return cls(axle=name, height_mm=axle.bump_stop.height_mm)

    def changed(self, axle: Axle) -> dict[str, object]:
        """Contact moves by the difference in height; the same share of the stop can be squeezed.

        The force of a taller stop of the same stuff at the same *share* of its height is taken as equal.
        """
        return {"bump_stop": resized(axle.bump_stop, self.height_mm)}

    def summary(self) -> str:
        """Height."""
        return named(self.part, self.told)

    @property
    def size(self) -> float:
        """mm."""
        return self.height_mm

    def sized(self) -> str:
        """By its height."""
        return f"bump stops {millimetres(self.height_mm)} high"

    def at(self, value: float) -> Self:
        """Of another height, mm."""
        return self.model_copy(update={"height_mm": value})

    def parts(self, machine: Vehicle) -> list[str]:
        """The pair."""
        return [f"2 bump stops {self.summary()} ({self.axle})"]

    @property
    def told(self) -> str:
        """Its height."""
        return f"{millimetres(self.height_mm)} high"

    def steps(self, machine: Vehicle) -> list[str]:
        """Over the rod."""
        return [f"Slide the new bump stop, {self.told}, on the rod, narrow end down, dust boot over it."]


def resized(old: BumpStopData, height: float) -> BumpStopData:
    """A stop of the same stuff and shape, of another height, mm, in the same place.

    Source: derived here: at the same share of its height it has the same force, c′·(s·h′)^p = c·(s·h)^p.
    """
    scale, taller = height / old.height_mm, height - old.height_mm
    return old.model_copy(
        update={
            "height_mm": height,
            "contact_mm": None if old.contact_mm is None else old.contact_mm + taller,
            "contact_travel_mm": None if old.contact_travel_mm is None else old.contact_travel_mm - taller,
            "table": tuple((x * scale, f) for x, f in old.table),
            "max_compression_mm": old.max_compression_mm * scale,
            "coefficient": old.coefficient / scale**old.power,
        }
    )
