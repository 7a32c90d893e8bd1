"""A subframe lowered on spacers: everything it carries goes down with it."""

from typing import ClassVar, Literal, Self

from pydantic import Field

from inclinum.core.car.changes.base import Change
from inclinum.core.car.changes.geometry import moved, shift
from inclinum.core.car.vehicle import Axle, Vehicle
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import AxleName, PartNumber
from inclinum.core.kinematics.leaf import LeafBody
from inclinum.core.kinematics.refit import RADIUS_MM, frame_points
from inclinum.core.plan import millimetres, named


class SubframeLowered(Change):
    """The subframe of an axle lowered against the body."""

    title: ClassVar[str] = "Subframe lowered"
    opens: ClassVar[frozenset[str]] = frozenset({"subframe"})
    place: ClassVar[str] = "Arms and subframe"
    known_as: ClassVar[tuple[str, ...]] = ("subframe spacers", "subframe drop", "cradle drop", "diff drop")
    costs: ClassVar[str] = "arms and shafts stand flatter again; steering column, exhaust and hoses have to follow"
    equation: ClassVar[str] = "every mount it carries n lower; the linkage solved with the wheel at its height"
    source: ClassVar[str] = "constraints of rigid bodies, textbooks of multibody dynamics; solved by the product"

    type: Literal["subframe_lowered"] = "subframe_lowered"
    by_mm: float = Field(
        ge=-60, le=120, title="Lowered by", json_schema_extra={"unit": "mm", "step": 1, "slider": [0, 60]}
    )
    carries_springs: bool = Field(default=False, title="Springs stand on it")
    carries_dampers: bool = Field(default=False, title="Dampers stand on it")
    carries_steering: bool = Field(default=True, title="Steering sits on it")
    carries_differential: bool = Field(
        default=False, title="Differential sits on it", description="half-shafts start lower"
    )
    carries_anti_roll_bar: bool = Field(default=False, title="Anti-roll bar sits on it")
    part: PartNumber = ""

    @classmethod
    def start(cls, name: AxleName, axle: Axle) -> Self:
        """20 mm."""
        if isinstance(axle.linkage.corner(RADIUS_MM, 0.0, 0.0).body, LeafBody):
            raise DomainError(f"The {name} axle hangs on leaf packs and has no subframe to lower.")
        return cls(axle=name, by_mm=20)

    def changed(self, axle: Axle) -> dict[str, object]:
        """What it carries, lower."""
        corner = axle.linkage.corner(RADIUS_MM, 0.0, 0.0)
        if isinstance(corner.body, LeafBody):
            raise DomainError(f"The {self.axle} axle hangs on leaf packs and has no subframe to lower.")
        stays = set()
        for part, carried in ((corner.spring, self.carries_springs), (corner.damper, self.carries_dampers)):
            if not carried:
                stays.add(getattr(part, "start", ""))
        if corner.steering is not None and not self.carries_steering:
            stays.add(corner.steering.inner)
        down = shift(0.0, 0.0, -self.by_mm)
        return self._hung(axle) | moved(
            axle, {n: down for n in frame_points(axle.linkage) if n not in stays}, both_sides=False
        )

    def _hung(self, axle: Axle) -> dict[str, object]:
        """What else it takes down: where shafts start, and where the bar turns."""
        found: dict[str, object] = {}
        if self.carries_differential and axle.half_shaft:
            x, y, z = axle.half_shaft.inner
            found["half_shaft"] = axle.half_shaft.model_copy(update={"inner": (x, y, z - self.by_mm)})
        if self.carries_anti_roll_bar and (link := axle.anti_roll_link):
            x, y, z = link.eye
            lower = {"bar_z_mm": link.bar_z_mm - self.by_mm, "eye": (x, y, z - self.by_mm)}
            found["anti_roll_link"] = link.model_copy(update=lower)
        return found

    def summary(self) -> str:
        """How much, and with what."""
        with_it = [n for n, on in (("springs", self.carries_springs), ("dampers", self.carries_dampers),
                                   ("steering", self.carries_steering), ("differential", self.carries_differential),
                                   ("anti-roll bar", self.carries_anti_roll_bar)) if on]  # fmt: skip
        return named(self.part, f"{millimetres(self.by_mm)}{', with ' + ', '.join(with_it) if with_it else ''}")

    def parts(self, machine: Vehicle) -> list[str]:
        """Spacers and bolts."""
        _ = machine
        if self.by_mm < 0:
            return [f"Subframe bolts shorter by {millimetres(-self.by_mm)} ({self.axle})"]
        return [f"Subframe spacers {millimetres(self.by_mm)} and bolts longer by as much ({self.axle})"]

    @property
    def told(self) -> str:
        """How much lower."""
        return f"{millimetres(abs(self.by_mm))} {'lower' if self.by_mm >= 0 else 'higher'}"

    def steps(self, machine: Vehicle) -> list[str]:
        """Spacers, and what has to follow them."""
        _ = machine
        shaft = (
            f"Steering shaft follows by {abs(self.by_mm):g} mm: enough of its slide left, its clamp bolt through the "
            "groove, wheels and steering wheel straight."
        )
        return [
            f"{millimetres(self.by_mm)} spacers between subframe and body, new bolts through them, longer by as much."
            if self.by_mm >= 0
            else f"{millimetres(-self.by_mm)} of spacer out from between subframe and body, bolts shorter by as much.",
            *([shaft] if self.carries_steering and self._steers(machine) else []),
            f"Exhaust, hoses and lines that run to it have {abs(self.by_mm):g} mm to follow without a pull.",
        ]  # fmt: skip

    def _steers(self, machine: Vehicle) -> bool:
        """Whether the axle is steered at all."""
        return machine.axle(self.axle).linkage.corner(RADIUS_MM, 0.0, 0.0).steering is not None
