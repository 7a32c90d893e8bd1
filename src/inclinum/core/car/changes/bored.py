"""Eyes of a damper or unit against the bolts they go on, and the sleeves between."""

from typing import Self

from pydantic import Field

from inclinum.core.car.changes.base import Change
from inclinum.core.springs.fitted import DamperData

FITS_MM = 0.3
"""An eye goes on a bolt that is so much thinner, and does not knock on it."""


class Bored(Change):
    """Base of the changes that bring eyes of their own."""

    upper_bore_mm: float | None = Field(
        default=None, gt=3, le=60, title="Bore, upper eye", description="held against the bolt it goes on",
        json_schema_extra={"unit": "mm"},
    )  # fmt: skip
    lower_bore_mm: float | None = Field(
        default=None, gt=3, le=60, title="Bore, lower eye", json_schema_extra={"unit": "mm"}
    )
    sleeves: bool = Field(
        default=False, title="Sleeves ordered", description="from bore to bolt, where the eye is wider"
    )

    def with_sleeves(self) -> Self | None:
        """The same with sleeves; None where they are ordered already."""
        return None if self.sleeves else self.model_copy(update={"sleeves": True})

    def bores(self, damper: DamperData) -> dict[str, float | None]:
        """Bores as they are with what is ordered, by the damper's own fields."""
        found = {}
        for end in ("upper", "lower"):
            bore, bolt = getattr(self, f"{end}_bore_mm"), getattr(damper, f"{end}_bolt_mm")
            found[f"{end}_bore_mm"] = bolt if self.sleeves and bore and bolt and bore > bolt else bore
        return found

    def sleeve_parts(self, damper: DamperData) -> list[str]:
        """Sleeves by their two diameters."""
        return [
            f"2 sleeves {bore:g} × {bolt:g} mm for the {end} eyes ({self.axle})"
            for end in ("upper", "lower")
            if self.sleeves
            and (bore := getattr(self, f"{end}_bore_mm"))
            and (bolt := getattr(damper, f"{end}_bolt_mm"))
            and bore > bolt + FITS_MM
        ]
