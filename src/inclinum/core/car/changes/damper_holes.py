"""A damper's mount on a list of holes: at the axle or arm, or at the frame."""

from typing import ClassVar, Literal, Self

from pydantic import Field, model_validator

from inclinum.core.car.changes.base import Change
from inclinum.core.car.changes.geometry import moved, shift, structural
from inclinum.core.car.vehicle import Axle, Vehicle
from inclinum.core.card.fabrication import Routine, routine
from inclinum.core.document import Document
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import AxleName, Name
from inclinum.core.kinematics import corner_of, pair_name
from inclinum.core.quantity.words import signed

AS_IT_IS = "as it is"


class Hole(Document):
    """One hole, from where the mount is now, mm."""

    name: Name
    up_mm: float = Field(ge=-300, le=300, title="Up")
    out_mm: float = Field(default=0, ge=-200, le=200, title="Out")
    forward_mm: float = Field(default=0, ge=-300, le=300, title="Forward")


class DamperHoles(Change):
    """Both dampers of an axle hung in another hole."""

    title: ClassVar[str] = "Damper mount at another hole"
    place: ClassVar[str] = "Dampers and stops"
    known_as: ClassVar[tuple[str, ...]] = ("damper bracket", "shock mount", "relocation bracket", "shock relocation")
    costs: ClassVar[str] = "higher at the axle: clear of the ground, less stroke left before it closes"
    looked_at_as: ClassVar[str] = "mount"
    equation: ClassVar[str] = "the damper's length and ratio over travel with its mount elsewhere"
    source: ClassVar[str] = "derived here: distance of its two points on the linkage"

    on_brackets: ClassVar[bool] = True

    type: Literal["damper_holes"] = "damper_holes"
    mount: Literal["axle", "frame"] = Field(
        default="axle", title="Mount", description="at the axle or arm, or the frame"
    )
    holes: tuple[Hole, ...] = Field(min_length=1, max_length=8, title="Holes")
    hole: str = Field(default=AS_IT_IS, max_length=120, title="Hung in")

    ground: str = Field(
        default="", max_length=120, title="Ground point that goes with it", description="a station on this axle"
    )
    how: Literal["bolted_on", "cut_and_welded"] = Field(
        default="bolted_on", title="Bracket fixed how", description="another hole, a bolted bracket, or a welded one"
    )

    @model_validator(mode="after")
    def _each_named(self) -> Self:
        names = [AS_IT_IS, *(h.name for h in self.holes)]
        if len(set(names)) != len(names):
            raise DomainError(f"two holes of the damper mount have one name; “{AS_IT_IS}” is where it hangs now")
        if self.hole not in names:
            raise DomainError(f"there is no hole “{self.hole}” in the list; there are {', '.join(names)}")
        return self

    @classmethod
    def start(cls, name: AxleName, axle: Axle) -> Self:
        """Two holes higher at the axle, hung where it is."""
        _mount(name, axle, "axle")
        return cls(axle=name, holes=(Hole(name="one up", up_mm=30), Hole(name="two up", up_mm=60)))

    def apply(self, machine: Vehicle) -> Vehicle:
        """The mount, and the ground point that hangs on it.

        Raises:
            DomainError: no such station hangs on this axle.
        """
        done = super().apply(machine)
        if not self.ground:
            return done
        if self.ground not in _hanging(self.axle, machine):
            raise DomainError(
                f"No station “{self.ground}” hangs on the {self.axle} axle: enter it with the vehicle's figures, "
                "or leave "
                "the ground point of the damper mount out."
            )
        stations = tuple(
            s.model_copy(update={"height_mm": s.height_mm + self.height_of_setting}) if s.name == self.ground else s
            for s in done.stations
        )
        return done.model_copy(update={"stations": stations})

    def changed(self, axle: Axle) -> dict[str, object]:
        """The mount's point.

        Raises:
            DomainError: this damper holds the wheel, or its mount is not told.
        """
        point = _mount(self.axle, axle, self.mount)
        at = next((h for h in self.holes if h.name == self.hole), None)
        return {} if at is None else moved(axle, {point: shift(at.forward_mm, at.out_mm, at.up_mm)})

    def choices(self, machine: Vehicle) -> dict[str, list[tuple[str, str]]]:
        """The holes of the list."""
        points = [("", "none")] + [(n, n) for n in _hanging(self.axle, machine)]
        return {"hole": [(n, n) for n in (AS_IT_IS, *(h.name for h in self.holes))], "ground": points}

    def settings(self) -> tuple[Self, ...]:
        """Every hole."""
        return tuple(self.model_copy(update={"hole": n}) for n in (AS_IT_IS, *(h.name for h in self.holes)))

    @property
    def setting(self) -> str:
        """The hole."""
        return self.hole

    @property
    def height_of_setting(self) -> float:
        """Above where it hangs now, mm."""
        return next((h.up_mm for h in self.holes if h.name == self.hole), 0.0)

    def summary(self) -> str:
        """Which hole."""
        at = next((h for h in self.holes if h.name == self.hole), None)
        if at is None:
            return f"{self.mount} mount as it is"
        parts = [
            f"{signed(v)} mm {w}" for v, w in ((at.up_mm, "up"), (at.out_mm, "out"), (at.forward_mm, "forward")) if v
        ]
        return f"{self.mount} mount in “{at.name}”: {', '.join(parts) or 'no further'}"

    def parts(self, machine: Vehicle) -> list[str]:
        """Bolts of the new bracket."""
        _ = machine
        return (
            [] if self.hole == AS_IT_IS else [f"2 damper brackets or bolts for the {self.mount} mounts ({self.axle})"]
        )

    def opened(self, machine: Vehicle) -> frozenset[str]:
        """The end that goes to another hole."""
        _ = machine
        return frozenset({"damper top" if self.mount == "frame" else "damper foot"})

    @property
    def told(self) -> str:
        """The hole, and how far it is from the one that was used."""
        return self.summary().removeprefix(f"{self.mount} mount ").removeprefix("in ")

    def steps(self, machine: Vehicle) -> list[str]:
        """Bolts in, spring apart or not, welds."""
        whole = machine.axle(self.axle).linkage.coupled
        moved = "axle" if whole else "wheel"
        mount = moved if self.mount == "axle" else self.mount
        return [
            f"Dampers into “{self.hole}” at the {mount}, both sides alike; take the {moved} over its travel by hand: "
            "the stop lands before the damper closes."
        ]

    def fabrication(self) -> Routine:
        """Of the bracket, where it is not the one that is there."""
        return routine("bolted_on" if self.hole == AS_IT_IS else self.how, f"{self.axle.capitalize()} damper brackets")


def _hanging(name: AxleName, vehicle: Vehicle) -> list[str]:
    return [s.name for s in vehicle.stations if s.on == f"{name}_axle"]


def _mount(name: AxleName, axle: Axle, mount: str) -> str:
    damper = corner_of(axle.linkage, axle.tyre_radius_mm, 0.0, 0.0).damper
    if damper is None:
        raise DomainError(f"Nobody has said where the {name} axle has its dampers.")
    point = damper.start if mount == "frame" else damper.end
    if point in structural(axle.linkage) or point not in axle.linkage.named_points():
        raise DomainError(
            f"The {name} axle's dampers hold its wheels: {pair_name(point)} is no mount with other holes. Move "
            "it as a "
            "bracket or a joint."
        )
    return point
