"""Another kind of spring where an axle has one: it carries the same load at the reference height, at the same rate."""

from dataclasses import dataclass

from pydantic import ValidationError

from inclinum.core.car.archetypes.sprung import BIND_ROOM_MM, bag
from inclinum.core.car.stance import ride_corner
from inclinum.core.car.vehicle import Axle
from inclinum.core.document.errors import DomainError
from inclinum.core.springs.coil import STEEL_SHEAR_MODULUS
from inclinum.core.springs.fitted import (
    SPRINGS,
    Coil,
    CoilGroupData,
    ProgressiveCoilData,
    SpringData,
    SpringTable,
    StackCoil,
    StackData,
)

MEAN_DIAMETER_MM, SOFT_COILS, FIRM_COILS = 100.0, 2.0, 4.0
TENDER_ROOM_MM = 6.0
"""And how far it is from solid then, mm."""
TENDER_LEFT = 0.12
"""What a tender is long once the springs have crossed over, of the room at full bump."""
SEATED = ("coil_spring", "progressive_coil", "dual_rate_stack", "spring_table", "air_spring")
"""Kinds that stand between two seats and can replace each other there."""


def kinds_for(axle: Axle) -> tuple[str, ...]:
    """Kinds of spring that can stand where this axle has its own."""
    return SEATED if axle.spring.type in SEATED else (axle.spring.type,)


def respring(axle: Axle, kind: str) -> Axle:
    """The axle on another kind of spring, to begin with; its numbers are then for the shop to set.

    Raises:
        ValueError: no such kind, or it does not go where this axle has its spring.
    """
    if kind not in SPRINGS:
        raise DomainError(f"There is no spring “{kind}”; there are {', '.join(SPRINGS)}.")
    if kind not in kinds_for(axle):
        raise DomainError(
            f"{SPRINGS[kind].title} does not go where this suspension has its {axle.spring.title.lower()}."
        )
    if kind == axle.spring.type:
        return axle
    ride = ride_corner(axle)
    window, (low, high) = ride.window(), ride.search
    length = float(ride.spring_at(0.0))
    spring = axle.spring.spring()
    if length <= spring.solid_length:
        raise DomainError(
            f"{SPRINGS[kind].title} cannot be begun with where the {axle.spring.title.lower()} is pressed solid at the "
            "measured height: change that one first, or take it out."
        )
    force, rate = float(spring.force(length)), max(float(spring.stiffness(length)), 0.1)
    extended = float(ride.spring_at(low if window.droop_limit is None else window.droop_limit))
    closed = float(ride.spring_at(high if window.bump_limit is None else window.bump_limit))
    try:
        new = _KINDS[kind](Room(length, extended, closed), max(force, 50.0), rate)
    except ValidationError:
        raise DomainError(
            f"{SPRINGS[kind].title} cannot be begun with: at {length:.0f} mm it would carry {force:.0f} N at a rate of "
            f"{rate:.3g} N/mm, and none does. Put the axle's figures right, or the changes before it."
        ) from None
    return Axle.model_validate(axle.model_dump() | {"spring": new.model_dump()})


@dataclass(frozen=True)
class Room:
    """Between the seats at the reference height, at full droop and at full bump, mm."""

    length: float
    extended: float
    closed: float


def _coil(room: Room, force: float, rate: float) -> SpringData:
    return Coil(
        rate_n_per_mm=round(rate, 1),
        free_length_mm=round(room.length + force / round(rate, 1), 1),
        solid_length_mm=round(max(min(0.45 * room.length, room.closed - BIND_ROOM_MM), 0.2 * room.length), 1),
        active_coils=6,
    )


def _progressive(room: Room, force: float, rate: float) -> SpringData:
    """Two groups: the soft one closes at one and a half times the load."""
    length = room.length
    coils = SOFT_COILS + FIRM_COILS
    wire = round((8 * MEAN_DIAMETER_MM**3 * coils * rate / STEEL_SHEAR_MODULUS) ** 0.25, 2)
    # Each coil gives the same under the same force: deflection per coil at a force.
    per_coil = force / rate / coils
    free = length + force / rate
    fits = 0.9 * free / (1.5 * SOFT_COILS * per_coil + 4 * FIRM_COILS * per_coil)
    groups = tuple(
        CoilGroupData(
            mean_diameter_mm=MEAN_DIAMETER_MM,
            active_coils=n,
            clearance_per_coil_mm=round(share * per_coil * min(1.0, fits), 2),
        )
        for n, share in ((SOFT_COILS, 1.5), (FIRM_COILS, 4.0))
    )
    return ProgressiveCoilData(wire_mm=wire, groups=groups, free_length_mm=round(free, 1))


def _stack(room: Room, force: float, rate: float) -> SpringData:
    """A main spring 1.6 times as stiff as both together; they cross over a little beyond the reference height.

    What the tender is long by then stays of it at full bump, so it is a short one; the main has the rest.
    """
    length, extended = room.length, room.extended
    main, tender = 1.6 * rate, 1.6 * rate / 0.6
    free = max(length + force / rate, extended)
    gap = max(rate / tender * (extended - length + 0.2 * force / rate), 0.0)
    preload = max(free - extended, 0.0)
    left = TENDER_LEFT * room.closed
    tender_free = gap + left + rate / tender * preload

    def coil(stiffness: float, free_length: float, solid: float) -> StackCoil:
        return StackCoil(
            rate_n_per_mm=round(stiffness, 2), free_length_mm=round(free_length, 1), solid_length_mm=round(solid, 1)
        )

    return StackData(
        main=coil(main, free - tender_free, max(room.closed - left - BIND_ROOM_MM, 0.1 * room.closed)),
        tender=coil(tender, tender_free, max(min(left / 2, left - TENDER_ROOM_MM), 2.5)),
        preload_mm=round(preload, 1),
        gap_mm=round(gap, 1),
        length_extended_mm=round(min(extended, free), 1),
    )


def _table(room: Room, force: float, rate: float) -> SpringData:
    """Two rows, at the reference height and at full bump."""
    coil = _coil(room, force, rate)
    assert isinstance(coil, Coil)
    low = round(max(room.closed, coil.solid_length_mm), 1)
    at_bump = ((low, round(rate * (coil.free_length_mm - low), 1)),) if low < room.length - 1 else ()
    return SpringTable(
        free_length_mm=coil.free_length_mm, solid_length_mm=min(coil.solid_length_mm, low),
        rows=((round(room.length, 1), round(rate * (coil.free_length_mm - round(room.length, 1)), 1)), *at_bump),
    )  # fmt: skip


def _air(room: Room, force: float, rate: float) -> SpringData:
    return bag(room.length, rate, force)


_KINDS = {
    "coil_spring": _coil, "progressive_coil": _progressive, "dual_rate_stack": _stack, "spring_table": _table,
    "air_spring": _air,
}  # fmt: skip
