"""Springs of which only the lift or drop is known that their seller states for a standard vehicle."""

from typing import ClassVar, Literal, Self

import numpy as np
from pydantic import Field, ValidationError

from inclinum.core.car.archetypes.respring import kinds_for, respring
from inclinum.core.car.changes.base import Change
from inclinum.core.car.stance import inferred_load, ride_corner
from inclinum.core.car.vehicle import Axle, Vehicle
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import AxleName, PartNumber
from inclinum.core.plan import named
from inclinum.core.quantity.words import signed
from inclinum.core.springs.fitted import Coil


class StatedSprings(Change):
    """Both coils of an axle by ones that carry a standard vehicle so much higher or lower.

    The free length follows from the claim: they carry the standard load where the body stands that much from its
    reference height. On this vehicle, with its own load and springs that may be tired, they then give what they give.
    """

    title: ClassVar[str] = "Springs by stated lift"
    opens: ClassVar[frozenset[str]] = frozenset({"spring"})
    deep: ClassVar[int] = 1
    place: ClassVar[str] = "Springs"
    known_as: ClassVar[tuple[str, ...]] = ("lift springs", "lowering springs", "spring kit", "drop springs", "claim")
    costs: ClassVar[str] = "only the seller's word: rate and lengths from a label tell it better"
    renews_springs: ClassVar[bool] = True
    equation: ClassVar[str] = "F_new(L(z₀ − lift)) = F_old(L(z₀)): its free length, at its rate, from the claim"
    source: ClassVar[str] = "derived here: a claim is for the standard vehicle with its standard load, springs healthy"

    type: Literal["stated_springs"] = "stated_springs"
    lift_mm: float = Field(
        ge=-150,
        le=150,
        title="Stated lift",
        description="over the standard vehicle; negative for a drop",
        json_schema_extra={"unit": "mm", "step": 1, "slider": [-60, 80]},
    )
    tolerance_mm: float = Field(default=10, ge=0, le=100, title="Stated to ±", json_schema_extra={"unit": "mm"})
    rate_n_per_mm: float | None = Field(
        default=None, gt=1, le=500, title="Rate", description="left blank: taken as the old one's",
        json_schema_extra={"unit": "N/mm"},
    )  # fmt: skip
    part: PartNumber = ""

    @classmethod
    def start(cls, name: AxleName, axle: Axle) -> Self:
        """A claim of 30 mm."""
        _seated(name, axle)
        return cls(axle=name, lift_mm=30)

    def changed(self, axle: Axle) -> dict[str, object]:
        """A coil of the free length that the claim means.

        Raises:
            DomainError: the axle has no seats for a coil, or its travel ends before the height that is claimed.
        """
        return {"spring": self.coil(axle)}

    def coil(self, axle: Axle) -> Coil:
        """What the claim means on an axle: rate and free length. Raises as :meth:`changed`."""
        _seated(self.axle, axle)
        sound = axle.model_copy(update={"tired": 0.0})
        old = respring(sound, "coil_spring").spring
        assert isinstance(old, Coil)
        ride, load = ride_corner(sound), inferred_load(sound, 0.0)
        if not ride.search[0] < -self.lift_mm < ride.search[1]:
            raise DomainError(
                f"The {self.axle} linkage does not reach {signed(self.lift_mm)} mm: check the stated lift of its "
                "springs."
            )
        at = np.asarray(-self.lift_mm)
        beside = float(ride.wheel_force(at)) - float(ride.spring_force(at) * ride.spring_length.ratio(at))
        force = (load - beside) / float(ride.spring_length.ratio(at))
        rate = old.rate_n_per_mm if self.rate_n_per_mm is None else self.rate_n_per_mm
        free = float(ride.spring_at(at)) + force / rate
        try:
            return Coil.model_validate(
                old.model_dump() | {"rate_n_per_mm": rate, "free_length_mm": free, "part": self.part}
            )
        except ValidationError:
            raise DomainError(
                f"Springs that hold the {self.axle} axle {signed(self.lift_mm)} mm from standard at {rate:.3g} N/mm "
                f"would be {free:.0f} mm long, and no coil is: check the stated lift and rate, and the axle's "
                "own figures."
            ) from None

    @property
    def size(self) -> float:
        """mm of lift."""
        return self.lift_mm

    def sized(self) -> str:
        """By the lift."""
        return f"springs stated at {signed(self.lift_mm)} mm"

    def at(self, value: float) -> Self:
        """With another claim, mm."""
        return self.model_copy(update={"lift_mm": value})

    def summary(self) -> str:
        """The claim."""
        rate = "" if self.rate_n_per_mm is None else f", {self.rate_n_per_mm:g} N/mm"
        return named(self.part, f"stated {signed(self.lift_mm)} ± {self.tolerance_mm:g} mm over standard{rate}")

    @property
    def claimed(self) -> float | None:
        """The stated lift."""
        return self.lift_mm

    def rise_tolerance(self) -> float:
        """As stated."""
        return self.tolerance_mm

    def parts(self, machine: Vehicle) -> list[str]:
        """The pair."""
        _ = machine
        return [f"2 springs {self.summary()} ({self.axle})"]

    def ready(self, machine: Vehicle) -> list[str]:
        """Read what is stamped while the old ones are still in."""
        coil = self.coil(machine.axle(self.axle))
        return [
            f"Read rate and free length off the new springs first: by the claim they are about "
            f"{coil.free_length_mm:.0f} mm free at {coil.rate_n_per_mm:g} N/mm. Put what they are into the plan.",
        ]

    def steps(self, machine: Vehicle) -> list[str]:
        """Seat them."""
        _ = machine
        return [
            "Seat them: ends in their pockets, isolators in place, left and right as marked.",
        ]


def _seated(name: AxleName, axle: Axle) -> None:
    if "coil_spring" not in kinds_for(axle):
        raise DomainError(
            f"The {name} axle has no seats for coils: it is sprung by {axle.spring.in_a_sentence}. Give the rise as a "
            "stated change instead."
        )
