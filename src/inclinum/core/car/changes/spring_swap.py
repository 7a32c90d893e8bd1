"""Another coil: rate and free length move the ride point, the window stays."""

from typing import ClassVar, Literal, Self

from inclinum.core.car.archetypes.respring import kinds_for, respring
from inclinum.core.car.changes.base import Change, spring_name
from inclinum.core.car.vehicle import Axle, Vehicle
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import AxleName
from inclinum.core.plan import Search, millimetres
from inclinum.core.springs.fitted import Coil, FittedSpring


class SpringSwap(Change):
    """Both coils of an axle replaced."""

    renews_springs: ClassVar[bool] = True
    title: ClassVar[str] = "Springs"
    moves_over: ClassVar[tuple[str, ...]] = ("seat rubbers, as they lay",)
    opens: ClassVar[frozenset[str]] = frozenset({"spring"})
    deep: ClassVar[int] = 1
    equation: ClassVar[str] = "k·(L₀ − L) = F/MR at the new rest: L is found on the length curve of the linkage"
    source: ClassVar[str] = "Hooke's law; F is inferred at the measured height, or weighed"
    provides: ClassVar[str] = "coil"
    place: ClassVar[str] = "Springs"
    looked_at_as: ClassVar[str] = "spring"
    known_as: ClassVar[tuple[str, ...]] = ("coils", "lowering springs", "raised springs", "stiffer springs")
    costs: ClassVar[str] = "another rate rides and rolls otherwise; the window of travel stays"

    type: Literal["spring_swap"] = "spring_swap"
    coil: Coil

    @classmethod
    def start(cls, name: AxleName, axle: Axle) -> Self:
        """The fitted coil itself, or one that carries the same at the same rate in place of another kind."""
        if "coil_spring" not in kinds_for(axle):
            raise DomainError(
                f"The {name} axle has no seats for a plain coil: it is sprung by {axle.spring.in_a_sentence}."
            )
        coil = respring(axle, "coil_spring").spring
        assert isinstance(coil, Coil)
        return cls(axle=name, coil=coil.model_copy(update={"part": ""}))

    def changed(self, axle: Axle) -> dict[str, object]:
        """The fitted coil."""
        if "coil_spring" not in kinds_for(axle):
            raise DomainError(f"A coil does not go where the {self.axle} axle has its {axle.spring.title.lower()}.")
        return {"spring": self.coil}

    def summary(self) -> str:
        """Rate and free length."""
        name = f"{self.coil.part}: " if self.coil.part else ""
        return f"{name}{self.coil.rate_n_per_mm:g} N/mm, free {millimetres(self.coil.free_length_mm)}"

    @property
    def size(self) -> float:
        """mm."""
        return self.coil.free_length_mm

    def sized(self) -> str:
        """By free length and rate."""
        length = millimetres(round(self.coil.free_length_mm, 2))
        return f"springs {length} free at {self.coil.rate_n_per_mm:g} N/mm"

    def at(self, value: Coil | float) -> Self:
        """Another coil; or the same one of another free length, mm."""
        coil = self.coil.model_copy(update={"free_length_mm": value, "part": ""}) if isinstance(value, float) else value
        return self.model_copy(update={"coil": coil})

    def with_spring(self, spring: FittedSpring) -> Self | None:
        """Another coil."""
        return self.model_copy(update={"coil": spring}) if isinstance(spring, Coil) else None

    @property
    def setting(self) -> str:
        """The coil."""
        return spring_name(self.coil.part, self.summary())

    def search(self, axle: Axle) -> Search | None:
        """Free lengths at the same rate, 80 mm either way, as long as it is no solid block."""
        coil = axle.coil
        if coil is None:
            return None
        return Search(max(coil.solid_length_mm + 20, coil.free_length_mm - 80), coil.free_length_mm + 80, 1)

    def parts(self, machine: Vehicle) -> list[str]:
        """The pair of springs."""
        return [f"2 springs {self.summary()} ({self.axle})"]

    @property
    def told(self) -> str:
        """Rate and free length."""
        return f"{self.coil.rate_n_per_mm:g} N/mm, {millimetres(self.coil.free_length_mm)} free"

    def steps(self, machine: Vehicle) -> list[str]:
        """Compare, seat, turn into the pockets."""
        return [
            "Stand the new spring beside the old one and check the stamp, the free length and which end is up: "
            f"{self.told}.",
            "Seat the spring: tail of the wire in its pocket at both seats, rubber isolators in place.",
        ]
