"""Links of another length between anti-roll bar and wheel: the bar's arm comes back to where it stood."""

from typing import ClassVar, Literal, Self

from pydantic import Field

from inclinum.core.car.changes.base import Change
from inclinum.core.car.vehicle import Axle, Vehicle
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import AxleName, PartNumber
from inclinum.core.plan import millimetres, named
from inclinum.core.quantity.words import signed


class AntiRollLinks(Change):
    """Both links of an axle's anti-roll bar."""

    title: ClassVar[str] = "Anti-roll links"
    place: ClassVar[str] = "Arms and brackets"
    known_as: ClassVar[tuple[str, ...]] = ("sway-bar links", "drop links", "stabiliser links", "end links")
    costs: ClassVar[str] = "no height; keeps bar and link from turning over"
    equation: ClassVar[str] = "the eye is where the circle about the bar and the link about its foot meet"
    source: ClassVar[str] = "derived here: side view, the bar's axis across"
    provides: ClassVar[str] = "anti-roll link"
    removes: ClassVar[tuple[str, ...]] = ("anti-roll link",)
    opens: ClassVar[frozenset[str]] = frozenset({"anti-roll links"})

    type: Literal["anti_roll_links"] = "anti_roll_links"
    longer_mm: float = Field(
        ge=-150,
        le=200,
        title="Longer by",
        description="than the fitted ones; negative for shorter",
        json_schema_extra={"unit": "mm", "step": 1, "slider": [-60, 80]},
    )
    part: PartNumber = ""

    @classmethod
    def start(cls, name: AxleName, axle: Axle) -> Self:
        """As long as the fitted ones."""
        _linked(name, axle)
        return cls(axle=name, longer_mm=0)

    def changed(self, axle: Axle) -> dict[str, object]:
        """Their length."""
        _linked(self.axle, axle)
        assert axle.anti_roll_link is not None
        longer = axle.anti_roll_link.longer_mm + self.longer_mm
        return {"anti_roll_link": axle.anti_roll_link.model_copy(update={"longer_mm": longer})}

    @property
    def size(self) -> float:
        """mm longer."""
        return self.longer_mm

    def sized(self) -> str:
        """By how much longer."""
        return f"anti-roll links {signed(self.longer_mm)} mm"

    def at(self, value: float) -> Self:
        """Of another length."""
        return self.model_copy(update={"longer_mm": value})

    def summary(self) -> str:
        """By how much."""
        return named(self.part, self.told)

    def parts(self, machine: Vehicle) -> list[str]:
        """The pair."""
        _ = machine
        return [f"2 anti-roll links {self.summary()} ({self.axle})"]

    @property
    def told(self) -> str:
        """Against the old ones."""
        return f"{millimetres(abs(self.longer_mm))} {'longer' if self.longer_mm >= 0 else 'shorter'}"

    def steps(self, machine: Vehicle) -> list[str]:
        """Both ends off on both sides before anything hangs; tight with both wheels alike."""
        _ = machine
        return [
            f"Both links off at both ends before anything hangs; the new ones, {self.told}, in with both wheels at one "
            "height, tight last, the pin held against its nut.",
        ]


def _linked(name: AxleName, axle: Axle) -> None:
    if axle.anti_roll_link is None:
        raise DomainError(
            f"The {name} axle has no anti-roll bar and its links described: set them up with the vehicle's figures."
        )
