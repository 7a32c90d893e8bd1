"""A torsion bar turned in its splines: the arm's free angle changes by whole teeth, and the body with it."""

import math
from itertools import pairwise
from typing import ClassVar, Literal, Self

from pydantic import Field

from inclinum.core.car.changes.base import Change
from inclinum.core.car.vehicle import Axle, Vehicle
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import AxleName, Side
from inclinum.core.plan import Noted, Search
from inclinum.core.quantity.words import below_horizontal, signed
from inclinum.core.springs.fitted import TorsionBarData
from inclinum.core.springs.torsion import Splines

COARSE = 12
"""Settings that are looked through first, to find where the wanted height lies."""
WINDOW_TEETH, WINDOW_DEG = 12, 10.0
"""Settings that are looked through: teeth at each end, and change of the free angle."""


def _bar(name: AxleName, axle: Axle) -> TorsionBarData:
    if not isinstance(axle.spring, TorsionBarData):
        raise DomainError(
            f"The {name} axle has no torsion bars to turn in their splines, but {axle.spring.in_a_sentence}."
        )
    return axle.spring


class TorsionReindex(Change):
    """Both bars of an axle turned by teeth at one end, or at both: the difference of two divisions is a fine step."""

    title: ClassVar[str] = "Torsion bars re-indexed"
    opens: ClassVar[frozenset[str]] = frozenset({"torsion bar"})
    place: ClassVar[str] = "Torsion bars"
    known_as: ClassVar[tuple[str, ...]] = ("re-index", "teeth", "spline setting")
    costs: ClassVar[str] = "the window of travel stays: what bump gains, droop loses"
    equation: ClassVar[str] = "Δα = 360°·(i/nᵢ − o/nₒ), the body rises where the arm hangs lower with nothing on it"
    source: ClassVar[str] = "derived here: a tooth is 1/n of a turn; the ends turn the bar against each other"
    provides: ClassVar[str] = "free angle"

    type: Literal["torsion_reindex"] = "torsion_reindex"
    inner_teeth: int = Field(default=30, ge=8, le=90, title="Teeth at the inner end")
    outer_teeth: int = Field(default=32, ge=8, le=90, title="Teeth at the outer end")
    inner_by: int = Field(
        default=0,
        ge=-45,
        le=45,
        title="Inner end by",
        description="teeth; positive raises the body",
        json_schema_extra={"unit": "teeth", "step": 1},
    )
    outer_by: int = Field(
        default=0, ge=-45, le=45, title="Outer end by", description="teeth, the same way round; positive lowers it",
        json_schema_extra={"unit": "teeth", "step": 1},
    )  # fmt: skip

    @classmethod
    def start(cls, name: AxleName, axle: Axle) -> Self:
        """Nothing turned yet: the teeth are counted first."""
        _bar(name, axle)
        return cls(axle=name)

    @property
    def angle(self) -> float:
        """Change of the free angle, rad; positive raises the body."""
        return Splines(self.inner_teeth, self.outer_teeth).change(self.inner_by, self.outer_by)

    def changed(self, axle: Axle) -> dict[str, object]:
        """The free angle."""
        bar = _bar(self.axle, axle)
        free = bar.free_angle_deg + math.degrees(self.angle)
        low, high = -60, 85
        if not low < free < high:
            raise DomainError(
                f"Turned so, the {self.axle} arms would hang {below_horizontal(free, 0)} with nothing on them: "
                f"between {low}° and {high}° an arm can be. Fewer teeth."
            )
        return {"spring": bar.model_copy(update={"free_angle_deg": free})}

    @property
    def size(self) -> float:
        """Change of the free angle, degrees."""
        return math.degrees(self.angle)

    def sized(self) -> str:
        """By the teeth at both ends."""
        return f"torsion bars {signed(self.inner_by)} teeth inside, {signed(self.outer_by)} outside"

    def _pairs(self) -> list[tuple[float, int, int]]:
        """Settings within a few teeth: change of the free angle in degrees, inner and outer teeth."""
        splines = Splines(self.inner_teeth, self.outer_teeth)
        pairs = splines.combinations(WINDOW_TEETH, math.radians(WINDOW_DEG))
        return [(math.degrees(splines.change(i, o)), i, o) for i, o in pairs]

    def at(self, value: float) -> Self:
        """With the teeth whose change of the free angle, degrees, is nearest to a wanted one; of equals the fewest."""
        near = min(self._pairs(), key=lambda p: (round(abs(p[0] - value), 6), abs(p[1]) + abs(p[2])))
        return self.model_copy(update={"inner_by": near[1], "outer_by": near[2]})

    def settings_near(self, size: float | None) -> tuple[Self, ...]:
        """Pairs of teeth by the free angle they make, degrees, of equal angles the one of fewest teeth."""
        fewest: dict[float, tuple[int, int]] = {}
        for angle, i, o in sorted(self._pairs(), key=lambda p: abs(p[1]) + abs(p[2])):
            fewest.setdefault(round(angle, 6), (i, o))
        angles = sorted(fewest)
        if size is None:
            chosen = angles[:: max(1, len(angles) // COARSE)]
        else:
            chosen = sorted(angles, key=lambda a: abs(a - size))
        return tuple(self.model_copy(update={"inner_by": fewest[a][0], "outer_by": fewest[a][1]}) for a in chosen)

    @property
    def setting(self) -> str:
        """Teeth inside and outside."""
        return f"{signed(self.inner_by)} in, {signed(self.outer_by)} out"

    def search(self, axle: Axle) -> Search | None:
        """The finest step both ends together can make, as far as the arm can hang."""
        free = _bar(self.axle, axle).free_angle_deg - self.size
        angles = sorted({round(a, 6) for a, _, _ in self._pairs() if -60 < free + a < 85})
        steps = [b - a for a, b in pairwise(angles)]
        return Search(angles[0], angles[-1], max(min(steps), 0.1)) if steps else None

    def summary(self) -> str:
        """Teeth and angle."""
        return (
            f"{signed(self.inner_by)} of {self.inner_teeth} teeth inside, "
            f"{signed(self.outer_by)} of {self.outer_teeth} outside: {signed(math.degrees(self.angle), '.2f')}°"
        )

    @property
    def told(self) -> str:
        """Teeth at both ends; the other side as a mirror image."""
        return f"{signed(self.inner_by)} inside · {signed(self.outer_by)} outside"

    def noted(self, machine: Vehicle, side: Side | None) -> tuple[Noted, ...]:
        """The arm hanging with no load on the bar."""
        _ = machine, side
        return (Noted("arm", "arm below horizontal, no load on it", "°", math.degrees(self.angle)),)

    def steps(self, machine: Vehicle) -> list[str]:
        """Marks first; the bar is drawn with no load left on it."""
        _ = machine
        return [
            "Count the teeth of both ends; left and right bars are marked apart.",
            f"Turn it {signed(self.inner_by)} teeth at the inner end and {signed(self.outer_by)} at the outer one, "
            "plus the way that lets the arm hang lower; the other side as a mirror image. The scribed marks are then "
            f"{360 * abs(self.inner_by) / self.inner_teeth:.0f}° apart inside and "
            f"{360 * abs(self.outer_by) / self.outer_teeth:.0f}° outside, and the arm with no load on it hangs "
            f"{abs(math.degrees(self.angle)):.1f}° {'lower' if self.angle > 0 else 'higher'}.",
        ]
