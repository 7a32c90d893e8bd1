"""Other air springs, or air in place of a coil: area, volume and pressure at their own height."""

from typing import ClassVar, Literal

from inclinum.core.car.changes.other_spring import OtherSpring
from inclinum.core.car.vehicle import Vehicle
from inclinum.core.plan import millimetres, named
from inclinum.core.springs.fitted import AirSpringData


class AirSprings(OtherSpring):
    """Both springs of an axle replaced by air springs."""

    title: ClassVar[str] = "Air springs"
    known_as: ClassVar[tuple[str, ...]] = ("bags", "bellows", "air conversion")
    place: ClassVar[str] = "Air"
    costs: ClassVar[str] = "needs air, lines and a valve; with the valve closed softer the more volume it has"
    equation: ClassVar[str] = "F = p·A, p·Vⁿ constant with the valves closed"
    source: ClassVar[str] = "polytropic change of a gas, textbooks of thermodynamics"
    kind: ClassVar[str] = "air_spring"

    type: Literal["air_springs"] = "air_springs"
    spring: AirSpringData

    def summary(self) -> str:
        """Height, area and pressure."""
        s = self.spring
        text = (
            f"{millimetres(round(s.height_mm, 1))} high, {s.area_mm2:g} mm² at {s.gauge_pressure_n_per_mm2:.3g} N/mm²"
        )
        return named(s.part, text)

    def steps(self, machine: Vehicle) -> list[str]:
        """Bead and line."""
        _ = machine
        return ["Bead seated all round, the bag not twisted; line cut square, away from heat and what moves."]

    def settled(self, machine: Vehicle) -> list[str]:
        """Leaks show overnight."""
        _ = machine
        return ["Soap every joint of the bags again with the weight on; they must not fall overnight."]
