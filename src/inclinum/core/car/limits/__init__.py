"""Landmarks and margins, one a module. A limit joins the product by being listed in :data:`LIMITS`."""

from collections.abc import Callable

from inclinum.core.car.limits import (
    aim,
    anti_roll,
    bonnet,
    bump_gap,
    claims,
    coil_bind,
    coupled,
    damper_closed,
    damping,
    eyes,
    flex_lines,
    ground_clearance,
    half_shafts,
    joint_angles,
    lamps_and_sensors,
    levelled,
    local,
    prop_shaft,
    sides,
    spring_loose,
    spring_seats,
    stated,
    stud_engagement,
    taken_over,
    thread_engagement,
    tipping,
    tyre_gaps,
    undone,
)
from inclinum.core.car.limits.assumed import told_as_assumed, unmeasured
from inclinum.core.car.limits.case import Case
from inclinum.core.car.limits.finding import Cure, Finding
from inclinum.core.car.stood import Stood, rises, stand_changed, stand_measured, stand_on
from inclinum.core.plan import Severity, worst_first

Check = Callable[[Case], list[Finding]]

HARDWARE: tuple[Check, ...] = (
    stud_engagement.check,
    bonnet.check,
    joint_angles.check,
    coil_bind.check,
    damper_closed.check,
    spring_loose.check,
    bump_gap.check,
    levelled.check,
    half_shafts.check,
    flex_lines.check,
    anti_roll.check,
    tyre_gaps.check,
    spring_seats.check,
    eyes.check,
    thread_engagement.check,
    prop_shaft.check,
    local.check,
)
"""Limits of parts and law: what a way to a height is judged by."""

LIMITS: tuple[Check, ...] = (
    *HARDWARE,
    aim.check,
    undone.check,
    taken_over.check,
    sides.check,
    coupled.check,
    ground_clearance.check,
    damping.check,
    tipping.check,
    lamps_and_sensors.check,
    stated.check,
    claims.check,
)


def findings(case: Case, checks: tuple[Check, ...] = LIMITS) -> list[Finding]:
    """All findings, worst first; within a severity the one furthest past its limit first."""
    return worst_first(told_as_assumed(case, finding) for check in checks for finding in check(case))


__all__ = [
    "HARDWARE",
    "LIMITS",
    "Case",
    "Cure",
    "Finding",
    "Severity",
    "Stood",
    "findings",
    "rises",
    "stand_changed",
    "stand_measured",
    "stand_on",
    "unmeasured",
]
