"""Something heavy that stays: a winch, a bar, a tank, a bed full of tools."""

from typing import ClassVar, Literal, Self

from pydantic import Field

from inclinum.core.car.changes.base import Change
from inclinum.core.car.vehicle import Axle, Vehicle
from inclinum.core.document.names import AXLES, AxleName
from inclinum.core.plan import millimetres, named
from inclinum.core.quantity.words import signed


class Load(Change):
    """Weight put on or taken off for good, at its place along the vehicle."""

    title: ClassVar[str] = "Weight put on or off"
    place: ClassVar[str] = "Wheels and load"
    known_as: ClassVar[tuple[str, ...]] = ("winch", "bull bar", "long-range tank", "tow bar", "roof tent", "tools")
    costs: ClassVar[str] = "sinks by load over rate; less is left before the stop"
    equation: ClassVar[str] = "each axle takes its share by the lever: m·(1 + x/l) and −m·x/l, x forward of the axles"
    source: ClassVar[str] = "statics, balance of moments"

    type: Literal["load"] = "load"
    mass_kg: float = Field(
        ge=-2000,
        le=5000,
        title="Mass",
        description="negative for what is taken off",
        json_schema_extra={"unit": "kg", "step": 1, "slider": [0, 300]},
    )
    ahead_mm: float = Field(
        default=0,
        ge=-8000,
        le=8000,
        title="Ahead of this axle",
        description="negative for behind it",
        json_schema_extra={"unit": "mm", "step": 10},
    )
    what: str = Field(default="", max_length=60, title="What")

    @classmethod
    def start(cls, name: AxleName, axle: Axle) -> Self:
        """50 kg over the axle."""
        _ = axle
        return cls(axle=name, mass_kg=50)

    def touches(self, name: AxleName) -> bool:
        """Both ends take their share."""
        _ = name
        return True

    def apply(self, machine: Vehicle) -> Vehicle:
        """Both axles carry their share."""
        at = machine.axle_x(self.axle) + self.ahead_mm
        on_rear = -at / machine.wheelbase_mm
        for name, share in zip(AXLES, (1 - on_rear, on_rear), strict=True):
            carried = machine.axle(name).carried_kg + self.mass_kg * share / 2
            machine = machine.with_axle(name, carried_kg=carried)
        return machine

    def summary(self) -> str:
        """What, how much, where."""
        where = f"{millimetres(abs(self.ahead_mm))} {'ahead of' if self.ahead_mm > 0 else 'behind'}"
        return named(self.what, f"{signed(self.mass_kg)} kg {where if self.ahead_mm else 'over'} the {self.axle} axle")

    def parts(self, machine: Vehicle) -> list[str]:
        """What goes on."""
        _ = machine
        return [self.summary()] if self.mass_kg > 0 else []

    def settled(self, machine: Vehicle) -> list[str]:
        """Limits of the papers."""
        _ = machine
        return [f"{self.summary()}: weigh both axles afterwards; axle and gross limits of the papers still hold."]
