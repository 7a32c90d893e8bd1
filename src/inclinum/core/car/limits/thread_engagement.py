"""Threads that are screwed out or eaten up: bodies in their feet, arms in their ends, U-bolts round a thicker pack."""

from inclinum.core.car.changes.on_leaves import leg_wanted
from inclinum.core.car.limits.case import Case, both_axles
from inclinum.core.car.limits.finding import Finding
from inclinum.core.plan import Severity


def check(case: Case) -> list[Finding]:
    """One finding per thread of the plan that holds less than it has to, and per axle whose U-bolts are too short."""
    found = []
    for planned in case.changes:
        if not planned.on:
            continue
        name = planned.change.axle
        for thread in planned.change.threads():
            if thread.held_mm >= thread.least_mm:
                continue
            found.append(
                Finding(
                    id=f"thread.{name}.{planned.id}",
                    axle=name,
                    severity="stops",
                    what=f"{name.capitalize()}: too little thread holds {thread.what}",
                    value=thread.held_mm,
                    limit=thread.least_mm,
                    margin=thread.held_mm - thread.least_mm,
                    unit="mm",
                    why="It strips or pulls out under load. Turn it less, or take a part with a longer thread.",
                    source=thread.source,
                )
            )
    for name, axle, _ in both_axles(case):
        if axle.u_bolts is None or axle.u_bolts.leg_mm is None:
            continue
        leg, wanted = axle.u_bolts.leg_mm, leg_wanted(axle)
        if leg >= wanted:
            continue
        # Those it came with may always have stood so; those of the plan are ordered longer before it starts.
        came = case.before.vehicle.axle(name)
        same = came.u_bolts == axle.u_bolts and leg_wanted(came) == wanted
        severity: Severity = "know" if same else "stops"
        found.append(
            Finding(
                id=f"u_bolts.{name}",
                axle=name,
                severity=severity,
                what=f"{name.capitalize()} U-bolts are {wanted - leg:.0f} mm too short for what they go round",
                value=leg,
                limit=wanted,
                margin=leg - wanted,
                unit="mm",
                why="The nut needs its whole height and three threads beyond. U-bolts are never used twice: order "
                f"them with legs of {wanted:.0f} mm or more.",
                source="tube, seat, blocks, pack, plate, washer, nut and three threads",
            )
        )
    return found
