"""What a spring of any kind in the place of the fitted one has in common."""

from typing import TYPE_CHECKING, Any, ClassVar, Self

from inclinum.core.car.archetypes.respring import kinds_for, respring
from inclinum.core.car.changes.base import Change, spring_name
from inclinum.core.car.vehicle import Axle, Vehicle
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import AxleName
from inclinum.core.springs.fitted import SPRINGS, FittedSpring


class OtherSpring(Change):
    """Base of the springs; a subclass adds ``spring``, of its own kind."""

    renews_springs: ClassVar[bool] = True
    place: ClassVar[str] = "Springs"
    opens: ClassVar[frozenset[str]] = frozenset({"spring"})
    deep: ClassVar[int] = 1
    costs: ClassVar[str] = "another rate rides and rolls otherwise; the window of travel stays"
    equation: ClassVar[str] = "F(L)·MR = load at the new rest: L is found on the length curve of the linkage"
    source: ClassVar[str] = "virtual work on the linkage; the load is inferred at the measured height, or weighed"
    looked_at_as: ClassVar[str] = "spring"
    kind: ClassVar[str]
    """Its kind as a job file names it."""

    if TYPE_CHECKING:  # each subclass declares its own kind
        spring: Any

    @classmethod
    def start(cls, name: AxleName, axle: Axle) -> Self:
        """The fitted spring itself, or one of this kind that carries the same at the same rate where it stands."""
        if cls.kind not in kinds_for(axle):
            raise DomainError(cls._refusal(name, axle))
        return cls.model_validate({"axle": name, "spring": respring(axle, cls.kind).spring.model_dump() | {"part": ""}})

    def with_spring(self, spring: FittedSpring) -> Self | None:
        """Another one of its kind."""
        if type(spring) is not SPRINGS[self.kind]:
            return None
        return self.model_copy(update={"spring": spring})

    @property
    def setting(self) -> str:
        """The spring."""
        return spring_name(self.spring.part, self.summary())

    @classmethod
    def _refusal(cls, name: AxleName, axle: Axle) -> str:
        kind, fitted = SPRINGS[cls.kind].title.lower(), axle.spring.title.lower()
        return f"No {kind} goes where the {name} axle has its {fitted}."

    def changed(self, axle: Axle) -> dict[str, object]:
        """The fitted spring."""
        if self.kind not in kinds_for(axle):
            raise DomainError(self._refusal(self.axle, axle))
        return {"spring": self.spring}

    def parts(self, machine: Vehicle) -> list[str]:
        """The pair."""
        _ = machine
        return [f"2 {self.spring.title.lower()}s {self.summary()} ({self.axle})"]

    def steps(self, machine: Vehicle) -> list[str]:
        """Compare, then seat."""
        _ = machine
        return [
            f"Lay the new spring beside the old one: {self.summary()}; which end is up, ends and seats as the old "
            "one's, nothing rubs.",
            "Seat it: ends in their pockets, isolators in place.",
        ]
