"""What every change of an axle on four wheels is, beside what every change is."""

from dataclasses import dataclass
from typing import ClassVar, Self

from pydantic import Field

from inclinum.core.car.vehicle import Axle, Vehicle
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import AxleName, Side
from inclinum.core.plan import Change as AnyMachines
from inclinum.core.plan import Search
from inclinum.core.quantity.words import signed
from inclinum.core.springs.fitted import FittedSpring


@dataclass(frozen=True)
class HeldThread:
    """A thread and what it holds.

    Args:
        what: in words.
        held_mm, least_mm: engaged after the change, and what has to be.
        source: who says so.
    """

    what: str
    held_mm: float
    least_mm: float
    source: str


class Change(AnyMachines[Vehicle]):
    """Base of all changes of one axle. A subclass adds a literal ``type``; its other
    fields are its parameters."""

    marks: ClassVar[frozenset[str]] = frozenset({"renewed", "tired"})

    looked_at_as: ClassVar[str] = ""
    """How its settings are compared side by side: by what they do to a ``spring`` or to a ``mount``."""

    set_in: ClassVar[str] = ""
    """Unit of its one number, where that is what is set by hand: it stands large on its step."""

    drawn_at: ClassVar[tuple[str, ...]] = ()
    """Joints in whose place it is marked in a drawing, the first the axle has; else at what it needs open."""

    axle: AxleName = Field(title="Axle")

    @property
    def where(self) -> AxleName:
        """Its axle."""
        return self.axle

    @classmethod
    def start(cls, name: AxleName, axle: Axle) -> Self:
        """A change of this kind to begin with on an axle: a neutral or small one, ready to be set.

        Raises:
            ValueError: the axle cannot take it.
        """
        raise DomainError(f"The change “{cls.title}” has no starting value for the {name} axle.")

    def apply(self, machine: Vehicle) -> Vehicle:
        """The vehicle with this change made. Never alters its argument."""
        new: dict[str, object] = {"renewed": True, "tired": 0.0} if self.renews_springs else {}
        return machine.with_axle(self.axle, **(self.changed(machine.axle(self.axle)) | new))

    @property
    def told(self) -> str:
        """The number its work is about, in words; empty where it has none."""
        return f"{signed(self.size)} {self.set_in}" if self.set_in else ""

    def figure(self, side: Side | None) -> str | None:
        """The number its work is about, large on the card; None where it has none.

        Args:
            side: at which wheel; None where both are done at once.
        """
        _ = side
        return self.told or None

    def across(self, machine: Vehicle) -> bool:
        """Whether it is on a part that the axle has once, across it or in its middle: it is done once, at no side.

        Args:
            machine: as the changes before this one leave it.
        """
        _ = machine
        return False

    def ready(self, machine: Vehicle) -> list[str]:
        """What is looked at before it goes up, with its parts laid out: what may send the plan back; once for both.

        Args:
            machine: as the changes before this one leave it.
        """
        _ = machine
        return []

    def taken_off(self, machine: Vehicle) -> tuple[str, ...]:
        """Its parts, and the springs where others go in."""
        if not self.renews_springs:
            return self.removes
        old = machine.axle(self.axle).spring
        name = old.title.lower()
        return (f"{name} spring" if old.is_coil and "spring" not in name else name, *self.removes)

    def touches(self, name: AxleName) -> bool:
        """Whether it changes anything of an axle."""
        return self.axle == name

    def changed(self, axle: Axle) -> dict[str, object]:
        """Fields of the axle that this change replaces."""
        raise DomainError(f"The change “{self.title}” does not say what it changes on {axle.linkage.kind}.")

    def search(self, axle: Axle) -> Search | None:
        """What it is searched by on an axle; None where no one number of it raises or lowers the body.

        Args:
            axle: as the changes before this one leave it.
        """
        _ = axle
        return None

    @property
    def claimed(self) -> float | None:
        """Rise over a standard vehicle that its seller claims, mm; None where its number is worked out."""
        return None

    def one_side(self, side: Side, by: float) -> Self | None:
        """The same with so much more on one side, in its own unit; None where both sides only go together."""
        _ = side, by
        return None

    def on_side(self, side: Side) -> bool:
        """Whether it does anything at one side; what leaves a side as it is does not open it either."""
        _ = side
        return True

    def settings(self) -> tuple[Self, ...]:
        """Itself in every setting of its list, each to be looked at whole; empty where it has no list."""
        return ()

    def settings_near(self, size: float | None) -> tuple[Self, ...]:
        """Itself in those of very many settings whose size is nearest, nearest first; empty where it has no such.

        Args:
            size: as :attr:`size`; None for a few over the whole range.
        """
        _ = size
        return ()

    @property
    def setting(self) -> str:
        """What it is set to, in a few words, where it has a list of settings."""
        return ""

    @property
    def height_of_setting(self) -> float:
        """How high a setting lies, where the highest that can be is the best, mm."""
        return 0.0

    def with_sleeves(self) -> Self | None:
        """The same with sleeves from its eyes to the bolts; None where it brings no eyes, or has them."""
        return None

    def threads(self) -> tuple[HeldThread, ...]:
        """Threads that hold less or more by it, where the shop said how much they hold."""
        return ()

    def with_spring(self, spring: FittedSpring) -> Self | None:
        """The same with another spring in its place; None where it brings no spring of that kind."""
        _ = spring
        return None

    def rise_tolerance(self) -> float:
        """± of the rise it is stated to give, mm."""
        return 0.0

    def room_tolerance(self) -> float:
        """± of the room it takes from the spring, mm."""
        return 0.0


def spring_name(part: str, summary: str) -> str:
    """What a spring is called in a list: its part number, or what it is."""
    return part or summary
