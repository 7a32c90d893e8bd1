"""A complete rear unit: damper and spring in one, with its own preload, rubber and thread."""

from typing import Any, ClassVar, Literal, Self

from pydantic import Field, model_validator

from inclinum.core.bike.changes.base import BikeChange
from inclinum.core.bike.changes.rear_damper import lengths_about
from inclinum.core.bike.changes.rear_preload import HOOK_SPANNER, collar_figure, collar_step, zero_of
from inclinum.core.bike.machine import Bike, Bumper, RearDamper, RearSpring
from inclinum.core.document.errors import DomainError
from inclinum.core.document.names import PartNumber
from inclinum.core.plan import Search, named


class RearUnit(BikeChange):
    """The unit, or both of a pair, replaced as it comes from its maker."""

    title: ClassVar[str] = "Complete rear unit"
    place: ClassVar[str] = "Rear"
    known_as: ClassVar[tuple[str, ...]] = ("rear shock", "shorter unit", "shock with spring", "coil-over, rear")
    costs: ClassVar[str] = "length, stroke, spring and preload all at once"
    equation: ClassVar[str] = "eye to eye, stroke, spring and preload replaced; the axle follows the linkage's curve"
    source: ClassVar[str] = "derived here: virtual work on the plane linkage; Hooke's law"
    end: ClassVar = "rear"
    removes: ClassVar[tuple[str, ...]] = ("rear damper with its spring",)
    moves_over: ClassVar[tuple[str, ...]] = ("eye bearings and seals, if sound",)
    opens: ClassVar[frozenset[str]] = frozenset({"damper"})
    deep: ClassVar[int] = 3
    tools: ClassVar[tuple[str, ...]] = (HOOK_SPANNER,)
    sets_collar: ClassVar[bool] = True
    provides: ClassVar[str] = "rear unit"
    offered: ClassVar[bool] = False
    also_meets: ClassVar[frozenset[str]] = frozenset({"rear damper", "rear spring", "rear preload"})

    type: Literal["rear_unit"] = "rear_unit"
    extended_mm: float = Field(gt=80, le=700, title="Eye to eye, extended", json_schema_extra={"step": 1})
    stroke_mm: float = Field(gt=5, le=300, title="Stroke", json_schema_extra={"step": 1})
    spring: RearSpring
    preload_mm: float = Field(
        default=0, ge=0, le=100, title="Preload", json_schema_extra={"unit": "mm", "step": 0.5, "slider": [0, 40]}
    )
    gas_n: float = Field(default=0, ge=0, le=2000, title="Gas force")
    rubber_mm: float = Field(default=0, ge=0, le=80, title="Height of its rubber", description="none: 0")
    part: PartNumber = Field(default="", title="Part number of the unit")

    @model_validator(mode="after")
    def _rubber_fits(self) -> Self:
        if 0 < self.rubber_mm <= 1:
            raise DomainError("a bump rubber is higher than 1 mm: give 0 for none")
        if self.rubber_mm > self.stroke_mm:
            raise DomainError("the bump rubber is longer than the unit's stroke")
        return self

    @classmethod
    def start(cls, bike: Bike) -> Self:
        """The unit it has."""
        d = bike.damper
        return cls(
            extended_mm=d.extended_mm, stroke_mm=d.stroke_mm, spring=bike.spring.model_copy(update={"part": ""}),
            preload_mm=max(bike.preload_mm, 0.0), gas_n=d.gas_n, rubber_mm=d.bumper.height_mm if d.bumper else 0.0,
        )  # fmt: skip

    def apply(self, machine: Bike) -> Bike:
        """Damper, spring and preload. Its thread at zero and what hides in it are read when it is there."""
        old = machine.damper
        bumper = None
        if self.rubber_mm:
            stuff = {} if old.bumper is None else old.bumper.model_dump(exclude={"height_mm"})
            bumper = Bumper.model_validate(stuff | {"height_mm": self.rubber_mm})
        damper = RearDamper.model_validate(
            old.model_dump()
            | {
                "extended_mm": self.extended_mm, "stroke_mm": self.stroke_mm, "gas_n": self.gas_n,
                "bumper": bumper, "threads_at_zero_mm": None, "hidden_mm": None, "zero_found": "forced",
                "clevis": None if old.clevis is None else old.clevis.model_dump() | {"screwed_out_mm": 0.0},
            }
        )  # fmt: skip
        return machine.model_copy(update={"damper": damper, "spring": self.spring, "preload_mm": self.preload_mm})

    @property
    def size(self) -> float:
        """Eye to eye, mm."""
        return self.extended_mm

    def at(self, value: float) -> Self:
        """Of another length, mm: another unit than the one whose number stood there."""
        return self.model_copy(update={"extended_mm": value, "part": ""})

    def search(self, bike: Bike) -> Search | None:
        """As of a damper."""
        return lengths_about(bike)

    def met(self, need: str, value: Any) -> Self:
        """A unit of other lengths, on another spring, or set otherwise."""
        match need:
            case "rear damper":
                changed = {"extended_mm": value[0], "stroke_mm": value[1]}
            case "rear spring":
                changed = {"spring": value[0], "preload_mm": value[1]}
            case _:
                changed = {"preload_mm": value}
        # Another unit than the one whose number stood there, unless only its collar is turned.
        return self.model_copy(update=changed | ({} if need == "rear preload" else {"part": ""}))

    def figure(self, bike: Bike) -> str | None:
        """The collar."""
        return collar_figure(self.apply(bike))

    def summary(self) -> str:
        """Length, stroke, spring."""
        text = f"{self.extended_mm:g} mm eye to eye, stroke {self.stroke_mm:g}, {self.spring.rate_n_per_mm:g} N/mm"
        return named(self.part, f"{text}, preload {self.preload_mm:g} mm")

    def parts(self, machine: Bike) -> list[str]:
        """One or a pair."""
        return [f"{machine.damper.count} rear unit{'s' if machine.damper.count > 1 else ''}, {self.summary()}"]

    def steps(self, machine: Bike) -> list[str]:
        """Compare, end fittings, and the collar as the plan has it."""
        after = self.apply(machine)
        return [
            f"New unit beside the old one, both forced out, {self.summary()}: eye widths and bores as the mounts.",
            f"Which end is up, reservoir clear of frame and wheel over the whole travel; {zero_of(after)}.",
            collar_step(after),
        ]
