"""A damper must never be the bump stop: it may not close before the stop is solid."""

from inclinum.core.changes import BumpStopSwap
from inclinum.core.changes.base import millimetres
from inclinum.core.limits.case import Case, changed_axles
from inclinum.core.limits.finding import Finding

WANTED_MM = 3.0
"""Stroke to keep in the damper with the stop solid; a shop's rule of thumb, not a maker's figure."""


def check(case: Case) -> list[Finding]:
    """One finding per axle whose dampers close before, or with, the solid stop."""
    found = []
    for name, axle, _ in changed_axles(case):
        solid = axle.bump_stop.contact_mm - axle.bump_stop.max_compression_mm
        left = solid - axle.damper.closed_mm
        if left >= WANTED_MM:
            continue
        height = case.stop_for(name, axle.damper.closed_mm + WANTED_MM)
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
                cures=(
                    case.adding(
                        f"{name.capitalize()} bump stops {millimetres(height)} high land first",
                        BumpStopSwap(axle=name, height_mm=height),
                    ),
                ),
            )
        )
    return found
