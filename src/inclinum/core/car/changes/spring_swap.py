"""Another coil: rate and free length move the ride point, the window stays."""

from typing import ClassVar, Literal, Self

from inclinum.core.car.changes.base import Change
from inclinum.core.car.vehicle import Axle, Vehicle
from inclinum.core.document.names import AxleName
from inclinum.core.plan import millimetres
from inclinum.core.springs.fitted import Coil


class SpringSwap(Change):
    """Both coils of an axle replaced."""

    title: ClassVar[str] = "Springs"

    type: Literal["spring_swap"] = "spring_swap"
    coil: Coil

    @classmethod
    def start(cls, name: AxleName, axle: Axle) -> Self:
        """The fitted coil itself: nothing changes until its numbers do."""
        if axle.coil is None:
            raise ValueError(f"The {name} axle is not sprung by a plain coil but by {axle.spring.in_a_sentence}.")
        return cls(axle=name, coil=axle.coil.model_copy(update={"part": ""}))

    def changed(self, axle: Axle) -> dict[str, object]:
        """The fitted coil."""
        if not axle.spring.is_coil:
            raise ValueError(f"A coil does not go where the {self.axle} axle has its {axle.spring.title.lower()}.")
        return {"spring": self.coil}

    def summary(self) -> str:
        """Rate and free length."""
        name = f"{self.coil.part}: " if self.coil.part else ""
        return f"{name}{self.coil.rate_n_per_mm:g} N/mm, free {millimetres(self.coil.free_length_mm)}"

    def parts(self, machine: Vehicle) -> list[str]:
        """The pair of springs."""
        return [f"2 springs {self.summary()} ({self.axle})"]

    def steps(self, machine: Vehicle) -> list[str]:
        """Compare, seat, turn into the pockets."""
        return [
            "Stand the new spring beside the old one and check the stamp, the free length and which end is up.",
            "Seat the spring: tail of the wire in its pocket at both seats, rubber isolators in place.",
        ]
