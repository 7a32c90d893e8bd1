"""Other torsion bars: thicker or thinner, with their own free angle."""

from typing import ClassVar, Literal

from inclinum.core.car.changes.other_spring import OtherSpring
from inclinum.core.car.vehicle import Vehicle
from inclinum.core.plan import named
from inclinum.core.quantity.words import below_horizontal
from inclinum.core.springs.fitted import TorsionBarData


class TorsionBars(OtherSpring):
    """Both bars of an axle replaced."""

    title: ClassVar[str] = "Torsion bars"
    opens: ClassVar[frozenset[str]] = frozenset({"torsion bar"})
    known_as: ClassVar[tuple[str, ...]] = ("thicker bars", "stiffer bars")
    place: ClassVar[str] = "Torsion bars"
    equation: ClassVar[str] = "k = G·π·d⁴/(32·l); k·(free angle − angle) = load · lever at rest"
    source: ClassVar[str] = "torsion of a round bar, textbooks of strength of materials"
    kind: ClassVar[str] = "torsion_bar"

    type: Literal["torsion_bars"] = "torsion_bars"
    spring: TorsionBarData

    def summary(self) -> str:
        """Diameter, length and free angle."""
        s = self.spring
        return named(s.part, f"{s.diameter_mm:g} × {s.length_mm:g} mm, free at {below_horizontal(s.free_angle_deg, 2)}")

    @property
    def told(self) -> str:
        """The arm with nothing on it."""
        return f"arm {below_horizontal(self.spring.free_angle_deg, 1)}"

    def steps(self, machine: Vehicle) -> list[str]:
        """Left and right are not the same bar; the arm's free angle is set by template."""
        _ = machine
        return [
            "Left and right bars are marked: each was set one way round and keeps it. No scratch on the shank.",
            f"Set the {self.told} with nothing on it, then the bar.",
        ]
