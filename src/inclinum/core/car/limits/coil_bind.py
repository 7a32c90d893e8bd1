"""Coils must not touch at full bump: measured at the solid stop, against 1 mm per active coil or 5 mm."""

import math

from inclinum.core.car.limits.case import Case, each_side, worse_side
from inclinum.core.car.limits.finding import Cure, Finding
from inclinum.core.document.names import AxleName
from inclinum.core.plan import millimetres
from inclinum.core.springs import bind_margin_wanted
from inclinum.core.springs.fitted import StackData


def check(case: Case) -> list[Finding]:
    """One finding per axle whose springs come too near to solid."""
    found = []
    for name, axle, stance in each_side(case):
        if not axle.spring.is_coil:
            continue
        wanted = bind_margin_wanted(axle.coil.active_coils if axle.coil else None)
        solid = stance.ride.spring.solid_length
        # Of a tender and a main coil the one that is nearer to solid.
        coil, room = min(axle.spring.coils_left(float(stance.ride.spring_at(stance.bump_end))), key=lambda c: c[1])
        if room >= wanted:
            continue
        tender, which = coil == "tender", f"{coil} " if coil else ""
        does = "touch before" if room < 0 else "nearly touch at"
        # The travel has to end where the spring still has the margin wanted.
        end = stance.ride.travel_of_spring(solid + wanted)
        cures = case.taking_less(name, "room", wanted - room)
        if tender:
            cures += ring_nearer(case, name, wanted - room)
        elif end is not None and axle.bump_stop.on_damper:
            height = case.stop_for(name, float(stance.ride.damper_at(end)))
            title = f"{name.capitalize()} bump stops {millimetres(height)} high end the travel first"
            cures += case.taller_stop(title, name, height)
        found.append(
            Finding(
                id=f"coil_bind.{name}",
                axle=name,
                severity="stops" if room < 0 and not tender else "fix",
                what=f"{name.capitalize()} {which}coils {does} full bump",
                value=room,
                limit=wanted,
                margin=room - wanted,
                unit="mm",
                why="It goes solid before the divider meets its ring: the rate steps there, coil on coil."
                if tender
                else "A coil that goes solid is a metal stop: it breaks seats, springs and mounts.",
                source="1 mm per active coil or 5 mm, whichever is more; solid length from the spring's data",
                cures=tuple(cures),
            )
        )
    return worse_side(found)


def ring_nearer(case: Case, name: AxleName, short: float) -> list[Cure]:
    """The ring so much nearer to the divider that the tender stays open by what is wanted; empty without one."""
    stance, spring = case.after.axle(name), case.after.vehicle.axle(name).spring
    if not isinstance(spring, StackData):
        return []
    stack = spring.stack()
    # As far as both coils work now: to the ring, to a solid coil, or to full bump. The ring has to be met earlier.
    at_bump = spring.zero_mm - float(stance.ride.spring_at(stance.bump_end))
    at = min(stack.crossover[0], at_bump)
    earlier = short / stack.share(stack.tender)
    gap = math.floor((at - earlier) * stack.share(stack.collar_side))
    if gap < 0:
        return []
    title = f"{name.capitalize()} rings {millimetres(gap)} from the divider: the rate steps there, on the ring"
    return case.providing(title, name, "ring", float(gap))
