"""A packer under a bump stop, on damper, axle or frame: touched sooner, as hard as before."""

from typing import ClassVar, Literal, Self

from pydantic import Field

from inclinum.core.car.changes.base import Change
from inclinum.core.car.vehicle import Axle, Vehicle
from inclinum.core.document.names import AxleName, PartNumber
from inclinum.core.plan import millimetres, named
from inclinum.core.quantity.words import signed


class StopRaised(Change):
    """Both bump stops of an axle set nearer to what they meet."""

    title: ClassVar[str] = "Bump stops packed out"
    opens: ClassVar[frozenset[str]] = frozenset({"stop"})
    deep: ClassVar[int] = 2
    place: ClassVar[str] = "Dampers and stops"
    known_as: ClassVar[tuple[str, ...]] = ("bump stop extension", "packer", "lowered bump stop")
    costs: ClassVar[str] = "takes bump; spares damper, tyre and shafts"
    equation: ClassVar[str] = "touched n sooner: of the damper's length, or of the wheel's travel for one over the axle"
    source: ClassVar[str] = "derived here: a sum of lengths"
    provides: ClassVar[str] = "stop packed"

    type: Literal["stop_raised"] = "stop_raised"
    by_mm: float = Field(
        ge=-100,
        le=150,
        title="Nearer by",
        description="negative for a packer taken out",
        json_schema_extra={"unit": "mm", "step": 1, "slider": [-20, 80]},
    )
    part: PartNumber = ""

    @classmethod
    def start(cls, name: AxleName, axle: Axle) -> Self:
        """10 mm."""
        _ = axle
        return cls(axle=name, by_mm=10)

    def changed(self, axle: Axle) -> dict[str, object]:
        """Where it is first touched."""
        stop = axle.bump_stop
        if stop.contact_mm is not None:
            return {"bump_stop": stop.model_copy(update={"contact_mm": stop.contact_mm + self.by_mm})}
        assert stop.contact_travel_mm is not None, "a stop is touched somewhere"
        return {"bump_stop": stop.model_copy(update={"contact_travel_mm": stop.contact_travel_mm - self.by_mm})}

    @property
    def size(self) -> float:
        """mm."""
        return self.by_mm

    def at(self, value: float) -> Self:
        """By another packer, mm."""
        return self.model_copy(update={"by_mm": value})

    def summary(self) -> str:
        """By how much."""
        return named(self.part, f"{signed(self.by_mm)} mm nearer")

    def parts(self, machine: Vehicle) -> list[str]:
        """The pair; none where one is only taken out."""
        _ = machine
        return [f"2 bump stop packers {millimetres(self.by_mm)} ({self.axle})"] if self.by_mm > 0 else []

    @property
    def told(self) -> str:
        """What goes under it, or comes out."""
        return f"{signed(self.by_mm)} mm"

    def steps(self, machine: Vehicle) -> list[str]:
        """Bolt length."""
        _ = machine
        thick = millimetres(abs(self.by_mm))
        packed = (
            f"{thick} packer on its full face, bolt longer by as much"
            if self.by_mm >= 0
            else f"{thick} of packer out, bolt shorter by as much"
        )
        return [f"{packed}; the stop still meets its pad in the middle."]
