"""A helper leaf or overload spring that joins when the pack is pressed far enough."""

from typing import ClassVar, Literal, Self

from pydantic import Field

from inclinum.core.car.changes.base import Change
from inclinum.core.car.changes.on_leaves import pack_of
from inclinum.core.car.vehicle import Axle, Vehicle
from inclinum.core.document.names import AxleName, PartNumber
from inclinum.core.plan import millimetres, named
from inclinum.core.springs.fitted import LeafHelper


class HelperLeaf(Change):
    """Helper leaves on both packs of an axle."""

    title: ClassVar[str] = "Helper leaves"
    opens: ClassVar[frozenset[str]] = frozenset({"axle clamp"})
    place: ClassVar[str] = "Leaf packs"
    known_as: ClassVar[tuple[str, ...]] = ("overload leaf", "load helper", "assist spring")
    costs: ClassVar[str] = "nothing until it is met; hard from there on"
    equation: ClassVar[str] = "F = k·x + kₕ·max(0, x − c): beside the pack from contact on"
    source: ClassVar[str] = "derived here: two springs side by side"

    type: Literal["helper_leaf"] = "helper_leaf"
    rate_n_per_mm: float = Field(gt=0, le=2000, title="Rate", json_schema_extra={"unit": "N/mm", "step": 1})
    contact_mm: float = Field(
        ge=0,
        le=600,
        title="Met after",
        description="deflection of the main pack from its free arch",
        json_schema_extra={"unit": "mm", "step": 1, "slider": [0, 200]},
    )
    thickness_mm: float = Field(
        default=0, ge=0, le=100, title="Thickness together", description="under the U-bolts: they have to be as much "
        "longer", json_schema_extra={"unit": "mm"},
    )  # fmt: skip
    part: PartNumber = ""

    @classmethod
    def start(cls, name: AxleName, axle: Axle) -> Self:
        """As stiff as the pack itself, met where the pack stands now."""
        pack = pack_of(name, axle)
        rate = round(float(pack.spring().stiffness(-1e3)), 0)
        return cls(axle=name, rate_n_per_mm=max(rate, 1), contact_mm=max(0, round(pack.free_arch_mm - pack.arch_mm)))

    def changed(self, axle: Axle) -> dict[str, object]:
        """The helper; one that was there comes off."""
        helper = LeafHelper(
            rate_n_per_mm=self.rate_n_per_mm, contact_deflection_mm=self.contact_mm, thickness_mm=self.thickness_mm
        )
        return {"spring": pack_of(self.axle, axle).model_copy(update={"helper": helper})}

    def summary(self) -> str:
        """Rate and contact."""
        return named(self.part, f"{self.rate_n_per_mm:g} N/mm, {self.told}")

    def parts(self, machine: Vehicle) -> list[str]:
        """The pair."""
        _ = machine
        return [f"2 helper leaves {self.summary()} with their clips ({self.axle})"]

    @property
    def told(self) -> str:
        """Where it is met."""
        return f"met after {millimetres(self.contact_mm)}"

    def steps(self, machine: Vehicle) -> list[str]:
        """Contact is read, not guessed."""
        _ = machine
        return [
            "Both ends of the helper meet their pads together, when the pack is "
            f"{millimetres(self.contact_mm)} down from its free arch; gap left and right alike with the vehicle empty."
        ]
