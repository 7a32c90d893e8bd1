"""Another kind of spring where an axle has one: it carries the same load at the reference height, at the same rate."""

from inclinum.core.archetypes.sprung import bag
from inclinum.core.fitted import (
    SPRINGS,
    Coil,
    CoilGroupData,
    ProgressiveCoilData,
    SpringData,
    StackCoil,
    StackData,
)
from inclinum.core.ride.stance import ride_corner
from inclinum.core.springs.coil import STEEL_SHEAR_MODULUS
from inclinum.core.vehicle import Axle

MEAN_DIAMETER_MM, SOFT_COILS, FIRM_COILS = 100.0, 2.0, 4.0
SEATED = ("coil_spring", "progressive_coil", "dual_rate_stack", "air_spring")
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
        raise ValueError(f"There is no spring “{kind}”; there are {', '.join(SPRINGS)}.")
    if kind not in kinds_for(axle):
        raise ValueError(
            f"{SPRINGS[kind].title} does not go where this suspension has its {axle.spring.title.lower()}."
        )
    if kind == axle.spring.type:
        return axle
    ride = ride_corner(axle)
    window, low = ride.window(), ride.search[0]
    length = float(ride.spring_at(0.0))
    spring = axle.spring.spring()
    force, rate = float(spring.force(length)), max(float(spring.stiffness(length)), 0.1)
    extended = float(ride.spring_at(low if window.droop_limit is None else window.droop_limit))
    new = _KINDS[kind](length, max(force, 50.0), rate, extended)
    return Axle.model_validate(axle.model_dump() | {"spring": new.model_dump()})


def _coil(length: float, force: float, rate: float, _: float) -> SpringData:
    return Coil(
        rate_n_per_mm=round(rate, 1),
        free_length_mm=round(length + force / round(rate, 1), 1),
        solid_length_mm=round(0.45 * length, 1),
        active_coils=6,
    )


def _progressive(length: float, force: float, rate: float, _: float) -> SpringData:
    """Two groups: the soft one closes at one and a half times the load."""
    coils = SOFT_COILS + FIRM_COILS
    wire = round((8 * MEAN_DIAMETER_MM**3 * coils * rate / STEEL_SHEAR_MODULUS) ** 0.25, 2)
    # Each coil gives the same under the same force: deflection per coil at a force.
    per_coil = force / rate / coils
    free = length + force / rate
    room = 0.9 * free / (1.5 * SOFT_COILS * per_coil + 4 * FIRM_COILS * per_coil)
    groups = tuple(
        CoilGroupData(
            mean_diameter_mm=MEAN_DIAMETER_MM,
            active_coils=n,
            clearance_per_coil_mm=round(share * per_coil * min(1.0, room), 2),
        )
        for n, share in ((SOFT_COILS, 1.5), (FIRM_COILS, 4.0))
    )
    return ProgressiveCoilData(wire_mm=wire, groups=groups, free_length_mm=round(free, 1))


def _stack(length: float, force: float, rate: float, extended: float) -> SpringData:
    """A main spring 1.6 times as stiff as both together; they cross over a little beyond the reference height."""
    main, tender = 1.6 * rate, 1.6 * rate / 0.6
    free = max(length + force / rate, extended)
    gap = rate / tender * (extended - length + 0.2 * force / rate)

    def coil(stiffness: float, share: float) -> StackCoil:
        return StackCoil(
            rate_n_per_mm=round(stiffness, 2),
            free_length_mm=round(share * free, 1),
            solid_length_mm=round(share * free / 3, 1),
        )

    return StackData(
        main=coil(main, 0.6),
        tender=coil(tender, 0.4),
        preload_mm=round(max(free - extended, 0.0), 1),
        gap_mm=round(max(gap, 0.0), 1),
        length_extended_mm=round(min(extended, free), 1),
    )


def _air(length: float, force: float, rate: float, _: float) -> SpringData:
    return bag(length, rate, force)


_KINDS = {"coil_spring": _coil, "progressive_coil": _progressive, "dual_rate_stack": _stack, "air_spring": _air}
