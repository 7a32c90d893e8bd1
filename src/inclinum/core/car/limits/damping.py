"""Another wheel rate on the same dampers: how much of critical they are then."""

import math

from inclinum.core.car.limits.case import Case, both_axles
from inclinum.core.car.limits.finding import Finding

WORTH_SAYING = 0.1
"""A share of the damping ratio that is felt."""


def check(case: Case) -> list[Finding]:
    """One line per axle whose dampers stay and whose wheel rate or load changes what they are worth."""
    found = []
    for name, axle, stance in both_axles(case):
        before = case.before.axle(name)
        if axle.damper != before.axle.damper or before.wheel_rate <= 0 or stance.wheel_rate <= 0:
            continue
        # ζ = c/(2·√(k·m)): the same damper against another rate and another mass.
        share = math.sqrt(before.wheel_rate * before.load / (stance.wheel_rate * stance.load))
        if abs(share - 1) < WORTH_SAYING:
            continue
        found.append(
            Finding(
                id=f"damping.{name}",
                axle=name,
                severity="know",
                what=f"The {name} dampers are worth {100 * share:.0f} % of what they were",
                value=100 * share,
                limit=100.0,
                margin=-abs(100 * share - 100),
                unit="%",
                why=f"The ride goes from {before.frequency:.2f} to {stance.frequency:.2f} Hz. On "
                + ("stiffer springs the same dampers let it swing on." if share < 1 else "softer ones they are harsh.")
                + " Clicks, other valving, or dampers to match.",
                source="damping ratio c/(2·√(k·m)), dampers and leverage as they were",
            )
        )
    return found
