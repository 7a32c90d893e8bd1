"""A damper must never be the bump stop: it may not close before the stop is solid."""

import math

from inclinum.core.car.limits.case import Case, each_side, worse_side
from inclinum.core.car.limits.finding import Finding
from inclinum.core.car.stance import Stance
from inclinum.core.car.vehicle import Axle
from inclinum.core.plan import millimetres

LEAST_RATIO = 0.1
"""Of damper to wheel: below it no packer at the axle helps a damper."""
WANTED_MM = 3.0
"""Stroke to keep in the damper with the stop solid; a shop's rule of thumb, not a maker's figure."""


def check(case: Case) -> list[Finding]:
    """One finding per axle whose dampers close before, or with, the solid stop."""
    found = []
    for name, axle, stance in each_side(case):
        solid = length_at_solid_stop(axle, stance)
        left = solid - axle.damper.closed_mm
        if left >= WANTED_MM:
            continue
        cures = []
        if axle.bump_stop.on_damper:
            height = case.stop_for(name, axle.damper.closed_mm + WANTED_MM)
            cures = case.taller_stop(
                f"{name.capitalize()} bump stops {millimetres(height)} high land first", name, height
            )
        else:
            ratio = float(stance.ride.damper_length.ratio(stance.bump_end))
            sooner = float(math.ceil((WANTED_MM - left) / max(ratio, LEAST_RATIO)) + 1)
            title = f"{name.capitalize()} bump stops packed out by {millimetres(sooner)} land first"
            cures = case.adding_more(title, name, "stop packed", sooner)
        found.append(
            Finding(
                id=f"damper_closed.{name}",
                axle=name,
                severity="stops" if left < 0 else "fix",
                what=f"{name.capitalize()} dampers close {'before' if left < 0 else 'with'} the bump stop",
                value=left,
                limit=WANTED_MM,
                margin=left - WANTED_MM,
                unit="mm",
                why="A damper that closes on itself is a hammer: it bends rods and breaks mounts.",
                source="closed length and stop from the damper's data or the tape",
                cures=tuple(cures),
            )
        )
    return worse_side(found)


def length_at_solid_stop(axle: Axle, stance: Stance) -> float:
    """Damper length when the stop is solid, wherever it sits, mm."""
    stop, room = axle.bump_stop, float(axle.bump_stop.stop().max_compression)
    if stop.contact_mm is not None:
        return stop.contact_mm - room
    return float(stance.ride.damper_at((stop.contact_travel_mm or 0.0) + room))
