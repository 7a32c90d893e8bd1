"""Coils must not touch at full bump: measured at the solid stop, against 1 mm per active coil or 5 mm."""

from inclinum.core.car.limits.case import Case, each_side, worse_side
from inclinum.core.car.limits.finding import Finding
from inclinum.core.plan import millimetres
from inclinum.core.springs import bind_margin_wanted


def check(case: Case) -> list[Finding]:
    """One finding per axle whose springs come too near to solid."""
    found = []
    for name, axle, stance in each_side(case):
        if not axle.spring.is_coil:
            continue
        wanted = bind_margin_wanted(axle.coil.active_coils if axle.coil else None)
        solid = stance.ride.spring.solid_length
        room = float(stance.ride.spring_at(stance.bump_end)) - solid
        if room >= wanted:
            continue
        # The travel has to end where the spring still has the margin wanted.
        end = stance.ride.travel_of_spring(solid + wanted)
        cures = case.taking_less(name, "room", wanted - room)
        if end is not None and axle.bump_stop.on_damper:
            height = case.stop_for(name, float(stance.ride.damper_at(end)))
            title = f"{name.capitalize()} bump stops {millimetres(height)} high end the travel first"
            cures += case.taller_stop(title, name, height)
        found.append(
            Finding(
                id=f"coil_bind.{name}",
                axle=name,
                severity="stops" if room < 0 else "fix",
                what=f"{name.capitalize()} coils {'touch before' if room < 0 else 'nearly touch at'} full bump",
                value=room,
                limit=wanted,
                margin=room - wanted,
                unit="mm",
                why="A coil that goes solid is a metal stop: it breaks seats, springs and mounts.",
                source="1 mm per active coil or 5 mm, whichever is more; solid length from the spring's data",
                cures=tuple(cures),
            )
        )
    return worse_side(found)
