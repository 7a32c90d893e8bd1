"""Another eye or clevis on the damper rod: its own length, and as much thread as is screwed into it."""

from typing import ClassVar, Literal, Self

from pydantic import Field

from inclinum.core.bike.changes.base import BikeChange
from inclinum.core.bike.changes.rear_preload import HOOK_SPANNER, collar_figure, collar_step
from inclinum.core.bike.machine import Bike, Clevis
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import PartNumber
from inclinum.core.plan import named


class RearEye(BikeChange):
    """The eye at the rod replaced, of one damper or of both."""

    title: ClassVar[str] = "Another eye or clevis"
    place: ClassVar[str] = "Rear"
    known_as: ClassVar[tuple[str, ...]] = ("eye swap", "other end fitting", "longer eye", "fork end")
    costs: ClassVar[str] = "the damper taken apart at its eye; seals and bearings go over"
    equation: ClassVar[str] = "eye to eye grows by the longer eye, less what more of the rod is screwed into it"
    source: ClassVar[str] = "derived here: a sum of lengths, then the linkage's own curve"
    end: ClassVar = "rear"
    provides: ClassVar[str] = "eye thread"
    removes: ClassVar[tuple[str, ...]] = ("eye or clevis",)
    moves_over: ClassVar[tuple[str, ...]] = ("eye bearings and seals, if sound", "lock nut, if its thread is sound")
    opens: ClassVar[frozenset[str]] = frozenset({"damper", "spring"})
    deep: ClassVar[int] = 2
    tools: ClassVar[tuple[str, ...]] = (HOOK_SPANNER, "Soft jaws, spanner for the rod's flats", "Calliper")
    sets_collar: ClassVar[bool] = True

    type: Literal["rear_eye"] = "rear_eye"
    longer_mm: float = Field(
        ge=-60, le=100, title="Longer than the old one", description="open end to the middle of its hole",
        json_schema_extra={"step": 0.5, "slider": [-20, 40]},
    )  # fmt: skip
    thread_mm: float = Field(
        gt=0, le=80, title="Thread inside it", description="of the rod, as it will stand",
        json_schema_extra={"step": 0.5},
    )  # fmt: skip
    least_thread_mm: float = Field(gt=0, le=60, title="Thread needed", description="the part supplier's figure")
    part: PartNumber = ""

    @classmethod
    def start(cls, bike: Bike) -> Self:
        """One like the old one, screwed on as far."""
        old = _threaded(bike)
        return cls(longer_mm=0, thread_mm=old.thread_mm, least_thread_mm=old.least_thread_mm)

    def apply(self, machine: Bike) -> Bike:
        """Eye to eye, and the thread that is in the new one; what it is screwed out by is counted from there."""
        old = _threaded(machine)
        longer = self.longer_mm - (self.thread_mm - old.thread_mm)
        clevis = Clevis(thread_mm=self.thread_mm, least_thread_mm=self.least_thread_mm)
        changed = {"extended_mm": machine.damper.extended_mm + longer, "clevis": clevis}
        return machine.model_copy(update={"damper": machine.damper.model_copy(update=changed)})

    def at(self, value: float) -> Self:
        """With another length of thread in it, mm."""
        return self.model_copy(update={"thread_mm": value})

    def figure(self, bike: Bike) -> str | None:
        """The collar, which is set last."""
        return collar_figure(self.apply(bike))

    def summary(self) -> str:
        """Length and thread."""
        longer = f"{abs(self.longer_mm):g} mm {'longer' if self.longer_mm >= 0 else 'shorter'}"
        return named(self.part, f"{longer} than the old one, {self.thread_mm:g} mm of thread in it")

    def parts(self, machine: Bike) -> list[str]:
        """One, or one for each of a pair."""
        what = "1 eye or clevis" if machine.damper.count == 1 else f"{machine.damper.count} eyes or clevises"
        return [f"{what}, {self.summary()}"]

    def steps(self, machine: Bike) -> list[str]:
        """Off by its lock nut, the new one on by its thread, and the collar as the plan has it."""
        after = self.apply(machine)
        return [
            "New eye beside the old one: bore and width as the mount, thread as the rod, index pin or flat on the same "
            "side.",
            "Rod held at its flats, never on its sliding face. Lock nut slack, turns of the old eye counted off, its "
            "index pin kept.",
            f"Threads clean, locker as the maker says. New eye on until {self.thread_mm:g} mm of thread is in it, at "
            f"least {self.least_thread_mm:g} mm; index pin home, both eyes in line, lock nut against it to its maker's "
            "figure.",
            "Bearings and seals over if sound, pressed by their outer rings, seals facing as they faced.",
            f"Eye to eye, forced out, against the plan: {after.damper.extended_mm:.1f} mm.",
            collar_step(after),
        ]


def _threaded(bike: Bike) -> Clevis:
    """Its clevis or eye. Raises DomainError where nobody has said that it has a thread."""
    if bike.damper.clevis is None:
        raise DomainError(
            "Nobody has said that this damper's eye is on a thread: put its clevis, with the thread inside, among the "
            "machine's figures first."
        )
    return bike.damper.clevis
